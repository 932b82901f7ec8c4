/**
 * Composes an edition: every section alone, then the book around them: sides and blanks, roman and arabic labels, heads
 * and folios, contents with the labels they point to, until nothing moves any more.
 */
import { hasUnsetScript, refused, done, type Outcome } from '../base';
import { kindRule, sectionsOf, type Book, type Edition, type Section } from '../book';
import { interiorOf, rowsOf, trimOf, type Interior } from '../design';
import {
  contentsOf,
  headingsOf,
  isStanding,
  standingContent,
  type ContentsEntry,
  type Heading,
} from '../order';
import { authorsLine } from '../record';
import { loadHyphenator, TypeCase, type FamilyFiles, type HarfBuzz, type WordBook } from '../type';
import type { Composition, Page, Side } from './composition';
import type { Flow } from './flow';
import { furnitureOf, type HeadWords } from './furniture';
import { contentsBlocks, copyrightPage, halfTitle, partPage, romanFolio, titlePage } from './pageforms';
import { openingBlock, solid } from './opening';
import { reportOf } from './report';
import { pagesOf, textFlow, type SectionPages } from './section';
import { Setter } from './setter';
import { EMPTY_SHEET } from './sheet';

export interface TypeSource {
  harfbuzz: HarfBuzz;
  family: FamilyFiles;
}

/** What stays from one composition to the next: opened faces, shaped words, and sections composed alone. */
export class ComposeCache {
  private faces: TypeCase | null = null;
  private readonly setters = new Map<string, Setter>();
  private readonly sections = new Map<
    string,
    { content: Section['content']; key: string; pages: SectionPages }
  >();

  typeCase(source: TypeSource): TypeCase {
    this.faces ??= new TypeCase(source.harfbuzz, source.family);
    return this.faces;
  }
  setter(key: string, make: () => Setter): Setter {
    let s = this.setters.get(key);
    if (!s) {
      s = make();
      this.setters.set(key, s);
    }
    return s;
  }
  section(id: string, content: Section['content'], key: string, make: () => SectionPages): SectionPages {
    const known = this.sections.get(id);
    if (known && known.content === content && known.key === key) return known.pages;
    const pages = make();
    this.sections.set(id, { content, key, pages });
    return pages;
  }
}

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
}

/** What a page is drawn with. */
export interface PageSetting {
  interior: Interior;
  words: WordBook;
}

/** What an entry of the contents points to: a subhead's block, or the section. */
const targetOf = (e: ContentsEntry): string => e.block ?? e.section.id;

/** Contents and labels settle in two rounds in all but odd books; more than this is refused a further change. */
const MAX_ROUNDS = 5;

/** Errors: `compose/edition`, `compose/trim`, `compose/script`, `compose/empty`, `compose/stopped`. */
export async function compose(
  book: Book,
  editionId: string,
  source: TypeSource,
  options: ComposeOptions = {},
): Promise<Outcome<Composition>> {
  const edition = book.editions.find((e) => e.id === editionId);
  if (!edition) return refused('compose/edition', `There is no edition "${editionId}" in this book.`);
  const trim = trimOf(edition.trim);
  if (!trim) return refused('compose/trim', `"${edition.trim}" is not a trim. Write it like 5.5 x 8.5 in.`);
  const sections = sectionsOf(book, edition.id);
  if (sections.length === 0)
    return refused('compose/empty', `The ${edition.name.toLowerCase()} carries no section yet.`);
  for (const s of sections) {
    if (hasUnsetScript(s.title + s.content.textContent))
      return refused(
        'compose/script',
        `"${s.title || kindRule(s.kind).label}" holds text in a script that cannot be set yet (right-to-left, or East and South-East Asian).`,
      );
  }
  const cache = options.cache ?? new ComposeCache();
  const language = book.record.language;
  const hyphenate = await loadHyphenator(language, options.exceptions);
  const interior = interiorOf(edition.interior, trim);
  const setter = cache.setter(
    `${JSON.stringify(interior)}|${language}`,
    () => new Setter(interior, cache.typeCase(source), language, hyphenate),
  );
  const job = new Job(book, edition, sections, setter, cache, options);
  return job.run();
}

class Job {
  private readonly headings: Map<string, Heading>;
  /** What the contents lists, and the subheads among it by their blocks. */
  private readonly entries: ContentsEntry[];
  private readonly listed: ReadonlySet<string>;
  private readonly pictures;
  private readonly pages = new Map<string, Page>();
  private readonly setting: PageSetting;

  constructor(
    private readonly book: Book,
    private readonly edition: Edition,
    private readonly sections: readonly Section[],
    private readonly s: Setter,
    private readonly cache: ComposeCache,
    private readonly options: ComposeOptions,
  ) {
    this.headings = headingsOf(sections, book, edition);
    this.entries = contentsOf(sections, book, edition.contents.levels);
    this.listed = new Set(this.entries.flatMap((e) => e.block ?? []));
    this.setting = { interior: s.interior, words: s.faces.words };
    this.pictures = new Map(book.pictures.map((p) => [p.id, p]));
  }

