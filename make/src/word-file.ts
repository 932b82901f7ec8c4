/**
 * The manuscript as a .docx with real styles, for an editor or an outlet: headings by level, notes as notes, pictures
 * with their alternative text, links. What a section is stands in a bookmark at its head, so that the file comes in again
 * as the book it was.
 */
import {
  AlignmentType,
  Bookmark,
  Document,
  HeadingLevel,
  ImageRun,
  InternalHyperlink,
  Packer,
  Paragraph,
  SimpleField,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
  type IParagraphOptions,
  type ParagraphChild,
} from 'docx';
import type { Node } from 'prosemirror-model';
import { done, refused, seeWord, type ListNumbers, type Outcome } from '@pagina/core/base';
import {
  altOf,
  asRunningText,
  headingWord,
  isTerms,
  kindRule,
  picturesAbove,
  type Book,
  type NoteKind,
  type Section,
} from '@pagina/core/book';
import {
  captionsListedBy,
  captionsOf,
  contentsOf,
  copyrightLines,
  hasText,
  headingsOf,
  isFromRecord,
  makesIndex,
  recordContent,
  titlePageLines,
} from '@pagina/core/order';
import { authorsLine } from '@pagina/core/record';
import { entryField } from './word-index';
import { BULLETS, LISTS, NUMBERS, PARAGRAPH_STYLES } from './word-styles';
import { MONOSPACE, WordText } from './word-text';

/** Measure of the page in twentieths of a point: A4 with margins of an inch. */
const MEASURE_POINTS = 451;
const HEADINGS = [
  HeadingLevel.HEADING_1,
  HeadingLevel.HEADING_2,
  HeadingLevel.HEADING_3,
  HeadingLevel.HEADING_4,
  HeadingLevel.HEADING_5,
  HeadingLevel.HEADING_6,
] as const;
/** Name of the bookmark that says what kind of section begins; readers of the house know it. */
const kindMark = (kind: Section['kind'], n: number): string => `section_${kind.replaceAll('-', '_')}_${n}`;

/**
 * Errors: `word/empty`. `pictures` answers a picture's file by its id, `shop` the address of a book in the shop that the file
 * is for by its ISBN; links to books are bare words where there is none.
 */
export async function makeWordFile(
  book: Book,
  pictures: (id: string) => Uint8Array | null,
  shop: (isbn: string) => string | null = () => null,
): Promise<Outcome<Uint8Array>> {
  if (book.sections.length === 0) return refused('word/empty', 'The book has no section yet.');
  return done(await new WordWriter(book, pictures, shop).write());
}

class WordWriter {
  private readonly notes: Record<NoteKind, Record<string, { children: Paragraph[] }>> = { foot: {}, end: {} };
  private readonly text: WordText;
  private readonly headingLevel: number;
  private lists = 0;
  /** What pages list of the book: contents, captions. */
  private readonly listed: ReadonlyMap<string, Paragraph[]>;

  constructor(
    private readonly book: Book,
    private readonly pictures: (id: string) => Uint8Array | null,
    shop: (isbn: string) => string | null,
  ) {
    this.headingLevel = book.sections.some((s) => s.kind === 'part') ? 1 : 0;
    this.text = new WordText(book, shop);
    this.listed = new Map(
      book.sections.filter((s) => !hasText(s.content)).map((s) => [s.id, this.entriesOf(s)]),
    );
  }

  async write(): Promise<Uint8Array> {
    const { record, sections } = this.book;
    const headings = headingsOf(sections, this.book);
    const children = sections.flatMap((s, i) => this.section(s, i, headings.get(s.id)));
    const document = new Document({
      title: record.title,
      creator: authorsLine(record),
      description: '',
      styles: {
        default: {
          document: { run: { font: 'Times New Roman', size: 24, language: { value: record.language } } },
        },
        paragraphStyles: PARAGRAPH_STYLES,
      },
      numbering: {
        config: LISTS,
      },
      features: { updateFields: sections.some(makesIndex) },
      footnotes: this.notes.foot,
      endnotes: this.notes.end,
      sections: [{ children }],
    });
    return new Uint8Array(await Packer.toArrayBuffer(document));
  }

