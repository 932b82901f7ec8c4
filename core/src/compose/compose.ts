/**
 * Composes an edition: every section alone, then the book around them: sides and blanks, roman and arabic labels, heads
 * and folios, contents with the labels they point to, until nothing moves any more.
 */
import { inSentence, refused, done, unsetShare, type Outcome } from '../base';
import {
  facesAsked,
  isPictured,
  kindRule,
  printOf,
  sectionsOf,
  type Book,
  type PrintEdition,
  type Section,
} from '../book';
import { FAMILIES, interiorOf, measureOf, numberingWith, rowsOf, trimOf } from '../design';
import {
  captionsListedBy,
  captionsOf,
  contentsOf,
  headingsOf,
  indexOf,
  isFromRecord,
  makesIndex,
  recordContent,
  type ContentsEntry,
  type Heading,
  type IndexEntry,
} from '../order';
import { authorsLine } from '../record';
import { loadHyphenator, type FamilyFiles } from '../type';
import { ComposeCache, type TypeSource } from './cache';
import type { Composition, Page, PageSetting, Side } from './sheets';
import { BLEED } from './blocks';
import type { Flow } from './lines';
import { furnitureOf, type HeadWords } from './furniture';
import { contentsBlocks } from './blocks';
import { indexBlocks, IndexFinder } from './blocks';
import { BookWords } from './bookwords';
import { Labels } from './labels';
import { copyrightPage, halfTitle, partPage, romanFolio, titlePage } from './blocks';
import { openingBlock, solid } from './blocks';
import { picturePagesOf, type PictureSetting } from './picturepages';
import { reportOf } from './report';
import type { KeptParagraphs } from './blocks';
import { pagesOf, textFlow } from './section';
import type { SectionPage, SectionPages } from './sectionpages';
import { Setter } from './blocks';
import { EMPTY_SHEET } from './sheets';

export interface ComposeOptions {
  cache?: ComposeCache;
  /** Called between sections with the share done; answers false to stop. */
  progress?: (share: number) => boolean;
  exceptions?: readonly string[];
  /**
   * Called for every page as soon as it stands, while others are still to be set. A page may be replaced in a later
   * round; the composition's own pages are the ones that count.
   */
  onPage?: (page: Page, setting: PageSetting) => void;
  /** Sets a part of the book alone: a specimen of a design, long before the whole book can stand. */
  only?: Only;
  /** Awaited between sections, so that others get their turn on the thread; answers false to stop. */
  breathe?: () => Promise<boolean>;
}

/** The sections to be set; the others stay blank and take as many pages as they are said to have. */
export interface Only {
  sections: ReadonlySet<string>;
  pages: ReadonlyMap<string, number>;
}

/** What an entry of the contents points to: a subhead's block, or the section. */
const targetOf = (e: ContentsEntry): string => e.block ?? e.section.id;

/** Contents and labels settle in two rounds in all but odd books; more than this is refused a further change. */
const MAX_ROUNDS = 5;

/** Errors: `compose/edition`, `compose/trim`, `compose/margins`, `compose/script`, `compose/empty`, `compose/stopped`. */
export async function compose(
  book: Book,
  editionId: string,
  source: TypeSource,
  options: ComposeOptions = {},
): Promise<Outcome<Composition>> {
  const edition = printOf(book, editionId);
  if (!edition) return refused('compose/edition', `There is no print edition “${editionId}” in this book.`);
  const trim = trimOf(edition.trim);
  if (!trim) return refused('compose/trim', `“${edition.trim}” is not a trim. Write it like 5.5 x 8.5 in.`);
  const sections = sectionsOf(book, edition.id);
  if (sections.length === 0)
    return refused('compose/empty', `The ${inSentence(edition.name)} has no sections yet.`);
  if (isMostlyUnset(sections))
    return refused(
      'compose/script',
      'Most of this book is in a script that Pagina can’t typeset yet (right-to-left, or East and South-East Asian). The reflowable ebook can be made.',
    );
  const cache = options.cache ?? new ComposeCache();
  const language = book.record.language;
  const hyphenate = await loadHyphenator(language, options.exceptions);
  const interior = interiorOf(edition, trim);
  if (measureOf(interior) < interior.text.size * 4)
    return refused('compose/margins', 'The margins leave no room for text on this trim. Make them narrower.');
  const families = {
    text: await source.family(interior.text.family),
    display: await source.family(interior.text.display),
  };
  const setter = cache.setter(
    `${JSON.stringify(interior)}|${language}`,
    () => new Setter(interior, cache.typeCase(source), families, language, hyphenate),
  );
  const asked = new Map<string, FamilyFiles>();
  // One that Pagina doesn’t have is set in that of the design.
  for (const name of facesAsked(sections.map((s) => s.content)))
    if (FAMILIES.some((f) => f.name === name)) asked.set(name, await source.family(name));
  const job = new Job(book, edition, sections, setter, asked, cache, options);
  return job.run();
}

