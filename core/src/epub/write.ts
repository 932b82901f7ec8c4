/**
 * The reflowable EPUB 3.3 (W3C Recommendation) of an edition: one XHTML file a section, navigation made from the same
 * contents list as the printed page, an NCX beside it for older readers, accessibility metadata from the content.
 */
import { digestOf, done, escapeXml, refused, uuidOf, writeZip, type Outcome, type ZipPart } from '../base';
import {
  kindRule,
  opensText,
  sectionsOf,
  type Book,
  type Edition,
  type Picture,
  type Section,
} from '../book';
import { textLines, type Composition } from '../compose';
import { designOf, numberingWith, type Design } from '../design';
import {
  contentsOf,
  figuresOf,
  copyrightLines,
  hasText,
  headingsOf,
  indexOf,
  isStanding,
  listsFigures,
  makesIndex,
  standingContent,
  titlePageLines,
  type ContentsEntry,
  type Heading,
} from '../order';
import { bareIsbn } from '../record';
import { contentsList, depthOfContents, indexList, navPoints } from './navigation';
import { accessMeta, factsOf } from './access';
import { idIn } from './ids';
import { bookMeta } from './metadata';
import { styleSheet } from './style';
import { anchorsOf, pageMark, SectionWriter, xhtmlFile, type PageMark } from './xhtml';

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

interface TextFile {
  id: string;
  name: string;
  section: Section;
  xhtml: string;
}

const EXTENSION: Record<Picture['type'], string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
};
const encode = (s: string): Uint8Array => new TextEncoder().encode(s);

/** Errors: `epub/edition`, `epub/empty`, `epub/title`. */
export function writeEpub(input: EpubInput): Outcome<Uint8Array> {
  const { book, edition: editionId } = input;
  const edition = book.editions.find((e) => e.id === editionId);
  if (!edition) return refused('epub/edition', `There is no edition “${editionId}” in this book.`);
  const sections = sectionsOf(book, edition.id);
  if (sections.length === 0)
    return refused('epub/empty', `The ${edition.name.toLowerCase()} has no sections yet.`);
  if (!book.record.title.trim())
    return refused(
      'epub/title',
      'The book has no title yet: an ebook cannot be made without one. Write it in the record.',
    );
  return done(new EpubWriter(input, edition, sections).write());
}