  private section(
    s: Section,
    index: number,
    heading: { number: string; title: string; subtitle: string; label: string } | undefined,
  ): (Paragraph | Table)[] {
    const rule = kindRule(s.kind);
    const marks = [kindMark(s.kind, index + 1), this.text.targets.get(s.id) ?? ''].filter(Boolean);
    const marked = (children: ParagraphChild[]): ParagraphChild[] =>
      marks.reduce<ParagraphChild[]>((inner, id) => [new Bookmark({ id, children: inner })], children);
    const page = (lines: readonly string[], style?: string): Paragraph[] =>
      lines.map(
        (text, i) =>
          new Paragraph({
            style: i === 0 ? style : undefined,
            alignment: style ? AlignmentType.CENTER : undefined,
            pageBreakBefore: i === 0,
            children: i === 0 ? marked([new TextRun(text)]) : [new TextRun(text)],
          }),
      );
    const { record } = this.book;
    const fromRecord = isFromRecord(s, record);
    if (fromRecord && s.kind === 'half-title') return page([record.title || 'Untitled']);
    if (fromRecord && s.kind === 'title-page')
      return page(
        titlePageLines(record).map((l) => (l.role === 'author' ? `by ${l.text}` : l.text)),
        'Title',
      );
    if (fromRecord && s.kind === 'copyright-page')
      return page(copyrightLines(record, this.book.editions[0] ?? { ...noEdition }));
    if (makesIndex(s)) return this.index(s, marked);
    const content = fromRecord ? recordContent(s, record) : asRunningText(s.content);
    const out: (Paragraph | Table)[] = [];
    const level = s.kind === 'part' ? 0 : this.headingLevel;
    const line =
      heading && (rule.opening === 'heading' || s.kind === 'part')
        ? [heading.number, heading.title].filter(Boolean).join(': ') || (s.titled ? '' : heading.label)
        : '';
    const above = line ? picturesAbove({ kind: s.kind, content }) : [];
    this.takeNotes(content);
    const listed = this.listed.get(s.id) ?? [];
    const body =
      listed.length > 0 ? listed : content.children.slice(above.length).flatMap((n) => this.block(n, level));
    if (line)
      out.push(
        ...above.flatMap((n, i) => this.figure(n, i === 0)),
        new Paragraph({
          heading: HEADINGS[level],
          pageBreakBefore: above.length === 0,
          children: marked([new TextRun(line)]),
        }),
        ...(heading?.subtitle ? [new Paragraph({ style: 'Subtitle', text: heading.subtitle })] : []),
        ...body,
      );
    else out.push(new Paragraph({ pageBreakBefore: true, children: marked([new TextRun('')]) }), ...body);
    return out;
  }

  /** The entries of a page of contents or captions, each leading to its place. */
  private entriesOf(s: Section): Paragraph[] {
    const { book } = this;
    const captions = captionsListedBy(s);
    const entries =
      s.kind === 'contents'
        ? contentsOf(book.sections, book)
        : captions
          ? captionsOf(book.sections, book, captions)
          : [];
    return entries.map(({ section, block, heading, depth }) => {
      const at = book.sections.indexOf(section);
      const anchor = block ? this.text.aim(`${section.id}#${block}`) : kindMark(section.kind, at + 1);
      const words = [heading.number, heading.title].filter(Boolean).join(': ') || heading.label;
      return new Paragraph({
        style: captions ? 'TableofFigures' : `TOC${depth + 1}`,
        children: [new InternalHyperlink({ anchor, children: [new TextRun(words)] })],
      });
    });
  }

  /** An index that the word processor makes from the fields, with the entries that lead to others. */
  private index(s: Section, marked: (children: ParagraphChild[]) => ParagraphChild[]): Paragraph[] {
    const { language } = this.book.record;
    const title = s.titled ? s.title || headingWord('index', language) : '';
    const see = this.book.indexSee.map(
      ({ term, to }) => new SimpleField(entryField(term, { to: `${seeWord(false, language)} ${to}` })),
    );
    return [
      new Paragraph({
        heading: HEADINGS[this.headingLevel],
        pageBreakBefore: true,
        children: marked([new TextRun(title)]),
      }),
      new Paragraph({ children: [...see, new SimpleField('INDEX \\e ", " \\c "2"')] }),
    ];
  }

  private takeNotes(doc: Node): void {
    doc.forEach((n) => {
      if (n.type.name !== 'noteBody') return;
      const kind = n.attrs.kind as NoteKind;
      const number = Object.keys(this.notes[kind]).length + 1;
      this.text.notes.set(n.attrs.id as string, { kind, number });
      this.notes[kind][number] = {
        children: this.children(n, (p) => new Paragraph({ children: this.text.inline(p) })),
      };
    });
  }

  private children<T>(n: Node, f: (c: Node, i: number) => T): T[] {
    const out: T[] = [];
    n.forEach((c, _o, i) => void out.push(f(c, i)));
    return out;
  }

  private paragraph(n: Node, more: IParagraphOptions = {}): Paragraph {
    return new Paragraph({ ...more, children: this.text.inline(n) });
  }