/** A word or a page in another script is set as boxes and reported; a whole book of boxes is refused. */
function isMostlyUnset(sections: readonly Section[]): boolean {
  let letters = 0;
  let unset = 0;
  for (const s of sections) {
    const share = unsetShare(`${s.title} ${s.content.textContent}`);
    letters += share.letters;
    unset += share.unset;
  }
  return unset > letters / 2;
}

class Job {
  private readonly headings: Map<string, Heading>;
  /** What the contents lists, and the subheads among it by their blocks. */
  private readonly entries: ContentsEntry[];
  /** What lists of figures and tables list; empty where the book has no such page. */
  private readonly captioned: Record<'figures' | 'tables', readonly ContentsEntry[]>;
  private readonly words: BookWords;
  /** Terms of an index that makes itself; null where the book has none. */
  private readonly index: readonly IndexEntry[] | null;
  /** Blocks whose pages are asked for. */
  private readonly wanted: ReadonlySet<string>;
  private readonly pictures;
  private readonly pages = new Map<string, Page>();
  private readonly setting: PageSetting;

  constructor(
    private readonly book: Book,
    private readonly edition: PrintEdition,
    private readonly sections: readonly Section[],
    private readonly s: Setter,
    /** Typefaces that boxes of words ask for. */
    private readonly asked: ReadonlyMap<string, FamilyFiles>,
    private readonly cache: ComposeCache,
    private readonly options: ComposeOptions,
  ) {
    const naming = { ...book, numbering: numberingWith(book.numbering, s.interior) };
    this.headings = headingsOf(sections, naming, edition);
    this.entries = contentsOf(sections, naming, edition.contents.levels);
    this.index = sections.some(makesIndex) ? indexOf(sections, book) : null;
    const captionsFor = (of: 'figures' | 'tables'): ContentsEntry[] =>
      sections.some((x) => captionsListedBy(x) === of) ? captionsOf(sections, naming, of) : [];
    this.captioned = { figures: captionsFor('figures'), tables: captionsFor('tables') };
    this.words = new BookWords(sections, book, naming, s.interior, this.headings);
    const listed = [...this.entries, ...this.captioned.figures, ...this.captioned.tables];
    this.wanted = new Set([...listed.flatMap((e) => e.block ?? []), ...this.words.blocksAsked()]);
    this.setting = { interior: s.interior, words: s.faces.words };
    this.pictures = new Map(book.pictures.map((p) => [p.id, p]));
  }

  async run(): Promise<Outcome<Composition>> {
    let labels = new Labels();
    for (let round = 0; ; round++) {
      const made = await this.round(labels, round === 0);
      if (!made) return refused('compose/stopped', 'The work was stopped.');
      const settled = labels.equals(made.labels);
      labels = made.labels;
      if (settled || round === MAX_ROUNDS || !this.sections.some((x) => this.needsLabels(x)))
        return done(made.composition);
    }
  }

  /** Front matter and parts start as their kind does; chapters, and what stands like them, as the interior says. */
  private starts(section: Section): 'recto' | 'verso' | 'any' {
    if (section.starts !== 'usual') return section.starts;
    const rule = kindRule(section.kind);
    if (rule.starts === 'any' || section.matter === 'front' || section.kind === 'part') return rule.starts;
    return this.s.interior.opening.start;
  }

  private heading(s: Section): Heading {
    return this.headings.get(s.id) as Heading;
  }

  /** Whether its page lists places with their folios. */
  private lists(section: Section): boolean {
    return section.kind === 'contents' || captionsListedBy(section) !== null || makesIndex(section);
  }

  private needsLabels(section: Section): boolean {
    return this.lists(section) || this.words.pagesAsked(section).length > 0;
  }

  private entriesOn(section: Section): readonly ContentsEntry[] {
    const of = captionsListedBy(section);
    return of ? this.captioned[of] : this.entries;
  }

