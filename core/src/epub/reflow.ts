/**
 * The reflowable ebook: one XHTML file a section, navigation from the same contents list as the printed page, accessibility
 * metadata from the content, page marks from the print edition's composition.
 */
import type { Node } from 'prosemirror-model';
import { digestOf, escapeXml, uuidOf } from '../base';
import {
  kindRule,
  noteMarks,
  notesIn,
  opensText,
  type Book,
  type NoteKind,
  type Picture,
  type ReflowEdition,
  type Section,
} from '../book';
import { textLines, type Composition } from '../compose';
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
import { bareIsbn } from '../record';
import { accessMeta, factsOf } from './access';
import { idIn } from './ids';
import { bookMeta } from './metadata';
import { indexList, navEntries, navList } from './navigation';
import type { Dialect, Publication, PublicationDocument } from './publication';
import { styleSheet } from './style';
import { anchorsOf, callOf, pageMark, SectionWriter, xhtmlFile, type PageMark } from './xhtml';

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
}

const EXTENSION: Record<Picture['type'], string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
};

export class ReflowRenderer {
  private readonly book: Book;
  private readonly pictures: EpubInput['pictures'];
  private readonly design: Design;
  private readonly naming: Naming;
  private readonly headings: Map<string, Heading>;
  private readonly references: References;
  private readonly noted: NotePlaces;
  private readonly captions: ReadonlyMap<string, CaptionNumber>;
  private readonly contents: ContentsEntry[];
  private readonly fileOf = new Map<string, string>();
  /** Blocks of each section whose ids stand in its file. */
  private readonly anchors: ReadonlyMap<string, ReadonlySet<string>>;
  private readonly pictureFiles = new Map<string, string>();
  private readonly used: Picture[] = [];
  private readonly pages = new Map<string, PageMark[]>();
  private readonly sectionPages = new Map<string, string[]>();
  /** Labels of the print pages in their order, and the file in which the mark of each was written. */
  private readonly labels: string[] = [];
  private readonly markedIn = new Map<string, string>();
  private readonly cover: Picture | undefined;

  constructor(
    private readonly input: EpubInput,
    private readonly edition: ReflowEdition,
    private readonly sections: readonly Section[],
    private readonly dialect: Dialect,
  ) {
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
    sections.forEach((s, i) =>
      this.fileOf.set(
        s.id,
        s.kind === 'contents' ? dialect.contents : `text/s${String(i + 1).padStart(3, '0')}.xhtml`,
      ),
    );
    this.cover = book.pictures.find((p) => p.id === book.record.cover && pictures.has(p.id));
    for (const p of book.pictures)
      if (pictures.has(p.id)) this.pictureFiles.set(p.id, `pictures/${p.id}.${EXTENSION[p.type]}`);
    if (print) this.markPages(print.composition);
  }

  /** Renders the documents; only then is known which marks, anchors and pictures there are. */
  publication(): Publication {
    const { record } = this.book;
    let index = 0;
    const spine = this.sections.map((s) =>
      s.kind === 'contents' ? ('contents' as const) : this.textFile(s, index++),
    );
    const style = this.style();
    const contents = this.sections.find((s) => s.kind === 'contents');
    return {
      identifier: this.identifier(),
      title: record.title,
      language: record.language,
      metadata: this.metadata(),
      spine: this.cover ? [this.coverFile(this.cover), ...spine] : spine,
      contents: {
        heading: contents ? (this.headings.get(contents.id)?.title ?? 'Contents') : 'Contents',
        entries: navEntries(this.contents, (e) => this.hrefOf(e)),
      },
      landmarks: this.landmarks(contents),
      pages: this.pageList(),
      pictures: this.allPictures().map((p, i) => ({
        id: p === this.cover ? 'cover-picture' : `p${i + 1}`,
        href: this.pictureFiles.get(p.id) as string,
        type: p.type,
        bytes: this.pictures.get(p.id) as Uint8Array,
        isCover: p === this.cover,
      })),
      style,
    };
  }

  private metadata(): string[] {
    const animated = new Set(this.book.pictures.filter((p) => p.type === 'image/gif').map((p) => p.id));
    const meta = bookMeta(this.book.record, {
      identifier: this.identifier(),
      date: this.edition.date,
      modified: this.input.modified ?? '',
      pagesOf: this.input.print && this.markedIn.size > 0 ? bareIsbn(this.input.print.isbn) : null,
    });
    for (const [property, value] of accessMeta(factsOf(this.sections, animated, this.markedIn.size > 0)))
      meta.push(`<meta property="${property}">${escapeXml(value)}</meta>`);
    if (this.cover) meta.push('<meta name="cover" content="cover-picture"/>');
    return meta;
  }