  run(): Outcome<Composition> {
    let labels = new Map<string, string>();
    for (let round = 0; ; round++) {
      const made = this.round(labels, round === 0);
      if (!made) return refused('compose/stopped', 'The work was stopped.');
      const settled = [...made.labels].every(([id, label]) => labels.get(id) === label);
      labels = made.labels;
      if (settled || round === MAX_ROUNDS || !this.sections.some((x) => x.kind === 'contents'))
        return done(made.composition);
    }
  }

  private heading(s: Section): Heading {
    return this.headings.get(s.id) as Heading;
  }

  private flowOf(section: Section, labels: ReadonlyMap<string, string>): Flow {
    const { s, book, edition } = this;
    const bare = (blocks: Flow['blocks']): Flow => ({
      section: section.id,
      blocks,
      notes: new Map(),
    });
    if (isStanding(section, book.record)) {
      if (section.kind === 'half-title') return bare(halfTitle(s, section, book.record));
      if (section.kind === 'title-page') return bare(titlePage(s, section, book.record));
      if (section.kind === 'copyright-page') return bare(copyrightPage(s, section, book.record, edition));
      const written = { ...section, content: standingContent(section, book.record) };
      return textFlow(s, written, this.heading(section), this.pictures);
    }
    if (section.kind === 'contents') {
      const opening = openingBlock(s, section.id, this.heading(section), 2);
      const entries = this.entries.filter((e) => e.section.id !== section.id);
      const blocks = contentsBlocks(s, section, entries, (e) => labels.get(targetOf(e)) ?? '0');
      return bare(opening ? [opening, ...blocks] : blocks);
    }
    const flow = textFlow(s, section, this.heading(section), this.pictures);
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
            ...flow.blocks.filter((b) => b.best.items.length > 0),
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

  private sectionPages(section: Section, side: Side, labels: ReadonlyMap<string, string>): SectionPages {
    const depends = isStanding(section, this.book.record)
      ? [this.book.record, this.edition]
      : section.kind === 'contents'
        ? [[...labels], this.entries.map((e) => [targetOf(e), e.depth, e.heading.label, e.section.kind])]
        : [];
    const pictures =
      section.content.textContent === '' || this.book.pictures.length > 0
        ? this.book.pictures.map((p) => [p.id, p.width, p.height])
        : [];
    const key = JSON.stringify([
      side,
      section.kind,
      this.heading(section),
      depends,
      pictures,
      this.s.interior,
      this.s.language,
    ]);
    return this.cache.section(`${this.edition.id}/${section.id}`, section.content, key, () =>
      pagesOf(this.s, this.flowOf(section, labels), side),
    );
  }

  private round(
    labels: ReadonlyMap<string, string>,
    first: boolean,
  ): { composition: Composition; labels: Map<string, string> } | null {
    const pages: Page[] = [];
    const starts = new Map<string, number>();
    const found = new Map<string, string>();
    const parts: SectionPages[] = [];
    const missing: Composition['missing'][number][] = [];
    const verso = this.book.record.title || authorsLine(this.book.record);
    let bodyStart = -1;
    for (const [index, section] of this.sections.entries()) {
      if (first && this.options.progress?.(index / this.sections.length) === false) return null;
      const rule = kindRule(section.kind);
      if (bodyStart < 0 && section.matter !== 'front') {
        // The body starts on a recto and is counted from 1.
        if (pages.length % 2 === 1)
          pages.push(this.blank(pages.length, '', pages.at(-1)?.section ?? section.id));
        bodyStart = pages.length;
      }
      const labelOf = (i: number): string => (bodyStart < 0 ? romanFolio(i + 1) : String(i - bodyStart + 1));
      if (rule.starts === 'recto' && pages.length % 2 === 1)
        pages.push(this.blank(pages.length, labelOf(pages.length), pages.at(-1)?.section ?? section.id));
      const side: Side = pages.length % 2 === 0 ? 'recto' : 'verso';
      const made = this.sectionPages(section, side, labels);
      parts.push(made);
      missing.push(...made.missing);
      starts.set(section.id, pages.length);
      found.set(section.id, labelOf(pages.length));
      const words = { verso, recto: this.heading(section).label };
      for (const i of made.pages.keys()) {
        if (this.listed.size > 0) this.findListed(made, i, labelOf(pages.length), found);
        pages.push(this.page(section, made, i, pages.length, labelOf(pages.length), words));
      }
    }
    if (pages.length % 2 === 1) pages.push(this.blank(pages.length, '', pages.at(-1)?.section ?? ''));
    const { report, marks } = reportOf(pages, parts, starts);
    return {
      composition: {
        edition: this.edition.id,
        ...this.setting,
        pages,
        starts,
        report,
        marks,
        missing,
      },
      labels: found,
    };
  }

  /** Notes the folio of subheads that the contents lists and that stand on page `i` of a section. */
  private findListed(made: SectionPages, i: number, label: string, found: Map<string, string>): void {
    for (const id of made.pages[i]?.body.blocks ?? [])
      if (this.listed.has(id) && !found.has(id)) found.set(id, label);
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
    const { body, used, shortfall } = made.pages[i] as SectionPages['pages'][number];
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
      furniture: furnitureOf(this.s, section, side, label, i === 0, words),
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
