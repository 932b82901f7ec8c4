/** A novel typed for submission: a typewriter face, an address, chapters half-way down the page, heads in the text. */
import { AlignmentType, Document, Packer, PageBreak, Paragraph, TextRun } from 'docx';
import type { Made, Truth } from './truth';

const PEOPLE = ['Odile', 'Marrick', 'Tobiah', 'Hester', 'Mr Quill', 'the ferryman', 'Aunt Seraphine'];
const PLACES = ['the salt stairs', 'Corbel Street', 'the north lock', 'the ropewalk', 'Vesper Mill'];
const DOINGS = [
  'counted the bottles and came to a different sum',
  'had left the gate unlatched again',
  'pretended not to have heard the bell',
  'carried the lantern as far as the wall',
  'would not say where the money had gone',
  'folded the letter along its old creases',
];
const TURNS = [
  'By then',
  'After the rain',
  'Before anyone was up',
  'On the second evening',
  'Nobody asked why, but',
];
const SAYINGS = [
  '"You might have told me," she said.',
  '"It was never locked," said Tobiah.',
  '"Then row," he said.',
];
const TITLES = [
  'The Salt Stairs',
  'What Hester Kept',
  'Low Water',
  'A Key for Marrick',
  'Bottles',
  'The Long Ropewalk',
];
const SIGNS = ['NO LANDING AFTER DARK', 'KEEP THE GATE SHUT', 'FERRY SUSPENDED'];
const WORDS = 'ONE TWO THREE FOUR FIVE SIX SEVEN EIGHT NINE TEN ELEVEN TWELVE THIRTEEN FOURTEEN'.split(' ');

export async function submission(seed: number): Promise<Made> {
  let state = seed * 2_654_435_761 + 12_345;
  const next = (n: number): number => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fffffff;
    return Math.floor((state / 0x7fffffff) * n) % n;
  };
  const of = <T>(list: readonly T[]): T => list[next(list.length)] as T;
  const sentence = (): string => `${of(TURNS)} ${of(PEOPLE)} ${of(DOINGS)} at ${of(PLACES)}.`;
  const prose = (): string =>
    Array.from({ length: 3 + next(4) }, () => (next(4) === 0 ? of(SAYINGS) : sentence())).join(
      next(2) ? '  ' : ' ',
    );
  const form = next(4);
  const heading = (n: number): string =>
    [`CHAPTER ${WORDS[n - 1]}`, `Chapter ${n}`, String(n), `${WORDS[n - 1]}`][form] as string;
  const sign = of(['#', '* * *', '***', '# # #']);
  const face = 'Courier New';
  const out: Paragraph[] = [];
  const line = (text: string, more: { centre?: boolean; right?: boolean; tab?: boolean } = {}): void =>
    void out.push(
      new Paragraph({
        alignment: more.centre ? AlignmentType.CENTER : more.right ? AlignmentType.RIGHT : AlignmentType.LEFT,
        children: [new TextRun({ text: more.tab ? `\t${text}` : text, font: face, size: 24 })],
      }),
    );
  const blank = (n: number): void => {
    for (let i = 0; i < n; i++) out.push(new Paragraph({}));
  };
  const page = (): void => void out.push(new Paragraph({ children: [new PageBreak()] }));
  const truth: Truth = {
    title: 'The Salt Stair',
    author: 'Ottilie Vance',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: ['THE END'],
  };
  line('Ottilie Vance');
  line('9 Corbel Street');
  line('Saltby SB4 2QT');
  if (next(2)) line('Telephone 555 0188');
  line('ottilie@vance.invalid');
  line(of(['About 82,000 words', 'Word count: 82,000', 'approx. 82,000 words']), { right: next(2) === 0 });
  blank(8 + next(6));
  line('THE SALT STAIR', { centre: true });
  if (next(2)) blank(1);
  if (next(2)) {
    line('by', { centre: true });
    line('Ottilie Vance', { centre: true });
  } else line('by Ottilie Vance', { centre: true });
  const chapters = 6 + next(8);
  let pages = 1;
  const headed = next(2) === 0;
  for (let n = 1; n <= chapters; n++) {
    page();
    blank(next(3) * 3 + 2);
    const title = next(3) === 0 ? of(TITLES) : '';
    line(heading(n), { centre: true });
    if (title) line(title, { centre: true });
    truth.sections.push({ kind: 'chapter', number: n, title });
    blank(1 + next(2));
    const paragraphs = 6 + next(6);
    for (let i = 0; i < paragraphs; i++) {
      line(prose(), { tab: true });
      if (i === 2 && next(2)) {
        line(sign, { centre: true });
        truth.counts.breaks++;
        line(prose(), { tab: true });
      }
      if (i === 4 && next(4) === 0) {
        const board = of(SIGNS);
        line('Somebody had chalked on the door:', { tab: true });
        line(board, { centre: true });
        truth.notHeadings.push(board);
        line('and nobody had wiped it off.');
      }
      if (headed && i === 3) line(`Vance / THE SALT STAIR / ${(pages += 7)}`);
    }
  }
  blank(1);
  line(of(['THE END', 'END', '# # #']), { centre: true });
  const bytes = new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children: out }] })));
  return { name: `submission-${seed}.docx`, bytes, truth };
}
