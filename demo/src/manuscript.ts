/** Demo texts as a word processor would save them. The light markup of demo/texts is ours alone: see `blockOf`. */
import {
  AlignmentType,
  Bookmark,
  Document,
  EndnoteReferenceRun,
  FootnoteReferenceRun,
  HeadingLevel,
  ImageRun,
  InternalHyperlink,
  LevelFormat,
  Packer,
  PageBreak,
  Paragraph,
  SimpleField,
  Table,
  TableCell,
  TableRow,
  TextRun,
  type ParagraphChild,
} from 'docx';
import { pictureInfo } from '@pagina/core/base';

export interface DemoText {
  title: string;
  author: string;
  docx: Uint8Array;
}

/** `pictures` are PNG files by the names that the text uses. */
export async function manuscript(
  source: string,
  pictures: ReadonlyMap<string, Uint8Array>,
): Promise<DemoText> {
  const lines = source.split('\n');
  const facts: Record<string, string> = {};
  while (/^[a-z]+: /.test(lines[0] ?? '')) {
    const [, key, value] = /^([a-z]+): (.*)$/.exec(lines.shift() as string) as unknown as [
      string,
      string,
      string,
    ];
    facts[key] = value;
  }
  const notes = { foot: [] as string[], end: [] as string[] };
  const runs: Runs = (text) =>
    text
      .split(PARTS)
      .filter(Boolean)
      .map((part) => {
        const inner = part.replace(/^[{*]+[=@]?|[}*]+$/g, '');
        if (part.startsWith('{{')) return new EndnoteReferenceRun(notes.end.push(inner));
        if (part.startsWith('{=')) return new SimpleField(entryField(inner));
        if (part.startsWith('{@'))
          return new InternalHyperlink({ anchor: anchorOf(inner), children: [new TextRun('1')] });
        if (part.startsWith('{')) return new FootnoteReferenceRun(notes.foot.push(inner));
        return part.startsWith('*') && part.length > 2
          ? new TextRun({ text: inner, italics: true })
          : new TextRun(part);
      });
  const children = [...frontPages(facts), ...inOrder(lines, runs, (l) => blockOf(l, runs, pictures))];
  const doc = new Document({
    title: facts.title,
    creator: facts.author,
    styles: {
      default: { document: { run: { font: 'Georgia', size: 24, language: { value: 'en-GB' } } } },
      paragraphStyles: ['Verse', 'Quote', 'Letter', 'Caption'].map((name) => ({
        id: name,
        name,
        basedOn: 'Normal',
      })),
    },
    numbering: {
      config: [
        { reference: 'list', levels: [{ level: 0, format: LevelFormat.BULLET, text: '•' }] },
        { reference: 'steps', levels: [{ level: 0, format: LevelFormat.DECIMAL, text: '%1.' }] },
      ],
    },
    footnotes: notesOf(notes.foot, runs),
    endnotes: notesOf(notes.end, runs),
    sections: [{ children }],
  });
  return {
    title: facts.title ?? '',
    author: facts.author ?? '',
    docx: new Uint8Array(await Packer.toBuffer(doc)),
  };
}

type Runs = (text: string) => ParagraphChild[];
/** Italics, notes of both kinds, entries of the index, and links to headings. */
const PARTS = /(\*[^*]+\*|\{\{.+?\}\}|\{[^}]+\})/;

const notesOf = (texts: readonly string[], runs: Runs) =>
  Object.fromEntries(
    texts.map((n, i) => [i + 1, { children: [new Paragraph({ children: runs(n) })] }] as const),
  );

/** "tides: neap" and "ebb>tides", an entry that leads to another, as XE fields. */
function entryField(entry: string): string {
  const [term = '', to] = entry.split('>');
  return `XE "${term.replace(': ', ':')}"${to ? ` \\t "see ${to}"` : ''}`;
}

const anchorOf = (heading: string): string => `h_${heading.toLowerCase().replace(/[^a-z]+/g, '_')}`;
const heading = (
  level: (typeof HeadingLevel)[keyof typeof HeadingLevel],
  text: string,
  runs: Runs,
  breaks = true,
) =>
  new Paragraph({
    heading: level,
    pageBreakBefore: breaks,
    children: [new Bookmark({ id: anchorOf(text), children: runs(text) })],
  });