  private flowOf(section: Section, labels: Labels, kept: KeptParagraphs | null): Flow {
    const { s, book, edition } = this;
    const words = this.words.with(labels);
    const bare = (blocks: Flow['blocks']): Flow => ({
      section: section.id,
      blocks,
      notes: new Map(),
      called: new Set(),
    });
    if (isFromRecord(section, book.record)) {
      if (section.kind === 'half-title') return bare(halfTitle(s, section, book.record));
      if (section.kind === 'title-page') return bare(titlePage(s, section, book.record));
      if (section.kind === 'copyright-page') return bare(copyrightPage(s, section, book.record, edition));
      const written = { ...section, content: recordContent(section, book.record) };
      return textFlow(s, written, this.heading(section), this.pictures, {
        ...this.words.notesOf(section),
        words,
        kept,
      });
    }
    if (this.lists(section)) {
      const opening = openingBlock(s, section.id, this.heading(section), 2);
      if (makesIndex(section)) {
        const index = indexBlocks(
          s,
          section,
          this.index ?? [],
          (key) => labels.first(key) ?? '',
          opening?.best.rows ?? 0,
        );
        return bare(opening ? [opening, ...index] : index);
      }
      const entries = this.entriesOn(section).filter((e) => e.section.id !== section.id);
      const blocks = contentsBlocks(
        s,
        section,
        entries,
        (e) => labels.first(targetOf(e)) ?? labels.first(e.section.id) ?? '0',
      );
      return bare(opening ? [opening, ...blocks] : blocks);
    }
    const flow = textFlow(s, section, this.heading(section), this.pictures, {
      ...this.words.notesOf(section),
      words,
      kept,
    });
    const total = rowsOf(s.interior);
    const lowered = (rows: number): Flow => ({
      ...flow,
      blocks: [solid(section.id, rows, []), ...flow.blocks],
    });
    switch (section.kind) {
      case 'part':
        return {
          ...flow,
          blocks: [
            ...partPage(s, section, this.heading(section)),
            ...flow.blocks.filter((b) => b.best.items.length > 0 || b.kind === 'flush'),
          ],
        };
      case 'dedication':
      case 'epigraph':
        // A few words on a page of their own stand above its middle.
        return lowered(Math.round(total * 0.28));
      case 'copyright-page': {
        const used = flow.blocks.reduce((n, b) => n + b.best.rows + b.before, 0);
        return used < total ? lowered(total - used) : flow;
      }
      default:
        return flow;
    }
  }

  private sectionPages(section: Section, side: Side, labels: Labels): SectionPages {
    const { notes, gathered } = this.words.notesOf(section);
    const depends = isFromRecord(section, this.book.record)
      ? [this.book.record, this.edition]
      : this.lists(section)
        ? [
            labels.all(),
            this.index,
            this.entriesOn(section).map((e) => [targetOf(e), e.depth, e.heading, e.section.kind]),
          ]
        : gathered.map((g) => [g.label, g.notes.map(({ note, mark }) => [mark, note.toJSON() as unknown])]);
    const pictures =
      section.content.textContent === '' || this.book.pictures.length > 0
        ? this.book.pictures.map((p) => [p.id, p.width, p.height])
        : [];
    const said = gathered.length > 0 ? this.sections : [section];
    const key = JSON.stringify([
      side,
      section.kind,
      this.heading(section),
      notes,
      depends,
      said.map((x) => this.words.in(x, labels)),
      pictures,
      this.s.key,
    ]);
    return this.cache.section(`${this.edition.id}/${section.id}`, section, key, this.s, (kept) =>
      isPictured(section.content)
        ? picturePagesOf(this.pictureSetting(labels), section, side)
        : pagesOf(this.s, this.flowOf(section, labels, kept), side, kept),
    );
  }

  private pictureSetting(labels: Labels): PictureSetting {
    const { s, pictures, asked: families } = this;
    return { s, pictures, families, words: this.words.with(labels) };
  }

