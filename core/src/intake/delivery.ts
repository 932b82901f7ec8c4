/** Several files brought in at once: the manuscript, and what belongs with it, each put where it belongs. */
import {
  countWords,
  done,
  foreignPicture,
  isManuscriptName,
  pictureInfo,
  refused,
  type Finding,
  type Outcome,
  type PictureInfo,
} from '../base';
import { schema, type Book, type Picture, type Section } from '../book';
import { authorsLine } from '../record';
import { particularsIn, withParticulars, type Particulars } from './particulars';
import { paragraphsOf, type ConvertPicture, type RawManuscript } from './raw';
import { decodeText, formatOf, readRaw } from './readers';
import { readManuscript, type Intake, type ReadOptions } from './read';

export interface DeliveredFile {
  name: string;
  bytes: Uint8Array;
}
export interface Delivery extends Intake {
  /** Name of the file that is the manuscript. */
  manuscript: string;
}

type Role = 'cover' | 'portrait' | 'device';

/**
 * Reads what was brought in together. Errors: `intake/no-manuscript`, and those of `readManuscript` for the file that is
 * the manuscript; every other file that was not understood is a finding.
 */
export async function readDelivery(
  files: readonly DeliveredFile[],
  options: ReadOptions = {},
): Promise<Outcome<Delivery>> {
  const pictures = files.filter((f) => pictureInfo(f.bytes) ?? foreignPicture(f.bytes));
  const texts = files.filter(
    (f) => !pictures.includes(f) && (isManuscriptName(f.name) || files.length === 1),
  );
  const others = files.filter((f) => !pictures.includes(f) && !texts.includes(f));
  const { manuscript, sheets, spare } = await toldApart(texts);
  if (!manuscript)
    return refused(
      'intake/no-manuscript',
      'There is no manuscript among these files. Add it and drop them again.',
    );
  const read = await readManuscript(manuscript.bytes, manuscript.name, options);
  if (!read.ok) return read;
  let { book } = read.value;
  const findings: Finding[] = [];
  for (const { name, sheet } of sheets) {
    const filled = withParticulars(book, sheet, name);
    book = filled.book;
    findings.push(...filled.findings);
  }
  const placed = await withPictures(book, read.value.files, pictures, options.convert);
  for (const f of [...spare, ...others])
    findings.push({
      rule: 'intake/not-understood',
      severity: 'caution',
      message: `${f.name} was not used: ${spare.includes(f) ? `the manuscript is ${manuscript.name}, and this file isn’t a sheet of particulars` : 'it is neither a text nor a picture'}.`,
    });
  return done({
    ...read.value,
    ...placed,
    manuscript: manuscript.name,
    findings: [...findings, ...placed.findings, ...read.value.findings],
  });
}

/** The manuscript has the most words of those files that are no sheets of particulars. */
async function toldApart(texts: readonly DeliveredFile[]): Promise<{
  manuscript: DeliveredFile | undefined;
  sheets: { name: string; sheet: Particulars }[];
  spare: DeliveredFile[];
}> {
  if (texts.length < 2) return { manuscript: texts[0], sheets: [], spare: [] };
  const sheets: { name: string; sheet: Particulars; file: DeliveredFile }[] = [];
  let best: { file: DeliveredFile; words: number } | null = null;
  for (const file of texts) {
    const raw = await readRaw(file.bytes, file.name, { pictures: false });
    const text = raw.ok ? textOf(raw.value) : '';
    // A list is a list where it is typed as plain text too, which for a manuscript would be one paragraph.
    const typed = /^(?:text|markdown)$/.test(formatOf(file.bytes, file.name));
    const sheet = particularsIn(typed ? decodeText(file.bytes) : text);
    if (sheet) sheets.push({ name: file.name, sheet, file });
    // The PDF beside a manuscript is a cover or an earlier printing.
    const words = countWords(text) * (formatOf(file.bytes, file.name) === 'pdf' ? 0.1 : 1);
    if (!sheet && (!best || words > best.words)) best = { file, words };
  }
  const manuscript = best?.file ?? texts[0];
  const used = sheets.filter((s) => s.file !== manuscript);
  return {
    manuscript,
    sheets: used,
    spare: texts.filter((t) => t !== manuscript && !used.some((s) => s.file === t)),
  };
}

