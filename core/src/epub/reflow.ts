/**
 * The reflowable ebook: a file or several for each section, navigation from the same contents list as the printed page,
 * accessibility metadata from the content, page marks from the print edition's composition.
 */
import type { Node } from 'prosemirror-model';
import { digestOf, escapeXml, uuidOf } from '../base';
import {
  asRunningText,
  isPictured,
  kindRule,
  noteMarks,
  notesIn,
  opensText,
  picturesAbove,
  type Book,
  type NoteKind,
  type Picture,
  type ReflowEdition,
  type Section,
} from '../book';
import type { Composition } from '../compose';
import { designOf, numberingWith, type Design } from '../design';
import {
  captionLabel,
  captionNumbers,
  captionsListedBy,
  captionsOf,
  contentsOf,
  copyrightLines,
  hasText,
  headingsOf,
  indexOf,
  isFromRecord,
  makesIndex,
  notePlaces,
  recordContent,
  References,
  titlePageLines,
  type CaptionNumber,
  type ContentsEntry,
  type Heading,
  type Naming,
  type NotePlaces,
} from '../order';
import { authorsLine, bareIsbn } from '../record';
import { accessMeta, factsOf } from './access';
import { Addresses, addressOf } from './addresses';
import { idIn } from './ids';
import { indexList, navEntries, navList } from './navigation';
import { PrintPages } from './printpages';
import {
  pictureHref,
  type Dialect,
  type EmbeddedFace,
  type Publication,
  type PublicationDocument,
} from './publication';
import { filesOf, type Piece } from './split';
import { styleSheet } from './style';
import { navigationWords, type NavigationWords } from './words';
import { anchorsOf, callOf, pageMark, SectionWriter, xhtmlFile } from './xhtml';

export interface EpubInput {
  book: Book;
  edition: string;
  /** Files of the pictures by id. */
  pictures: ReadonlyMap<string, Uint8Array>;
  /** The print edition's composition and its ISBN, for the page list; null where there is none. */
  print: { composition: Composition; isbn: string } | null;
  /** When the book was last changed, in ISO form; '' where nobody knows. */
  modified?: string;
  /** Where a book of this ISBN is sold; links to shops are words alone where this is left out. */
  bookAddress?: (isbn: string) => string | null;
  /** Whether the picture of a break is drawn in its transparency alone, so that it can take any colour. */
  breakIsMask?: boolean;
  /** Faces that the file brings with it. */
  faces?: readonly EmbeddedFace[];
  /** Bytes of a document at most, where it can be divided between blocks. */
  mostBytes?: number;
}

export class ReflowRenderer {
  private readonly book: Book;
  private readonly sections: readonly Section[];
  private readonly pictures: EpubInput['pictures'];
  private readonly design: Design;
  private readonly naming: Naming;
  private readonly headings: Map<string, Heading>;
  private readonly references: References;
  private readonly noted: NotePlaces;
  private readonly captions: ReadonlyMap<string, CaptionNumber>;
  private readonly contents: ContentsEntry[];
  /** Numbers of the sections in the order of the edition; the contents are shown once. */
  private readonly numbers: ReadonlyMap<string, number>;
  private readonly addresses = new Addresses();
  private readonly words: NavigationWords;
  /** Blocks of each section whose ids stand in its file. */
  private readonly anchors: ReadonlyMap<string, ReadonlySet<string>>;
  private readonly pictureFiles = new Map<string, string>();
  private readonly used: Picture[] = [];
  private readonly pages: PrintPages;
  private readonly cover: Picture | undefined;

