/** Lists typed by hand: "1.", "a)", "(iv)", "•" at the head of paragraphs that follow one another. */
import { countWords, fromRoman } from '../../base';
import type { RawParagraph } from '../raw';
import type { Setting } from './setting';
import type { Stretch } from './stretch';

const NUMBERED = /^\s*\(?(\d{1,3}|[a-z]|[ivxl]{1,6})[.)]\s+(?=\S)/;
const BULLET = /^\s*([\u2022\u25e6\u25aa\u25ab\u2023\u00b7\u25cf\u25cb\u25a0\u2013\u2014*-])\s+(?=\S)/u;
/** Words of a paragraph that is no list’s item any more. */
const LONG = 120;

interface Mark {
  kind: 'figures' | 'letters' | 'roman' | 'bullet';
  value: number;
  sign: string;
}

/** The marks that a paragraph may begin with: "i." is a letter and a roman number. */
function marksOf(p: RawParagraph): Mark[] {
  const numbered = NUMBERED.exec(p.text)?.[1];
  if (numbered !== undefined) {
    if (/^\d/.test(numbered)) return [{ kind: 'figures', value: Number(numbered), sign: '' }];
    const roman = fromRoman(numbered);
    return [
      ...(numbered.length === 1
        ? [{ kind: 'letters' as const, value: numbered.charCodeAt(0) - 96, sign: '' }]
        : []),
      ...(roman ? [{ kind: 'roman' as const, value: roman, sign: '' }] : []),
    ];
  }
  const sign = BULLET.exec(p.text)?.[1];
  return sign ? [{ kind: 'bullet', value: 0, sign }] : [];
}

/** Letters of a paragraph that are its mark, with the space behind. */
export const markLength = (text: string): number =>
  (NUMBERED.exec(text) ?? BULLET.exec(text))?.[0].length ?? 0;

export function listAt(s: Setting, from: number): Stretch | null {
  const first = s.text(from);
  if (!first || first.text.includes('\n')) return null;
  let best: Stretch | null = null;
  for (const mark of marksOf(first)) {
    let to = from + 1;
    let items = 1;
    let last = mark;
    for (let at = s.next(to).at; at < s.body.length; at = s.next(at + 1).at) {
      const p = s.text(at);
      const next = p && countWords(p.text, LONG) <= LONG && marksOf(p).find((m) => follows(last, m));
      if (!p || !next || p.indented !== first.indented) break;
      last = next;
      items++;
      to = at + 1;
    }
    // A dash begins speech in many languages: only lines that stand apart from the text are a list of dashes.
    const dashes = /[\u2013\u2014-]/.test(mark.sign);
    const least = dashes ? 3 : 2;
    if (items < least || (dashes && !((s.apart(first) && first.indented) || s.movedIn(first)))) continue;
    if (mark.kind !== 'bullet' && mark.value > 1 && items < 3) continue;
    if (!best || to > best.to)
      best = {
        form: 'list',
        from,
        to,
        ordered: mark.kind !== 'bullet',
        start: mark.kind === 'bullet' ? 1 : mark.value,
        numbers: mark.kind === 'bullet' ? 'figures' : mark.kind,
      };
  }
  return best;
}

const follows = (a: Mark, b: Mark): boolean =>
  a.kind === b.kind && (a.kind === 'bullet' ? a.sign === b.sign : b.value === a.value + 1);