/** Lines of a text; the cells of a row are one line, so that a table of particulars reads like a list of them. */
const textOf = (m: RawManuscript): string =>
  m.blocks
    .flatMap((b) =>
      b.kind === 'paragraph'
        ? [b.text]
        : b.rows.map(([head = [], ...rest]) => {
            const cell = (ps: typeof head): string =>
              ps
                .flatMap(paragraphsOf)
                .map((p) => p.text)
                .join(' ')
                .trim();
            return [cell(head).replace(/:$/, ''), rest.map(cell).join(' ')].join(': ');
          }),
    )
    .join('\n');

const ROLES: readonly [RegExp, Role][] = [
  [/portrait|author|head-?shot|photo(?!graph of)|autor|auteur|porträt|foto/i, 'portrait'],
  [/device|logo|imprint|press|publisher|signet|verlag|éditeur|editorial|colophon/i, 'device'],
  [/cover|front|jacket|umschlag|titelbild|couverture|cubierta|portada|copertina|omslag/i, 'cover'],
];

/** What a picture beside a manuscript is, by its name, else by its shape; null where neither says. */
export function roleOf(
  name: string,
  info: PictureInfo,
  taken: ReadonlySet<Role>,
): { role: Role; by: string } | null {
  const named = ROLES.find(([pattern, role]) => !taken.has(role) && pattern.test(name.replace(/\.\w+$/, '')));
  if (named) return { role: named[1], by: 'its name' };
  const tall = info.height / info.width;
  // Covers of novels and of most other books, common practice: 1.25 to 1.8 times as high as wide, and large.
  return !taken.has('cover') && tall >= 1.25 && tall <= 1.8 && info.height >= 900
    ? { role: 'cover', by: 'its shape' }
    : null;
}

const WHERE: Record<Role, string> = {
  cover: 'the cover',
  portrait: 'the author’s portrait',
  device: 'the imprint’s device',
};

async function withPictures(
  before: Book,
  known: ReadonlyMap<string, Uint8Array>,
  delivered: readonly DeliveredFile[],
  convert?: ConvertPicture,
): Promise<{ book: Book; files: Map<string, Uint8Array>; findings: Finding[] }> {
  const files = new Map(known);
  const findings: Finding[] = [];
  const roles = new Map<Role, string>();
  const added: Picture[] = [];
  // Those that say what they are go first, so that no shape takes their place.
  const named = (f: DeliveredFile): number => (ROLES.some(([p]) => p.test(f.name)) ? 0 : 1);
  for (const f of [...delivered].sort((a, b) => named(a) - named(b))) {
    const bytes = foreignPicture(f.bytes) ? ((await convert?.(f.bytes)) ?? null) : f.bytes;
    const info = bytes && pictureInfo(bytes);
    const found = info && roleOf(f.name, info, new Set(roles.keys()));
    if (!bytes || !info || !found) {
      findings.push({
        rule: 'intake/not-understood',
        severity: 'caution',
        message: info
          ? `${f.name} was not used: neither its name nor its shape says what it is for.`
          : `${f.name} was not used: the picture could not be opened.`,
        remedy: 'Add it in the manuscript, in Record or in Design.',
      });
      continue;
    }
    const id = `d${added.length + 1}`;
    roles.set(found.role, id);
    added.push({ id, name: f.name, ...info });
    files.set(id, bytes);
    findings.push({
      rule: 'intake/taken-in',
      severity: 'note',
      message: `${f.name} was taken for ${WHERE[found.role]}, by ${found.by}.`,
    });
  }
  const portrait = roles.get('portrait') ?? null;
  const book: Book = {
    ...before,
    pictures: [...before.pictures, ...added],
    record: { ...before.record, cover: roles.get('cover') ?? before.record.cover },
    cover: { ...before.cover, portrait, device: roles.get('device') ?? null },
    sections: portrait
      ? before.sections.map((s) => (s.kind === 'about-author' ? withPortrait(s, portrait, before) : s))
      : before.sections,
  };
  return { book, files, findings };
}

/** The page about the author with the portrait above its text, unless it has a picture already. */
function withPortrait(s: Section, picture: string, book: Book): Section {
  let pictured = false;
  s.content.forEach((b) => {
    pictured ||= b.type.name === 'figure';
  });
  if (pictured || s.content.textContent.trim() === '') return s;
  const author = authorsLine(book.record);
  const alt = author ? `Portrait of ${author}` : 'Portrait of the author';
  const figure = schema.node('figure', { id: `${s.id}-portrait`, picture, alt, width: 40 });
  return { ...s, content: s.content.copy(s.content.content.addToStart(figure)) };
}