  constructor(
    private readonly input: EpubInput,
    private readonly edition: ReflowEdition,
    given: readonly Section[],
    private readonly dialect: Dialect,
    /** The ebook that it is a sample of. */
    private readonly whole: ReflowEdition | null = null,
  ) {
    const first = given.find((s) => s.kind === 'contents');
    const sections = given
      .filter((s) => s.kind !== 'contents' || s === first)
      .map((s) => (isPictured(s.content) ? { ...s, content: asRunningText(s.content) } : s));
    this.sections = sections;
    const { book, pictures, print } = input;
    this.book = book;
    this.pictures = pictures;
    this.design = designOf(edition);
    this.anchors = new Map(
      sections.map((s) => [s.id, isFromRecord(s, book.record) ? NONE : anchorsOf(s.content)]),
    );
    this.naming = { ...book, numbering: numberingWith(book.numbering, this.design) };
    this.headings = headingsOf(sections, this.naming, edition);
    const { at, ends } = this.design.notes;
    // An ebook has no foot of a page.
    this.noted = notePlaces(sections, { at: at === 'foot' ? 'section' : at, ends });
    this.references = new References(sections, this.naming, this.noted.signs);
    this.captions = captionNumbers(sections, this.naming);
    const listed = contentsOf(sections, this.naming, edition.contents.levels).filter(
      (e) => e.section.kind !== 'contents',
    );
    // A navigation document must list something, even for a book of plain pages.
    const all = sections
      .filter((s) => s.kind !== 'contents')
      .map((section) => ({
        section,
        block: null,
        heading: this.headings.get(section.id) as Heading,
        depth: 0,
      }));
    this.contents = listed.length > 0 ? listed : all;
    this.numbers = new Map(sections.map((s, i) => [s.id, i]));
    this.words = navigationWords(book.record.language);
    this.cover = book.pictures.find((p) => p.id === book.record.cover && pictures.has(p.id));
    for (const p of book.pictures) if (pictures.has(p.id)) this.pictureFiles.set(p.id, pictureHref(p));
    this.pages = new PrintPages(print?.composition ?? null, sections, this.noted.gatherer);
  }

  /** Renders the documents; only then is known which marks, anchors and pictures there are, and in which file. */
  publication(): Publication {
    const { record } = this.book;
    const { addresses } = this;
    const spine = this.sections.flatMap((s, i): Publication['spine'][number][] => {
      if (s.kind !== 'contents') return this.textFiles(s, i);
      addresses.add(i, this.dialect.contents, '');
      return ['contents'];
    });
    const settled = spine.map((d) =>
      d === 'contents' ? d : { ...d, xhtml: this.dialect.document(addresses.settle(d.xhtml, d.href)) },
    );
    const style = this.style();
    const contents = this.sections.find((s) => s.kind === 'contents');
    const heading = contents
      ? this.headings.get(contents.id)?.title || this.words.contents
      : this.words.contents;
    const pages = this.pages.list(addresses);
    return {
      identifier: this.identifier(this.edition),
      fixed: false,
      sampleOf: this.whole && this.identifier(this.whole),
      record,
      date: this.edition.date,
      modified: this.input.modified ?? '',
      pagesOf: this.input.print && pages.length > 0 ? bareIsbn(this.input.print.isbn) : null,
      access: this.access(pages.length > 0),
      words: this.words,
      spine: this.cover ? [this.coverFile(this.cover), ...settled] : settled,
      contents: {
        heading,
        entries: navEntries(this.contents, (e) => addresses.href(this.placeOf(e))),
      },
      landmarks: this.landmarks(contents ? heading : null),
      pages,
      pictures: this.allPictures().map((p, i) => ({
        id: p === this.cover ? 'cover-picture' : `p${i + 1}`,
        href: this.pictureFiles.get(p.id) as string,
        type: p.type,
        bytes: this.pictures.get(p.id) as Uint8Array,
        isCover: p === this.cover,
      })),
      faces: this.input.faces ?? [],
      style,
    };
  }

  private access(pageList: boolean): Publication['access'] {
    const animated = new Set(this.book.pictures.filter((p) => p.type === 'image/gif').map((p) => p.id));
    const { record } = this.book;
    const says = this.edition.conformance && this.edition.version === '3.3' && record.language !== '';
    const certifier = says ? record.imprint || authorsLine(record) : '';
    return accessMeta({ ...factsOf(this.sections, animated, pageList), certifier });
  }

  /** `contents`: their heading, where they are in the order of reading: nothing leads out of it. */
  private landmarks(contents: string | null): Publication['landmarks'] {
    const { words } = this;
    const firstBody = this.sections.findIndex((s) => s.matter === 'body');
    const start = { type: 'bodymatter' as const, label: words.start };
    return [
      ...(this.cover ? [{ type: 'cover' as const, label: words.cover, href: 'text/cover.xhtml' }] : []),
      ...(contents === null
        ? []
        : [{ type: 'toc' as const, label: contents, href: `${this.dialect.contents}#toc` }]),
      ...(firstBody < 0 ? [] : [{ ...start, href: this.addresses.href(addressOf(firstBody)) }]),
    ];
  }

