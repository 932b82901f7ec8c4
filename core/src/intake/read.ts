/** A manuscript's bytes to a book, with everything that was decided on the way and why. */
import { inLetters, countWords, digestOfBytes, done, pictureInfo, type Finding, type Outcome } from '../base';
import { newBook, type Arrival, type Book, type Picture, type Section } from '../book';
import { contributor, recordSchema } from '../record';
import { Assembler, type SectionGuess, type SetAside } from './assembly';
import { accountOf } from './account';
import { formatOf, readRaw, withoutTrackedChanges } from './readers';
import type { TidyCount } from './assembly';
import { fromCopyrightPage } from './particulars';
import { withFamiliarPictures } from './pictures';
import type { ConvertPicture, RawComment, RawManuscript, RawParagraph } from './raw';
import { aboutComments, aboutDropped, aboutFormulas, aboutUnderlining } from './told';
import { recogniseHeadings, withoutFurniture, withoutTypewriter, type TitleBlock } from './recognition';
import { sourceText } from './source';
import { decodeText } from './readers';

export interface Intake {
  book: Book;
  /** Files of the book's pictures by id. */
  files: Map<string, Uint8Array>;
  guesses: SectionGuess[];
  wordsIn: number;
  wordsOut: number;
  setAside: SetAside[];
  tidied: TidyCount;
  findings: Finding[];
  comments: readonly RawComment[];
}

/** Bytes of a manuscript that is taken in; larger ones are refused before they are read. */
export const MOST_BYTES = 200_000_000;
const MANY_HEADINGS = 1_000;

export interface ReadOptions {
  /** Turns pictures that no book carries into such. */
  convert?: ConvertPicture;
  /** Whether changes that a word file tracks are taken for made, or taken back. */
  changes?: 'accept' | 'reject';
}

/**
 * `name` is the file's, for what bytes cannot say. Errors: `intake/too-large` and those of the formats' readers.
 */
export async function readManuscript(
  given: Uint8Array,
  name = '',
  { convert, changes = 'accept' }: ReadOptions = {},
): Promise<Outcome<Intake>> {
  const bytes = changes === 'reject' ? withoutTrackedChanges(given, name) : given;
  if (bytes.length > MOST_BYTES)
    return {
      ok: false,
      refusal: {
        code: 'intake/too-large',
        message: `The file is larger than ${MOST_BYTES / 1e6} MB. Make the pictures smaller, or import the text without them.`,
      },
    };
  const read = await readRaw(bytes, name, { convert });
  if (!read.ok) return read;
  const source = sourceText(bytes, formatOf(bytes, name), decodeText);
  const whole = await withFamiliarPictures(read.value, convert);
  if (bytes !== given) whole.dropped.takenBack = 1;
  return done(toBook(whole, source, digestOfBytes(given)));
}