  private landmarks(contents: Section | undefined): Publication['landmarks'] {
    const firstBody = this.sections.find((s) => s.matter === 'body');
    const heading = contents ? (this.headings.get(contents.id)?.title ?? 'Contents') : 'Contents';
    return [
      ...(this.cover ? [{ type: 'cover', label: 'Cover', href: 'text/cover.xhtml' }] : []),
      { type: 'toc', label: heading, href: `${this.dialect.contents}#toc` },
      ...(firstBody
        ? [
            {
              type: 'bodymatter',
              label: 'Start of the text',
              href: this.fileOf.get(firstBody.id) as string,
            },
          ]
        : []),
    ];
  }

  private identifier(): string {
    const isbn = bareIsbn(this.edition.isbn);
    return isbn ? `urn:isbn:${isbn}` : `urn:uuid:${uuidOf(digestOf(`${this.book.id}/${this.edition.id}`))}`;
  }

  private style(): string {
    const sign = this.pictureHref(this.design.breaks.picture);
    return styleSheet(this.design, { breakPicture: sign ? sign.href.replace('../', '') : '' });
  }

  private allPictures(): Picture[] {
    return this.cover && !this.used.includes(this.cover) ? [this.cover, ...this.used] : this.used;
  }

  /** Finds for every print page the first character on it that this edition carries. */
  private markPages(c: Composition): void {
    const blocks = new Map(this.sections.map((s) => [s.id, blocksOf(s)]));
    const carried = new Map(this.sections.map((s) => [s.id, s]));
    for (const page of c.pages) {
      const section = carried.get(page.section);
      if (page.blank || !section || section.kind === 'contents' || page.label === '') continue;
      this.labels.push(page.label);
      if (page.opens) {
        this.sectionPages.set(page.section, [...(this.sectionPages.get(page.section) ?? []), page.label]);
        continue;
      }
      // Words that the section itself does not hold, such as notes gathered from others, have no place in its file.
      const own = blocks.get(page.section);
      const first = [...textLines(page.body)].find((l) => own?.has(l.block));
      if (!first) continue;
      const marks = this.pages.get(first.block) ?? [];
      marks.push({ offset: first.offset, label: page.label });
      this.pages.set(first.block, marks);
    }
  }

  /** The list of print pages, of the marks that stand in the files: a page without one is not listed. */
  private pageList(): { label: string; href: string }[] {
    return this.labels.flatMap((label) => {
      const file = this.markedIn.get(label);
      return file === undefined ? [] : [{ label, href: `${file}#page-${label}` }];
    });
  }

  private textFile(section: Section, index: number): PublicationDocument {
    const rule = kindRule(section.kind);
    const heading = this.headings.get(section.id) as Heading;
    const writer = new SectionWriter(
      {
        pictureHref: (id) => this.pictureHref(id),
        pages: this.pages,
        placeHref: (target) => this.placeHref(target),
        noteMarks: (doc) => noteMarks(doc, this.noted.signs),
        noteHref: (note) => this.noteHref(section, note),
        reference: (r) => this.references.says(r, null),
        captionLabel: (id) => {
          const number = this.captions.get(id);
          return number ? captionLabel(number, this.book.record.language) : '';
        },
        shopHref: (isbn) => this.input.bookAddress?.(isbn) ?? null,
      },
      opensText(section.kind),
    );
    const listed = captionsListedBy(section);
    const text = isFromRecord(section, this.book.record)
      ? this.recordPage(section, writer)
      : hasText(section.content)
        ? writer.body(section.content)
        : listed
          ? navList(
              navEntries(captionsOf(this.sections, this.naming, listed), (e) =>
                this.hrefOf(e).replace('text/', ''),
              ),
            )
          : makesIndex(section)
            ? indexList(
                indexOf(this.sections, this.book),
                { language: this.book.record.language, letters: this.design.index.letters },
                (to) => this.placeHref(to),
              )
            : '';
    const gathered = section.id === this.noted.gatherer?.id ? this.gatheredNotes(writer) : '';
    const opening = this.sectionPages.get(section.id) ?? [];
    const pages = opening.map(pageMark).join('');
    for (const label of [...opening, ...writer.marked])
      this.markedIn.set(label, this.fileOf.get(section.id) as string);
    const head = rule.opening === 'heading' || section.kind === 'part' ? this.headingHtml(heading) : '';
    const labelled = head ? ' aria-labelledby="heading"' : ` aria-label="${escapeXml(heading.label)}"`;
    const role = rule.role ? ` role="${rule.role}"` : '';
    const body = `<section epub:type="${rule.epubType}"${role}${labelled} class="${CLASS[section.kind] ?? section.kind}">\n${[pages, head, text, gathered].filter(Boolean).join('\n')}\n</section>`;
    return {
      id: `t${index + 1}`,
      href: this.fileOf.get(section.id) as string,
      xhtml: xhtmlFile(
        heading.label,
        this.book.record.language,
        '../style.css',
        body,
        ` epub:type="${section.matter}matter"`,
      ),
    };
  }

