/**
 * A manuscript as authors send it, for those who want to see an import before they trust it with their own: no styles, a
 * typed contents list, spaces and tabs for indents, rows of blank lines for page breaks, straight quotation marks, an
 * address on the first page and "THE END" on the last. Made of the demo’s own text. Run by hand after that changes:
 * `npx tsx demo/src/sample.ts`
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { AlignmentType, Document, Packer, Paragraph, TextRun } from 'docx';

const root = join(dirname(fileURLToPath(import.meta.url)), '../..');
const FACE = { font: 'Times New Roman', size: 24 };
const typed = (text: string): string =>
  text
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/[\u201c\u201d]/g, '"')
    .replace(/\u2014|\u2013/g, '--')
    .replace(/\u2026/g, '...');

const runs = (text: string, more = {}): TextRun[] =>
  typed(text)
    .replace(/\{[^}]*\}/g, '')
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

const source = ['salt-clerk-1.txt', 'salt-clerk-2.txt']
  .map((t) => readFileSync(join(root, 'demo/texts', t), 'utf8'))
  .join('\n')
  .split('\n');
const heads: string[] = [];
const body: Paragraph[] = [];
let afterHead = false;
for (const raw of source.slice(source.findIndex((l) => l.startsWith('=')))) {
  const text = raw.trim();
  const head = /^=+#? (.*)$/.exec(text)?.[1];
  if (head) {
    heads.push(head);
    body.push(
      ...blanks(9),
      text.startsWith('==') ? middle(head.toUpperCase(), { bold: true }) : line(head, { bold: true }),
      ...blanks(2),
    );
    afterHead = true;
  } else if (text === '* * *') body.push(middle('#'));
  else if (text.startsWith('|')) body.push(line(`          ${text.replace(/^\| ?/, '')}`));
  else if (/^[>~] /.test(text)) body.push(line(`     ${text.slice(2)}`));
  else if (text !== '' && !text.startsWith('[[')) {
    body.push(line(`${afterHead ? '' : '\t'}${text.replace(/([.!?]) (?=\p{Lu})/gu, '$1  ')}`));
    afterHead = false;
  }
}
const front = [
  ...[
    'Maren Oakhollis',
    '4 Weighing House Steps, Pellmouth',
    'maren@oakhollis.example',
    'About 6,000 words',
  ].map((l) => line(l)),
  ...blanks(8),
  middle('THE SALT CLERK', { bold: true }),
  middle('A Novel in Three Tides'),
  middle('by Maren Oakhollis'),
  ...blanks(9),
  line('CONTENTS', { bold: true }),
  ...heads.map((h, i) => line(`${h}\t${3 + i * 4}`)),
];
const file = new Document({
  title: '',
  creator: 'User',
  sections: [{ children: [...front, ...body, ...blanks(2), middle('THE END')] }],
});
writeFileSync(join(root, 'web/public/sample-manuscript.docx'), await Packer.toBuffer(file));
