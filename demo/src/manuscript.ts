/** Demo texts as a word processor would save them. The light markup of demo/texts is ours alone: see `blockOf`. */
import {
  AlignmentType,
  Document,
  FootnoteReferenceRun,
  HeadingLevel,
  ImageRun,
  LevelFormat,
  Packer,
  PageBreak,
  Paragraph,
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
  const notes: string[] = [];
  const runs = (text: string): ParagraphChild[] =>
    text
      .split(/(\*[^*]+\*|\{[^}]+\})/)
      .filter(Boolean)
      .map((part) => {
        if (part.startsWith('{')) return new FootnoteReferenceRun(notes.push(part.slice(1, -1)));
        return part.startsWith('*') && part.length > 2
          ? new TextRun({ text: part.slice(1, -1), italics: true })
          : new TextRun(part);
      });
  const children: Paragraph[] = [...frontPages(facts), ...lines.flatMap((l) => blockOf(l, runs, pictures))];
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
      config: [{ reference: 'list', levels: [{ level: 0, format: LevelFormat.BULLET, text: '•' }] }],
    },
    footnotes: Object.fromEntries(
      notes.map((n, i) => [i + 1, { children: [new Paragraph({ children: [new TextRun(n)] })] }]),
    ),
    sections: [{ children }],
  });
  return {
    title: facts.title ?? '',
    author: facts.author ?? '',
    docx: new Uint8Array(await Packer.toBuffer(doc)),
  };
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

/** `==` a part, `=` a chapter, `=#` another heading, `##` a subhead, `-` a list, `|` verse, `>` a quotation, `~` a letter, `[[name|alt|caption]]`, `* * *`. */
function blockOf(
  line: string,
  runs: (t: string) => ParagraphChild[],
  pictures: ReadonlyMap<string, Uint8Array>,
): Paragraph[] {
  const styled = (style: string, text: string): Paragraph[] => [
    new Paragraph({ style, children: runs(text) }),
  ];
  if (line.trim() === '') return [];
  if (line.startsWith('== '))
    return [
      new Paragraph({
        heading: HeadingLevel.HEADING_1,
        pageBreakBefore: true,
        children: runs(line.slice(3)),
      }),
    ];
  if (line.startsWith('=# '))
    return [
      new Paragraph({
        heading: HeadingLevel.HEADING_1,
        pageBreakBefore: true,
        children: runs(line.slice(3)),
      }),
    ];
  if (line.startsWith('= '))
    return [
      new Paragraph({
        heading: HeadingLevel.HEADING_2,
        pageBreakBefore: true,
        children: runs(line.slice(2)),
      }),
    ];
  if (line.startsWith('## '))
    return [new Paragraph({ heading: HeadingLevel.HEADING_3, children: runs(line.slice(3)) })];
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