  /** A note's place in the section that gathers it; null for one that stands where it is called, and for that section's own. */
  private noteHref(section: Section, note: Node): string | null {
    const { gatherer } = this.noted;
    if (!gatherer || gatherer.id === section.id) return null;
    if (this.noted[note.attrs.kind as NoteKind] !== 'elsewhere') return null;
    const file = this.fileOf.get(gatherer.id) as string;
    return `${file.slice(5)}#${this.noteId(section, note)}`;
  }

  /** Notes of two sections may have the same id. */
  private noteId(section: Section, note: Node): string {
    return `note-${this.sections.indexOf(section) + 1}-${idIn(note.attrs.id as string)}`;
  }

  private gatheredNotes(writer: SectionWriter): string {
    return this.sections
      .flatMap((s) => {
        const marks = noteMarks(s.content, this.noted.signs);
        const own = notesIn(s.content).filter(
          (n) => this.noteHref(s, n) !== null && marks.has(n.attrs.id as string),
        );
        if (own.length === 0) return [];
        const file = (this.fileOf.get(s.id) as string).slice(5);
        const entries = own.map((note) => ({
          note,
          mark: marks.get(note.attrs.id as string) as string,
          id: this.noteId(s, note),
          back: `${file}#${callOf(note.attrs.id as string)}`,
        }));
        return [writer.gathered(this.headings.get(s.id)?.label ?? '', entries)];
      })
      .join('\n');
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

  private recordPage(section: Section, writer: SectionWriter): string {
    const { record } = this.book;
    if (section.kind === 'half-title') return `<p>${escapeXml(record.title)}</p>`;
    if (section.kind === 'title-page') {
      const classes: Record<string, string> = {
        title: 'book-title',
        subtitle: 'book-subtitle',
        author: 'author',
        other: 'other',
        imprint: 'imprint',
      };
      return titlePageLines(record)
        .map((l) =>
          l.role === 'title'
            ? `<h1 class="book-title">${escapeXml(l.text)}</h1>`
            : `<p class="${classes[l.role]}">${escapeXml(l.text)}</p>`,
        )
        .join('\n');
    }
    if (section.kind !== 'copyright-page') return writer.body(recordContent(section, record));
    return copyrightLines(record, this.edition)
      .map((l) => `<p>${escapeXml(l)}</p>`)
      .join('\n');
  }

  private pictureHref(id: string): { href: string; width: number; height: number } | null {
    const file = this.pictureFiles.get(id);
    const picture = this.book.pictures.find((p) => p.id === id);
    if (!file || !picture) return null;
    if (!this.used.includes(picture)) this.used.push(picture);
    return { href: `../${file}`, width: picture.width, height: picture.height };
  }

  /** "section" or "section#block" → a file and fragment seen from another text file. */
  private placeHref(target: string): string | null {
    const [asked = '', block = ''] = target.split('#');
    // A block may have come to stand in another section than the one it was named in.
    const section =
      block === '' || this.anchors.get(asked)?.has(block)
        ? asked
        : ([...this.anchors].find(([, ids]) => ids.has(block))?.[0] ?? asked);
    const file = this.fileOf.get(section);
    if (!file) return null;
    // A block that is gone, or that the file does not show, is looked for in its section.
    const fragment = this.anchors.get(section)?.has(block) ? `#${idIn(block)}` : '';
    return `${file.startsWith('text/') ? file.slice(5) : `../${file}`}${fragment}`;
  }

  private coverFile(cover: Picture): PublicationDocument {
    const title = this.book.record.title;
    const body = `<section epub:type="cover" aria-label="Cover" class="cover">\n<img role="doc-cover" src="../${this.pictureFiles.get(cover.id)}" alt="${escapeXml(`Cover of ${title}`)}"/>\n</section>`;
    const xhtml = xhtmlFile('Cover', this.book.record.language, '../style.css', body);
    return { id: 'cover', href: 'text/cover.xhtml', xhtml };
  }

  private hrefOf(e: ContentsEntry): string {
    const shown = e.block !== null && this.anchors.get(e.section.id)?.has(e.block);
    return `${this.fileOf.get(e.section.id)}${shown ? `#${idIn(e.block as string)}` : ''}`;
  }
}

/** Ids of the blocks of a section that hold words. */
function blocksOf({ content }: Section): Set<string> {
  const ids = new Set<string>();
  content.descendants((n) => {
    if (n.isTextblock) ids.add(n.attrs.id as string);
    return !n.isTextblock;
  });
  return ids;
}

const NONE: ReadonlySet<string> = new Set();
const CLASS: Record<string, string> = { 'copyright-page': 'copyright' };
