/** An old printing read by machine: wrapped lines, heads and page numbers, hyphens at line ends, misread letters. */
import type { Made, Truth } from './truth';

const NUMERALS = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'];
const WIDTH = 62;

export function scanned(seed: number): Made {
  let h = 0x811c9dc5 ^ (seed * 2_246_822_519);
  const die = (n: number): number => {
    h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    h ^= h >>> 16;
    h = (h + 0x9e3779b9) | 0;
    return (h >>> 0) % n;
  };
  const from = <T>(l: readonly T[]): T => l[die(l.length)] as T;
  const clauses = [
    'the pilot would take no money until we were past the bar',
    'I observed with satisfaction that my trunk had been opened by the right people',
    'a considerable number of geese were driven through the church',
    'our host produced a cheese of which I shall say only that it was large',
    'the magistrate enquired whether I was a Commissioner or merely lost',
    'we were overtaken by a funeral travelling at great speed',
  ];
  const opens = [
    'Upon the following day',
    'It being low water',
    'At an inn called the Pelican',
    'To my astonishment',
    'Having no other occupation',
    'Towards evening',
  ];
  const para = (): string =>
    Array.from({ length: 4 + die(4) }, () => `${from(opens)}, ${from(clauses)}.`).join(' ');
  const lines: string[] = [];
  const truth: Truth = {
    title: 'A Tour of the Lesser Estuaries',
    author: 'Theophilus Garland',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: [],
  };
  const centre = (t: string): string => ' '.repeat(Math.max(0, Math.floor((WIDTH - t.length) / 2))) + t;
  lines.push(
    '',
    '',
    centre('A TOUR OF'),
    centre('THE LESSER ESTUARIES'),
    '',
    centre('BY'),
    centre('THEOPHILUS GARLAND'),
    '',
    '',
  );
  const titles = [
    'OF PILOTS',
    'THE PELICAN INN',
    'I AM TAKEN FOR ANOTHER',
    'GEESE',
    'A FUNERAL AT SPEED',
    'OF CHEESE',
    'THE BAR',
    'HOME BY WATER',
  ];
  const count = 5 + die(4);
  let onPage = 0;
  let page = 1;
  const depth = 34;
  const style = die(3);
  const misread = (t: string): string => (die(9) === 0 ? t.replace(/ the /, ' tbe ') : t);
  const put = (l: string): void => {
    lines.push(l);
    if (++onPage < depth) return;
    onPage = 0;
    page++;
    const head = page % 2 === 0 ? 'THE LESSER ESTUARIES.' : 'GARLAND’S TOUR.';
    if (style === 0) lines.push('', centre(String(page - 1)), '\f');
    else if (page % 2 === 0) lines.push(`\f${page}`.padEnd(16) + head, '');
    else lines.push(`\f${centre(head).padEnd(52)}${page}`, '');
  };
  const wrap = (t: string): void => {
    let line = '   ';
    for (const word of misread(t).split(' ')) {
      if (line.trim() === '') line += word;
      else if (line.length + 1 + word.length <= WIDTH) line += ` ${word}`;
      else {
        const room = WIDTH - line.length - 2;
        const cut =
          word.length > 8 && room >= 4 && room < word.length - 3 && /^\p{Ll}+$/u.test(word)
            ? Math.min(room, word.length - 4)
            : 0;
        put(cut ? `${line} ${word.slice(0, cut)}-` : line);
        line = word.slice(cut);
      }
    }
    put(line);
  };
  for (let n = 1; n <= count; n++) {
    lines.push('\f', '');
    onPage = 0;
    page++;
    const spelt = die(5) === 0 ? from(['CHAPTEE', 'CHAPTFR', 'CHAPTER']) : 'CHAPTER';
    const numeral =
      die(6) === 0 ? (NUMERALS[n - 1] as string).replace(/I$/, 'l') : (NUMERALS[n - 1] as string);
    lines.push(centre(`${spelt} ${numeral}.`), '', centre(`${titles[n - 1]}.`), '');
    truth.sections.push({ kind: 'chapter', number: n, title: `${titles[n - 1]}.` });
    const paragraphs = 8 + die(5);
    for (let i = 0; i < paragraphs; i++) {
      wrap(para());
      if (i === 3 && die(2)) {
        lines.push('', centre('*     *     *     *'), '');
        truth.counts.breaks++;
      }
      if (i === 5 && die(3) === 0) {
        lines.push('', centre('NO GEESE BEYOND THIS POINT'), '');
        truth.notHeadings.push('NO GEESE BEYOND THIS POINT');
        wrap('   The geese, I was told, could not read.'.trim());
      }
      if (i === 6 && die(3) === 0) {
        lines.push(
          '',
          '        The bar is high, the bar is low,',
          '          And under it the pilots go,',
          '        And none came up, and none went down',
          '          But owed a shilling in the town.',
          '',
        );
        truth.counts.verse++;
      }
    }
  }
  lines.push('', centre(from(['FINIS.', 'THE END.'])));
  return { name: `scanned-${seed}.txt`, bytes: new TextEncoder().encode(lines.join('\n')), truth };
}