  private identifier({ id, isbn: given }: ReflowEdition): string {
    const isbn = bareIsbn(given);
    return isbn ? `urn:isbn:${isbn}` : `urn:uuid:${uuidOf(digestOf(`${this.book.id}/${id}`))}`;
  }

  private style(): string {
    const sign = this.pictureHref(this.design.breaks.picture);
    return styleSheet(this.design, {
      breakPicture: sign ? sign.href.replace('../', '') : '',
      breakIsMask: this.input.breakIsMask ?? false,
      faces: this.input.faces ?? [],
    });
  }

  private allPictures(): Picture[] {
    return this.cover && !this.used.includes(this.cover) ? [this.cover, ...this.used] : this.used;
  }

  /** The section in its files: the first has its heading, the others go on. */
  private textFiles(section: Section, number: number): PublicationDocument[] {
    const rule = kindRule(section.kind);
    const heading = this.headings.get(section.id) as Heading;
    const opening = this.pages.opensWith(section.id).map(pageMark).join('');
    const head = rule.opening === 'heading' || section.kind === 'part' ? this.headingHtml(heading) : '';
    const label = ` aria-label="${escapeXml(heading.label)}"`;
    const role = rule.role ? ` role="${rule.role}"` : '';
    const what = ` epub:type="${rule.epubType}"${role}${head ? ' aria-labelledby="heading"' : label}`;
    const name = `text/s${String(number + 1).padStart(3, '0')}`;
    const all = this.piecesOf(section, number);
    const above = head ? all.splice(0, picturesAbove(section).length) : [];
    const first = [opening, ...above.map((p) => p.html), head];
    return filesOf(all, this.input.mostBytes).map((pieces, i) => {
      const inside = [
        ...(i === 0 ? first : []),
        ...pieces.map((p) => p.html),
        ...[...(i === 0 ? above : []), ...pieces].map((p) => p.notes),
      ];
      const body = `<section${i === 0 ? what : label} class="${CLASS[section.kind] ?? section.kind}">\n${inside.filter(Boolean).join('\n')}\n</section>`;
      const href = `${name}${i === 0 ? '' : `-${i + 1}`}.xhtml`;
      const xhtml = xhtmlFile(
        heading.label,
        this.book.record.language,
        '../style.css',
        body,
        ` epub:type="${section.matter}matter"`,
      );
      this.addresses.add(number, href, xhtml);
      return { id: `t${number + 1}${i === 0 ? '' : `-${i + 1}`}`, href, xhtml };
    });
  }

  private piecesOf(section: Section, number: number): Piece[] {
    const here = (id: string): string => addressOf(number, id);
    const writer = new SectionWriter(
      {
        pictureHref: (id) => this.pictureHref(id),
        pages: this.pages.inBlocks,
        placeHref: (target) => this.placeHref(target),
        here,
        noteMarks: (doc) => noteMarks(doc, this.noted.signs),
        noteHref: (note) => this.noteHref(section, note),
        reference: (r) => this.references.says(r, null),
        captionLabel: (id) => {
          const caption = this.captions.get(id);
          return caption ? captionLabel(caption, this.book.record.language) : '';
        },
        shopHref: (isbn) => this.input.bookAddress?.(isbn) ?? null,
        formulas: this.dialect.formulas,
      },
      opensText(section.kind),
    );
    const whole = (...html: string[]): Piece[] => html.map((x) => ({ html: x, notes: '', leads: false }));
    const text = (): Piece[] => {
      if (isFromRecord(section, this.book.record)) return this.recordPage(section, writer);
      if (hasText(section.content)) return writer.body(section.content);
      const listed = captionsListedBy(section);
      if (listed)
        return whole(
          navList(navEntries(captionsOf(this.sections, this.naming, listed), (e) => this.placeOf(e))),
        );
      if (!makesIndex(section)) return [];
      const { language } = this.book.record;
      const { letters } = this.design.index;
      const entries = indexOf(this.sections, this.book);
      return whole(...indexList(entries, { language, letters }, (to) => this.placeHref(to), here));
    };
    return [...text(), ...(section.id === this.noted.gatherer?.id ? this.gatheredNotes(writer) : [])];
  }

  /** Address of a note in the section that gathers it; null for one that stands where it is called, and for that section's own. */
  private noteHref(section: Section, note: Node): string | null {
    const { gatherer } = this.noted;
    if (!gatherer || gatherer.id === section.id) return null;
    if (this.noted[note.attrs.kind as NoteKind] !== 'elsewhere') return null;
    return addressOf(this.numbers.get(gatherer.id) as number, this.noteId(section, note));
  }