/** `source`: the file's text by another way than its reader's; null where there is none. `id`: the book's own. */
function toBook(read: RawManuscript, source: string | null = null, id = 'book'): Intake {
  const { blocks, notes, removed, joined } = withoutFurniture(withoutTypewriter(read));
  const m: RawManuscript = { ...read, blocks, notes };
  const found = recogniseHeadings(m.blocks);
  const a = new Assembler(m, found);
  a.run();
  const { setAside, tidied } = a.nodes;
  for (const r of removed) a.nodes.aside(r.rule, r.text, a.sectionAt(r.before - 1));
  if (joined > 0) tidied['paragraphs-joined'] = joined;
  const sections = a.guesses.map((g) => g.section);
  const record = recordSchema.parse({ language: languageTag(m.language), ...aboutBook(a.title, m) });
  const findings: Finding[] = [...m.cautions.map((c) => ({ ...c, severity: 'caution' as const }))];
  const chapters = found.headings.filter((h) => h.subhead === 0 && h.kind !== 'contents').length;
  if (chapters === 0)
    findings.push({
      rule: 'intake/no-headings',
      severity: 'caution',
      message: 'No headings were found: the whole text is one chapter.',
      remedy: 'Split it in the running order.',
    });
  if (chapters > MANY_HEADINGS)
    findings.push({
      rule: 'intake/many-headings',
      severity: 'caution',
      message: `${chapters} headings were found, more than a book has chapters: perhaps a style of the text was taken for a heading.`,
    });
  findings.push(
    ...aboutDropped(m.dropped),
    ...aboutComments(m.comments),
    ...aboutFormulas(sections),
    ...aboutUnderlining(sections),
  );
  const pictures: Picture[] = [];
  const files = new Map<string, Uint8Array>();
  for (const f of m.pictures) {
    const info = pictureInfo(f.bytes);
    if (!info) continue;
    pictures.push({
      id: f.id,
      name: f.name,
      type: info.type,
      width: Math.max(1, info.width),
      height: Math.max(1, info.height),
    });
    files.set(f.id, f.bytes);
  }
  findings.push(...a.numbers.findings);
  const plain = { ...newBook(id, record, sections, pictures), indexSee: m.indexSee };
  const told = fromCopyrightPage({ ...plain, numbering: { ...plain.numbering, count: a.numbers.count } });
  findings.push(...told.findings);
  const cover = pictures.some((p) => p.id === m.cover) ? m.cover : null;
  const book = { ...told.book, record: { ...told.book.record, cover } };
  const account = accountOf(source, wordsOfRaw(read), sections, setAside, a.onTitlePage);
  return {
    book,
    files,
    guesses: a.guesses,
    wordsIn: account.wordsIn,
    wordsOut: account.wordsOut,
    setAside: account.setAside,
    tidied,
    comments: m.comments,
    findings: [...findings, ...account.findings],
  };
}

/** The account of an intake, as it is kept beside the title. */
export function arrivalOf(i: Intake, name: string): Arrival {
  let notes = 0;
  let links = 0;
  for (const s of i.book.sections)
    s.content.descendants((n) => {
      if (n.type.name === 'note') notes++;
      if (n.marks.some((m) => m.type.name === 'link')) links++;
    });
  return {
    version: 1,
    name,
    wordsIn: i.wordsIn,
    wordsOut: i.wordsOut,
    pictures: i.book.pictures.length,
    notes,
    links,
    rows: i.guesses.map(({ section, typed, reason, score, look }) => ({
      section: section.id,
      typed: typed || firstWords(section),
      reason,
      score,
      look,
    })),
    setAside: i.setAside.map((s) => ({ ...s, back: false })),
    tidied: i.tidied,
    comments: [...i.comments],
    source: [],
    findings: i.findings.map(({ rule, severity, message, remedy }) => ({ rule, severity, message, remedy })),
  };
}

const firstWords = (s: Section): string =>
  s.content.textBetween(0, Math.min(200, s.content.content.size), ' ', ' ').trim().slice(0, 90);

function wordsOfRaw(m: RawManuscript): number {
  const of = (p: RawParagraph): number =>
    countWords(p.inline.map((n) => (n.isText ? n.text : n.type.name === 'lineBreak' ? ' ' : '')).join(''));
  let n = 0;
  for (const b of m.blocks)
    n += b.kind === 'paragraph' ? of(b) : b.rows.flat(2).reduce((k, p) => k + of(p), 0);
  for (const note of m.notes) n += note.paragraphs.reduce((k, p) => k + of(p), 0);
  return n;
}

/** "en_GB" → "en-GB"; what no one can read → "en". */
function languageTag(tag: string): string {
  try {
    return Intl.getCanonicalLocales(tag.replace('_', '-'))[0] ?? 'en';
  } catch {
    return 'en';
  }
}

/** Title, subtitle and authors: from the title page, else from the file's properties. */
function aboutBook(
  page: TitleBlock | null,
  m: RawManuscript,
): Pick<Book['record'], 'title' | 'subtitle' | 'contributors'> {
  const own = /^(unknown|user|admin\w*|un-named|python-docx)$/i.test(m.author) ? [] : [m.author];
  const names = page?.authors.length ? page.authors : own.filter(Boolean);
  return {
    title: inLetters(page?.title ?? '') || m.title,
    subtitle: inLetters(page?.subtitle ?? ''),
    contributors: names.map((name) => author(inLetters(name))),
  };
}

const author = (name: string) => contributor(name, 'author');