  private async round(
    labels: Labels,
    first: boolean,
  ): Promise<{ composition: Composition; labels: Labels } | null> {
    const pages: Page[] = [];
    const firsts = new Map<string, number>();
    const found = new Labels();
    const parts: SectionPages[] = [];
    const missing: Composition['missing'][number][] = [];
    const finder = this.index && new IndexFinder();
    let bodyStart = -1;
    for (const [index, section] of this.sections.entries()) {
      if (first && this.options.progress?.(index / this.sections.length) === false) return null;
      if (bodyStart < 0 && section.matter !== 'front') {
        // The body starts on a recto and is counted from 1.
        if (pages.length % 2 === 1)
          pages.push(this.blank(pages.length, '', pages.at(-1)?.section ?? section.id));
        bodyStart = pages.length;
      }
      const labelOf = (i: number): string => (bodyStart < 0 ? romanFolio(i + 1) : String(i - bodyStart + 1));
      const starts = this.starts(section);
      if (starts !== 'any' && starts !== (pages.length % 2 === 0 ? 'recto' : 'verso'))
        pages.push(this.blank(pages.length, labelOf(pages.length), pages.at(-1)?.section ?? section.id));
      const { only, breathe } = this.options;
      if (only && !only.sections.has(section.id)) {
        firsts.set(section.id, pages.length);
        found.see(section.id, labelOf(pages.length));
        for (let n = only.pages.get(section.id) ?? 1; n > 0; n--)
          pages.push(this.blank(pages.length, labelOf(pages.length), section.id));
        parts.push({ section: section.id, pages: [], faults: [], missing: [], lostNotes: 0 });
        continue;
      }
      if (breathe && !(await breathe())) return null;
      const side: Side = pages.length % 2 === 0 ? 'recto' : 'verso';
      const made = this.sectionPages(section, side, labels);
      parts.push(made);
      missing.push(...made.missing);
      firsts.set(section.id, pages.length);
      const words = this.headWords(section);
      for (const i of made.pages.keys()) {
        finder?.page((made.pages[i] as SectionPage).body, labelOf(pages.length));
        found.see(section.id, labelOf(pages.length));
        for (const id of (made.pages[i] as SectionPage).body.blocks)
          if (this.wanted.has(id)) found.see(id, labelOf(pages.length));
        pages.push(this.page(section, made, i, pages.length, labelOf(pages.length), words));
      }
    }
    if (pages.length % 2 === 1) pages.push(this.blank(pages.length, '', pages.at(-1)?.section ?? ''));
    for (const [key, folios] of finder?.labels(this.index ?? []) ?? []) found.see(key, folios);
    const { report, marks } = reportOf(pages, parts, firsts, this.s.interior.trim.height);
    return {
      composition: {
        edition: this.edition.id,
        ...this.setting,
        pages,
        starts: firsts,
        report,
        marks,
        missing,
        bleed: parts.some((p) => p.pages.some((x) => x.bleeds)) ? BLEED : 0,
      },
      labels: found,
    };
  }

  private headWords(section: Section): HeadWords {
    const { heads } = this.s.interior;
    const { record } = this.book;
    const author = authorsLine(record);
    const title = record.title || author;
    const part = this.sections.find((x) => x.id === section.parent);
    const verso = { title, author: author || title, part: part ? this.heading(part).label : title, none: '' };
    const recto = { section: this.heading(section).label, title, none: '' };
    return { verso: verso[heads.verso], recto: recto[heads.recto] };
  }

  /** Page `i` of a section; the same object as in the round before when nothing of it has changed. */
  private page(
    section: Section,
    made: SectionPages,
    i: number,
    index: number,
    label: string,
    words: HeadWords,
  ): Page {
    const { body, used, shortfall, covered } = made.pages[i] as SectionPage;
    const key = `${section.id}/${i}`;
    const known = this.pages.get(key);
    if (known && known.body === body && known.index === index && known.label === label) return known;
    const side: Side = index % 2 === 0 ? 'recto' : 'verso';
    const page: Page = {
      index,
      side,
      label,
      section: section.id,
      blank: false,
      opens: i === 0,
      body,
      furniture: covered ? EMPTY_SHEET : furnitureOf(this.s, section, side, label, i === 0, words),
      used,
      shortfall,
      last: i === made.pages.length - 1,
    };
    this.pages.set(key, page);
    this.options.onPage?.(page, this.setting);
    return page;
  }

  private blank(index: number, label: string, section: string): Page {
    return {
      index,
      side: index % 2 === 0 ? 'recto' : 'verso',
      label,
      section,
      blank: true,
      opens: false,
      body: EMPTY_SHEET,
      furniture: EMPTY_SHEET,
      used: 0,
      shortfall: 0,
      last: false,
    };
  }
}