  /** Notes of two sections may have the same id. */
  private noteId(section: Section, note: Node): string {
    return `note-${(this.numbers.get(section.id) as number) + 1}-${idIn(note.attrs.id as string)}`;
  }

  private gatheredNotes(writer: SectionWriter): Piece[] {
    return this.sections.flatMap((s, number) => {
      const marks = noteMarks(s.content, this.noted.signs);
      const own = notesIn(s.content).filter(
        (n) => this.noteHref(s, n) !== null && marks.has(n.attrs.id as string),
      );
      if (own.length === 0) return [];
      const entries = own.map((note) => ({
        note,
        mark: marks.get(note.attrs.id as string) as string,
        id: this.noteId(s, note),
        back: addressOf(number, callOf(note.attrs.id as string)),
      }));
      return writer.gathered(this.headings.get(s.id)?.label ?? '', entries);
    });
  }

  private headingHtml(h: Heading): string {
    if (!h.number && !h.title) return '';
    const number = h.number ? `<span class="number">${escapeXml(h.number)}</span>` : '';
    const title = h.title ? `<span class="title">${escapeXml(h.title)}</span>` : '';
    const subtitle = h.subtitle
      ? `\n<p class="subtitle" role="doc-subtitle">${escapeXml(h.subtitle)}</p>`
      : '';
    return `<h1 id="heading">${[number, title].filter(Boolean).join(' ')}</h1>${subtitle}`;
  }

  private recordPage(section: Section, writer: SectionWriter): Piece[] {
    const { record } = this.book;
    const whole = (lines: readonly string[]): Piece[] => [
      { html: lines.join('\n'), notes: '', leads: false },
    ];
    if (section.kind === 'half-title') return whole([`<p>${escapeXml(record.title)}</p>`]);
    if (section.kind === 'title-page') {
      const classes: Record<string, string> = {
        title: 'book-title',
        subtitle: 'book-subtitle',
        author: 'author',
        other: 'other',
        imprint: 'imprint',
      };
      return whole(
        titlePageLines(record).map((l) =>
          l.role === 'title'
            ? `<h1 class="book-title">${escapeXml(l.text)}</h1>`
            : `<p class="${classes[l.role]}">${escapeXml(l.text)}</p>`,
        ),
      );
    }
    if (section.kind !== 'copyright-page') return writer.body(recordContent(section, record));
    return whole(copyrightLines(record, this.edition).map((l) => `<p>${escapeXml(l)}</p>`));
  }

  private pictureHref(id: string): { href: string; width: number; height: number } | null {
    const file = this.pictureFiles.get(id);
    const picture = this.book.pictures.find((p) => p.id === id);
    if (!file || !picture) return null;
    if (!this.used.includes(picture)) this.used.push(picture);
    return { href: `../${file}`, width: picture.width, height: picture.height };
  }

  /** Address of a place of the book, "section" or "section#block"; null for one that this edition does not carry. */
  private placeHref(target: string): string | null {
    const [asked = '', block = ''] = target.split('#');
    // A block may have come to stand in another section than the one it was named in.
    const section =
      block === '' || this.anchors.get(asked)?.has(block)
        ? asked
        : ([...this.anchors].find(([, ids]) => ids.has(block))?.[0] ?? asked);
    const number = this.numbers.get(section);
    return number === undefined ? null : addressOf(number, block && idIn(block));
  }

  private coverFile(cover: Picture): PublicationDocument {
    const { title, language } = this.book.record;
    const body = `<section epub:type="cover" aria-label="${escapeXml(this.words.cover)}" class="cover">\n<img role="doc-cover" src="../${this.pictureFiles.get(cover.id)}" alt="${escapeXml(`${this.words.coverOf} ${title}`)}"/>\n</section>`;
    const xhtml = xhtmlFile(this.words.cover, language, '../style.css', body);
    return { id: 'cover', href: 'text/cover.xhtml', xhtml: this.dialect.document(xhtml) };
  }

  private placeOf(e: ContentsEntry): string {
    return addressOf(this.numbers.get(e.section.id) as number, e.block ? idIn(e.block) : '');
  }
}

const NONE: ReadonlySet<string> = new Set();
const CLASS: Record<string, string> = { 'copyright-page': 'copyright' };