class EpubWriter {
  private readonly book: Book;
  private readonly pictures: EpubInput['pictures'];
  private readonly design: Design;
  private readonly headings: Map<string, Heading>;
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
    private readonly edition: Edition,
    private readonly sections: readonly Section[],
  ) {
    const { book, pictures, print } = input;
    this.book = book;
    this.pictures = pictures;
    this.design = designOf(edition);
    this.anchors = new Map(
      sections.map((s) => [s.id, isStanding(s, book.record) ? NONE : anchorsOf(s.content)]),
    );
    const naming = { ...book, numbering: numberingWith(book.numbering, this.design) };
    this.headings = headingsOf(sections, naming, edition);
    const listed = contentsOf(sections, naming, edition.contents.levels).filter(
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
        s.kind === 'contents' ? 'nav.xhtml' : `text/s${String(i + 1).padStart(3, '0')}.xhtml`,
      ),
    );
    this.cover = book.pictures.find((p) => p.id === book.record.cover && pictures.has(p.id));
    for (const p of book.pictures)
      if (pictures.has(p.id)) this.pictureFiles.set(p.id, `pictures/${p.id}.${EXTENSION[p.type]}`);
    if (print) this.markPages(print.composition);
  }

  write(): Uint8Array {
    const texts = this.sections.filter((s) => s.kind !== 'contents').map((s, i) => this.textFile(s, i));
    const style = this.style();
    const parts: ZipPart[] = [
      { name: 'mimetype', bytes: encode('application/epub+zip'), stored: true },
      { name: 'META-INF/container.xml', bytes: encode(CONTAINER) },
      { name: 'EPUB/package.opf', bytes: encode(this.packageFile(texts)) },
      { name: 'EPUB/nav.xhtml', bytes: encode(this.navFile()) },
      { name: 'EPUB/toc.ncx', bytes: encode(this.ncxFile()) },
      { name: 'EPUB/style.css', bytes: encode(style) },
    ];
    if (this.cover) parts.push({ name: 'EPUB/text/cover.xhtml', bytes: encode(this.coverFile(this.cover)) });
    for (const t of texts) parts.push({ name: `EPUB/${t.name}`, bytes: encode(t.xhtml) });
    for (const p of this.allPictures())
      parts.push({
        name: `EPUB/${this.pictureFiles.get(p.id)}`,
        bytes: this.pictures.get(p.id) as Uint8Array,
        stored: true,
      });
    return writeZip(parts);
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

  private textFile(section: Section, index: number): TextFile {
    const rule = kindRule(section.kind);
    const heading = this.headings.get(section.id) as Heading;
    const writer = new SectionWriter(
      {
        pictureHref: (id) => this.pictureHref(id),
        pages: this.pages,
        placeHref: (target) => this.placeHref(target),
        shopHref: (isbn) => this.input.bookAddress?.(isbn) ?? null,
      },
      opensText(section.kind),
    );
    const text = isStanding(section, this.book.record)
      ? this.standing(section, writer)
      : hasText(section.content)
        ? writer.body(section.content)
        : listsFigures(section)
          ? contentsList(figuresOf(this.sections), (e) => this.hrefOf(e).replace('text/', ''))
          : makesIndex(section)
            ? indexList(indexOf(this.sections, this.book.record.language), (to) => this.placeHref(to))
            : '';
    const opening = this.sectionPages.get(section.id) ?? [];
    const pages = opening.map(pageMark).join('');
    for (const label of [...opening, ...writer.marked])
      this.markedIn.set(label, this.fileOf.get(section.id) as string);
    const head = rule.opening === 'heading' || section.kind === 'part' ? this.headingHtml(heading) : '';
    const labelled = head ? ' aria-labelledby="heading"' : ` aria-label="${escapeXml(heading.label)}"`;
    const role = rule.role ? ` role="${rule.role}"` : '';
    const body = `<section epub:type="${rule.epubType}"${role}${labelled} class="${CLASS[section.kind] ?? section.kind}">\n${[pages, head, text].filter(Boolean).join('\n')}\n</section>`;
    const name = this.fileOf.get(section.id) as string;
    return {
      id: `t${index + 1}`,
      name,
      section,
      xhtml: xhtmlFile(
        heading.label,
        this.book.record.language,
        '../style.css',
        body,
        ` epub:type="${section.matter}matter"`,
      ),
    };
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

  private standing(section: Section, writer: SectionWriter): string {
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
    if (section.kind !== 'copyright-page') return writer.body(standingContent(section, record));
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
    const [section = '', block = ''] = target.split('#');
    const file = this.fileOf.get(section);
    if (!file) return null;
    // A block that is gone, or that the file does not show, is looked for in its section.
    const fragment = this.anchors.get(section)?.has(block) ? `#${idIn(block)}` : '';
    return `${file.startsWith('text/') ? file.slice(5) : `../${file}`}${fragment}`;
  }

  private coverFile(cover: Picture): string {
    const title = this.book.record.title;
    const body = `<section epub:type="cover" aria-label="Cover" class="cover">\n<img role="doc-cover" src="../${this.pictureFiles.get(cover.id)}" alt="${escapeXml(`Cover of ${title}`)}"/>\n</section>`;
    return xhtmlFile('Cover', this.book.record.language, '../style.css', body);
  }

  private hrefOf(e: ContentsEntry): string {
    const shown = e.block !== null && this.anchors.get(e.section.id)?.has(e.block);
    return `${this.fileOf.get(e.section.id)}${shown ? `#${idIn(e.block as string)}` : ''}`;
  }

  private navFile(): string {
    const list = contentsList(this.contents, (e) => this.hrefOf(e));
    const contents = this.sections.find((s) => s.kind === 'contents');
    const heading = contents ? (this.headings.get(contents.id)?.title ?? 'Contents') : 'Contents';
    const firstBody = this.sections.find((s) => s.matter === 'body');
    const landmarks = [
      ...(this.cover ? ['<li><a epub:type="cover" href="text/cover.xhtml">Cover</a></li>'] : []),
      `<li><a epub:type="toc" href="nav.xhtml#toc">${escapeXml(heading)}</a></li>`,
      ...(firstBody
        ? [`<li><a epub:type="bodymatter" href="${this.fileOf.get(firstBody.id)}">Start of the text</a></li>`]
        : []),
    ].join('\n');
    const listed = this.pageList();
    const pages = listed.length
      ? `\n<nav epub:type="page-list" role="doc-pagelist" aria-label="Pages" hidden="hidden">\n<ol>\n${listed.map((p) => `<li><a href="${p.href}">${escapeXml(p.label)}</a></li>`).join('\n')}\n</ol>\n</nav>`
      : '';
    const body = `<nav epub:type="toc" role="doc-toc" id="toc" aria-labelledby="toc-heading">\n<h1 id="toc-heading">${escapeXml(heading)}</h1>\n${list}\n</nav>
<nav epub:type="landmarks" aria-label="Landmarks" hidden="hidden">\n<ol>\n${landmarks}\n</ol>\n</nav>${pages}`;
    return xhtmlFile(heading, this.book.record.language, 'style.css', body, ' epub:type="frontmatter"');
  }

  private ncxFile(): string {
    return `<?xml version="1.0" encoding="utf-8"?>
<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1" xml:lang="${escapeXml(this.book.record.language)}">
<head><meta name="dtb:uid" content="${escapeXml(this.identifier())}"/><meta name="dtb:depth" content="${depthOfContents(this.contents)}"/><meta name="dtb:totalPageCount" content="0"/><meta name="dtb:maxPageNumber" content="0"/></head>
<docTitle><text>${escapeXml(this.book.record.title)}</text></docTitle>
<navMap>
${navPoints(this.contents, (e) => this.hrefOf(e))}
</navMap>
</ncx>
`;
  }

  private identifier(): string {
    const isbn = bareIsbn(this.edition.isbn);
    return isbn ? `urn:isbn:${isbn}` : `urn:uuid:${uuidOf(digestOf(`${this.book.id}/${this.edition.id}`))}`;
  }

  private packageFile(texts: readonly TextFile[]): string {
    const { record } = this.book;
    const animated = new Set(this.book.pictures.filter((p) => p.type === 'image/gif').map((p) => p.id));
    const meta = bookMeta(record, {
      identifier: this.identifier(),
      date: this.edition.date,
      modified: this.input.modified ?? '',
      pagesOf: this.input.print && this.markedIn.size > 0 ? bareIsbn(this.input.print.isbn) : null,
    });
    for (const [property, value] of accessMeta(factsOf(this.sections, animated, this.markedIn.size > 0)))
      meta.push(`<meta property="${property}">${escapeXml(value)}</meta>`);
    if (this.cover) meta.push('<meta name="cover" content="cover-picture"/>');
    const manifest = [
      '<item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>',
      '<item id="ncx" href="toc.ncx" media-type="application/x-dtbncx+xml"/>',
      '<item id="style" href="style.css" media-type="text/css"/>',
      ...(this.cover
        ? ['<item id="cover" href="text/cover.xhtml" media-type="application/xhtml+xml"/>']
        : []),
      ...texts.map((t) => `<item id="${t.id}" href="${t.name}" media-type="application/xhtml+xml"/>`),
      ...this.allPictures().map(
        (p, i) =>
          `<item id="${p === this.cover ? 'cover-picture' : `p${i + 1}`}" href="${this.pictureFiles.get(p.id)}" media-type="${p.type}"${p === this.cover ? ' properties="cover-image"' : ''}/>`,
      ),
    ];
    const inSpine = this.sections.map((s) =>
      s.kind === 'contents'
        ? '<itemref idref="nav"/>'
        : `<itemref idref="${texts.find((t) => t.section === s)?.id}"/>`,
    );
    const spine = [...(this.cover ? ['<itemref idref="cover"/>'] : []), ...inSpine];
    const lang = escapeXml(record.language);
    return `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="${lang}">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
${meta.join('\n')}
</metadata>
<manifest>
${manifest.join('\n')}
</manifest>
<spine toc="ncx">
${spine.join('\n')}
</spine>
</package>
`;
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

const CONTAINER = `<?xml version="1.0" encoding="utf-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
<rootfiles><rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/></rootfiles>
</container>
`;
