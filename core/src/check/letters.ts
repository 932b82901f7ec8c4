/** Two texts that should be the same, letter by letter. */
import { diffArrays } from 'diff';

export interface Letters {
  how: 'same' | 'found' | 'wanted';
  text: string;
}
const segmenter = new Intl.Segmenter('und');
/** What a reader takes for a letter: an accent belongs to what it stands on. */
const lettersIn = (text: string): string[] => [...segmenter.segment(text)].map((s) => s.segment);

/** Longer texts are shown as a whole. */
const LONGEST = 400;

/** Letters that both have, that only the found text has, and that only the wanted one has, in order. */
export function letters(found: string, wanted: string): Letters[] {
  if (found.length + wanted.length > LONGEST)
    return [
      { how: 'found', text: found },
      { how: 'wanted', text: wanted },
    ];
  return diffArrays(lettersIn(found), lettersIn(wanted)).map((p) => ({
    how: p.removed ? 'found' : p.added ? 'wanted' : 'same',
    text: p.value.join(''),
  }));
}

/** Share of the wanted letters from which a line is what was meant. */
const KIN = 0.6;

/** Of several lines the one that is most like the wanted words; null where none is like them. */
export function likest(lines: readonly string[], wanted: string): string | null {
  let best: string | null = null;
  let most = KIN;
  for (const line of lines) {
    const same = letters(line, wanted)
      .filter((l) => l.how === 'same')
      .reduce((n, l) => n + l.text.length, 0);
    const share = same / Math.max(line.length, wanted.length);
    if (share > most) [best, most] = [line, share];
  }
  return best;
}