  private block(n: Node, level: number): (Paragraph | Table)[] {
    switch (n.type.name) {
      case 'paragraph':
        return [this.paragraph(n)];
      case 'subhead':
        return [this.paragraph(n, { heading: HEADINGS[Math.min(5, level + Number(n.attrs.level))] })];
      case 'break':
        return [
          n.attrs.ornament
            ? new Paragraph({ alignment: AlignmentType.CENTER, text: '* * *' })
            : new Paragraph({}),
        ];
      case 'pageBreak':
        return [new Paragraph({ pageBreakBefore: true })];
      case 'quotation':
      case 'letter':
        return this.children(n, (p) =>
          this.paragraph(p, {
            style:
              p.type.name === 'attribution' ? 'Attribution' : n.type.name === 'letter' ? 'Letter' : 'Quote',
          }),
        );
      case 'verse':
        return this.children(n, (stanza, i) => {
          if (stanza.type.name === 'attribution') return [this.paragraph(stanza, { style: 'Attribution' })];
          const lines = this.children(
            stanza,
            (line) =>
              new Paragraph({
                style: 'Verse',
                children: [new TextRun('    '.repeat(Number(line.attrs.indent))), ...this.text.inline(line)],
              }),
          );
          return i > 0 ? [new Paragraph({ style: 'Verse' }), ...lines] : lines;
        }).flat();
      case 'list':
        return this.list(n, 0, ++this.lists);
      case 'figure':
        return this.figure(n);
      case 'passage': {
        const align = n.attrs.align as string;
        const alignment =
          align === 'right'
            ? AlignmentType.RIGHT
            : align === 'inset'
              ? AlignmentType.LEFT
              : AlignmentType.CENTER;
        const indent = align === 'inset' ? { left: 567, right: 567 } : undefined;
        return this.children(n, (p) => this.paragraph(p, { alignment, indent }));
      }
      case 'monospace':
        return [
          new Paragraph({
            style: 'Preformatted',
            children: n.textContent
              .split('\n')
              .map((text, i) => new TextRun({ text, font: MONOSPACE, break: i > 0 ? 1 : 0 })),
          }),
        ];
      case 'tableCaption':
        return [
          new Paragraph({
            style: 'Caption',
            keepNext: true,
            children: [...this.text.label(n.attrs.id as string), ...this.text.inline(n)],
          }),
        ];
      case 'table':
        return [
          new Table({
            width: { size: 100, type: WidthType.PERCENTAGE },
            rows: this.children(
              n,
              (row) =>
                new TableRow({
                  tableHeader: row.firstChild?.attrs.head === true || undefined,
                  children: this.children(
                    row,
                    (cell) =>
                      new TableCell({
                        columnSpan: Number(cell.attrs.colspan),
                        rowSpan: Number(cell.attrs.rowspan),
                        children: this.children(cell, (c) =>
                          this.inCell(c, cell.attrs.align as string),
                        ).flat(),
                      }),
                  ),
                }),
            ),
          }),
        ];
      default:
        return [];
    }
  }

  private inCell(n: Node, align: string): (Paragraph | Table)[] {
    if (n.type.name !== 'paragraph') return this.block(n, 0);
    const alignment =
      align === 'right' ? AlignmentType.RIGHT : align === 'centre' ? AlignmentType.CENTER : undefined;
    return [this.paragraph(n, { alignment })];
  }

  private list(n: Node, level: number, instance: number): Paragraph[] {
    const reference = n.attrs.ordered ? NUMBERS[n.attrs.numbers as ListNumbers] : BULLETS;
    return this.children(n, (item) =>
      this.children(item, (c, i) =>
        c.type.name === 'list'
          ? this.list(c, level + 1, ++this.lists)
          : [
              this.paragraph(
                c,
                isTerms(n)
                  ? i === 0
                    ? {
                        style: 'DefinitionTerm',
                        keepNext: item.childCount > 1,
                        indent: { left: 720 * level },
                      }
                    : { style: 'Definition', indent: { left: 720 * (level + 1) } }
                  : i === 0
                    ? { numbering: { reference, level: Math.min(level, 5), instance } }
                    : { indent: { left: 720 * (level + 1) } },
              ),
            ],
      ).flat(),
    ).flat();
  }

  private figure(n: Node, pageBreakBefore = false): Paragraph[] {
    const picture = this.book.pictures.find((p) => p.id === n.attrs.picture);
    const bytes = picture ? this.pictures(picture.id) : null;
    const out: Paragraph[] = [];
    if (picture && bytes) {
      const width = Math.min(picture.width, Math.round((MEASURE_POINTS * Number(n.attrs.width)) / 100));
      const alt = altOf(n);
      out.push(
        new Paragraph({
          alignment: AlignmentType.CENTER,
          pageBreakBefore,
          children: [
            new ImageRun({
              type: picture.type === 'image/jpeg' ? 'jpg' : picture.type === 'image/gif' ? 'gif' : 'png',
              data: bytes,
              transformation: {
                width,
                height: Math.max(1, Math.round((width * picture.height) / picture.width)),
              },
              altText: { name: picture.name || picture.id, title: alt, description: alt },
            }),
          ],
        }),
      );
    }
    const credit = n.attrs.credit as string;
    if (n.content.size > 0 || credit)
      out.push(
        new Paragraph({
          style: 'Caption',
          children: [
            ...this.text.label(n.attrs.id as string),
            ...this.text.inline(n),
            ...(credit ? [new TextRun(`${n.content.size > 0 ? ' ' : ''}${credit}`)] : []),
          ],
        }),
      );
    return out;
  }
}

const noEdition = { id: '', name: '', isbn: '' } as Book['editions'][number];