/** Lines that begin with % are rows of a table, the first of them its head; %% is its caption. Those with + are steps. */
function inOrder(
  lines: readonly string[],
  runs: Runs,
  blocks: (line: string) => Paragraph[],
): (Paragraph | Table)[] {
  const out: (Paragraph | Table)[] = [];
  let rows: string[][] = [];
  /** Each list of steps counts from one. */
  let instance = 0;
  let stepping = false;
  for (const line of [...lines, '']) {
    if (line.startsWith('+ ')) {
      if (!stepping) instance++;
      stepping = true;
      const numbering = { reference: 'steps', level: 0, instance };
      out.push(new Paragraph({ numbering, children: runs(line.slice(2)) }));
      continue;
    }
    if (line !== '') stepping = false;
    if (line.startsWith('% ')) {
      rows.push(line.slice(2).split(' | '));
      continue;
    }
    if (rows.length > 0) out.push(tableOf(rows, runs));
    rows = [];
    if (line.startsWith('%% ')) out.push(new Paragraph({ style: 'Caption', children: runs(line.slice(3)) }));
    else out.push(...blocks(line));
  }
  return out;
}

/** Columns of numbers are ranged right. */
function tableOf(rows: readonly string[][], runs: Runs): Table {
  const isNumber = (k: number): boolean => rows.slice(1).every((r) => /^[£\d½–., ]+$/.test(r[k] ?? ''));
  return new Table({
    rows: rows.map(
      (cells, r) =>
        new TableRow({
          tableHeader: r === 0,
          children: cells.map(
            (text, k) =>
              new TableCell({
                children: [
                  new Paragraph({
                    alignment: isNumber(k) ? AlignmentType.RIGHT : AlignmentType.LEFT,
                    children: runs(text),
                  }),
                ],
              }),
          ),
        }),
    ),
  });
}

const centred = (text: string, more: object = {}): Paragraph =>
  new Paragraph({ alignment: AlignmentType.CENTER, children: [new TextRun({ text, ...more })] });
const newPage = (): Paragraph => new Paragraph({ children: [new PageBreak()] });

function frontPages(f: Record<string, string>): Paragraph[] {
  const pages: Paragraph[][] = [
    [
      centred(f.title ?? '', { size: 56, bold: true }),
      ...(f.subtitle ? [centred(f.subtitle, { italics: true })] : []),
      centred(`by ${f.author}`),
    ],
  ];
  if (f.copyright) pages.push([new Paragraph(f.copyright)]);
  if (f.dedication) pages.push([centred(f.dedication, { italics: true })]);
  if (f.epigraph)
    pages.push(
      f.epigraph.split(' | ').map(
        (l, i) =>
          new Paragraph({
            alignment: i === 0 ? AlignmentType.LEFT : AlignmentType.RIGHT,
            children: [new TextRun(i === 0 ? l : `— ${l}`)],
          }),
      ),
    );
  pages.push([new Paragraph({ heading: HeadingLevel.HEADING_1, children: [new TextRun('Contents')] })]);
  return pages.flatMap((p) => [...p, newPage()]);
}

/** `==` a part, `=` a chapter, `=#` another heading, `##` a subhead, `-` a list, `+` steps, `|` verse, `>` a quotation, `~` a letter, `[[name|alt|caption]]`, `* * *`. */
function blockOf(line: string, runs: Runs, pictures: ReadonlyMap<string, Uint8Array>): Paragraph[] {
  const styled = (style: string, text: string): Paragraph[] => [
    new Paragraph({ style, children: runs(text) }),
  ];
  if (line.trim() === '') return [];
  if (line.startsWith('== ')) return [heading(HeadingLevel.HEADING_1, line.slice(3), runs)];
  if (line.startsWith('=# ')) return [heading(HeadingLevel.HEADING_1, line.slice(3), runs)];
  if (line.startsWith('= ')) return [heading(HeadingLevel.HEADING_2, line.slice(2), runs)];
  if (line.startsWith('## ')) return [heading(HeadingLevel.HEADING_3, line.slice(3), runs, false)];
  if (line.startsWith('- '))
    return [new Paragraph({ numbering: { reference: 'list', level: 0 }, children: runs(line.slice(2)) })];
  if (line.startsWith('|')) return styled('Verse', line.replace(/^\| ?/, ''));
  if (line.startsWith('> ')) return styled('Quote', line.slice(2));
  if (line.startsWith('~ ')) return styled('Letter', line.slice(2));
  if (line.trim() === '* * *') return [centred('* * *')];
  const picture = /^\[\[([^|]+)\|([^|]+)\|([^\]]+)\]\]$/.exec(line);
  if (picture) {
    const [, name, alt, caption] = picture as unknown as [string, string, string, string];
    const data = pictures.get(name);
    const size = data && pictureInfo(data);
    if (!data || !size) throw new Error(`there is no picture ${name}`);
    const image = new ImageRun({
      type: 'png',
      data,
      transformation: { width: 400, height: Math.round((400 * size.height) / size.width) },
      altText: { title: caption, description: alt, name },
    });
    return [
      new Paragraph({ alignment: AlignmentType.CENTER, children: [image] }),
      ...styled('Caption', caption),
    ];
  }
  return [new Paragraph({ children: runs(line) })];
}
