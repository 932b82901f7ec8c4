/**
 * A manuscript as authors send it, for those who want to see an import before they trust it with their own: no styles, a
 * typed contents list, spaces and tabs for indents, rows of blank lines for page breaks, straight quotation marks, notes
 * and lists typed by hand, an address on the first page and "THE END" on the last. Made of the demo’s own text. Run by hand after that changes:
 * `npx tsx demo/src/sample.ts`
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  AlignmentType,
  Document,
  ImageRun,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
} from 'docx';
import sharp from 'sharp';
import { demoPictures } from './pictures';

const root = join(dirname(fileURLToPath(import.meta.url)), '../..');
const FACE = { font: 'Times New Roman', size: 24 };
const typed = (text: string): string =>
  text
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/[\u201c\u201d]/g, '"')
    .replace(/\u2014|\u2013/g, '--')
    .replace(/\u2026/g, '...');

/** Notes are typed: a number in brackets in the text, and its words at the end. */
const notes: string[] = [];
const plain = (text: string): string =>
  text
    .replace(/\{=[^}]*\}/g, '')
    .replace(/\{@[^}]*\}/g, '00')
    .replace(/\{+([^{}]+)\}+/g, (_, note: string) => `[${notes.push(note)}]`);
const runs = (text: string, more = {}): TextRun[] =>
  typed(plain(text))
    .split(/(\*[^*]+\*)/)
    .filter(Boolean)
    .map((part) =>
      part.startsWith('*')
        ? new TextRun({ ...FACE, ...more, text: part.slice(1, -1), underline: {} })
        : new TextRun({ ...FACE, ...more, text: part }),
    );
const line = (text: string, more = {}): Paragraph => new Paragraph({ children: runs(text, more) });
const middle = (text: string, more = {}): Paragraph =>
  new Paragraph({ alignment: AlignmentType.CENTER, children: runs(text, more) });
const blanks = (n: number): Paragraph[] => Array.from({ length: n }, () => line(''));

const pictures = await demoPictures();
async function picture(name: string, caption: string): Promise<Paragraph[]> {
  const small = await sharp(pictures.get(name))
    .resize({ width: 700 })
    .png({ palette: true, colours: 16 })
    .toBuffer();
  const { height = 400 } = await sharp(small).metadata();
  const image = new ImageRun({
    type: 'png',
    data: small,
    transformation: { width: 400, height: Math.round((400 * height) / 700) },
  });
  return [
    new Paragraph({ alignment: AlignmentType.CENTER, children: [image] }),
    line(caption, { bold: true }),
  ];
}
const table = (rows: readonly string[][]): Table =>
  new Table({
    rows: rows.map(
      (cells) => new TableRow({ children: cells.map((text) => new TableCell({ children: [line(text)] })) }),
    ),
  });

const source = ['roof-bees-1.txt', 'roof-bees-2.txt']
  .map((t) => readFileSync(join(root, 'demo/texts', t), 'utf8'))
  .join('\n')
  .split('\n');
/** Pages that the book makes by itself were never in the manuscript. */
const MADE = /^=# (Notes|Index)$/;
const heads: string[] = [];
const body: (Paragraph | Table)[] = [];
let afterHead = false;
let step = 0;
let rows: string[][] = [];
for (const raw of source.slice(source.findIndex((l) => l.startsWith('='))).filter((l) => !MADE.test(l))) {
  const text = raw.trim();
  if (text.startsWith('% ')) {
    rows.push(text.slice(2).split(' | '));
    continue;
  }
  if (rows.length > 0) body.push(table(rows), line(''));
  rows = [];
  if (text !== '' && !text.startsWith('+ ')) step = 0;
  const head = /^=#? (.*)$/.exec(text)?.[1];
  const shown = /^\[\[([^|]+)\|[^|]+\|([^\]]+)\]\]$/.exec(text);
  if (head) {
    heads.push(head);
    body.push(...blanks(7), middle(head.toUpperCase(), { bold: true }), ...blanks(2));
    afterHead = true;
  } else if (shown) body.push(...(await picture(shown[1] as string, shown[2] as string)));
  else if (text.startsWith('## ')) {
    body.push(line(''), line(text.slice(3), { bold: true }));
    afterHead = true;
  } else if (text.startsWith('%% ')) body.push(line(text.slice(3), { bold: true }));
  else if (text.startsWith('+ ')) body.push(line(`     ${++step}. ${text.slice(2)}`));
  else if (text.startsWith('- ')) body.push(line(`     - ${text.slice(2)}`));
  else if (/^[>~] /.test(text))
    body.push(new Paragraph({ indent: { left: 567 }, children: runs(text.slice(2)) }));
  else if (text !== '') {
    body.push(line(`${afterHead ? '' : '\t'}${text.replace(/([.!?]) (?=\p{Lu})/gu, '$1  ')}`));
    afterHead = false;
  }
}
body.push(...blanks(7), middle('NOTES', { bold: true }), ...blanks(2));
notes.slice().forEach((note, i) => body.push(line(`${i + 1}. ${note}`)));
const front = [
  ...['Tobin Aldergate', '9 Carrow Street, Merrowby', 'tobin@aldergate.example', 'About 7,000 words'].map(
    (l) => line(l),
  ),
  ...blanks(8),
  middle('BEES ON A FLAT ROOF', { bold: true }),
  middle('A First Year, Month by Month'),
  middle('by Tobin Aldergate'),
  ...blanks(9),
  middle('For Ida Quayle, who lived underneath'),
  ...blanks(9),
  line('CONTENTS', { bold: true }),
  ...heads.map((h, i) => line(`${h}\t${3 + i * 4}`)),
];
const file = new Document({
  title: '',
  creator: 'User',
  styles: { default: { document: { run: { language: { value: 'en-GB' } } } } },
  sections: [{ children: [...front, ...body, ...blanks(2), middle('THE END')] }],
});
writeFileSync(join(root, 'web/public/sample-manuscript.docx'), await Packer.toBuffer(file));
