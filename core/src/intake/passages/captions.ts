/** Captions: by what they say ("Figure 2.1"), or by standing in other type right below a picture. */
import { countWords } from '../../base';
import { isEmpty, isText, type RawBlock, type RawParagraph } from '../raw';
import { isCaptionText } from '../raw';

const LONGEST = 60;
const STYLE = /caption|legende|beschriftung|bildunterschrift|didascalia/i;

/** For each block with a picture, the block that is its caption. */
export function captionsOf(body: readonly RawBlock[], isHead: (at: number) => boolean): Map<number, number> {
  const out = new Map<number, number>();
  const used = new Set<number>();
  const usual = longestOf(body);
  body.forEach((b, at) => {
    if (!isText(b) || b.pictures.length === 0 || b.text.trim() !== '') return;
    const below = near(body, at, 1);
    const above = near(body, at, -1);
    const may = (i: number, test: (p: RawParagraph) => boolean): boolean => {
      const p = body[i];
      return (
        i >= 0 &&
        !used.has(i) &&
        !isHead(i) &&
        isText(p) &&
        p.pictures.length === 0 &&
        !p.list &&
        countWords(p.text, LONGEST) <= LONGEST &&
        test(p)
      );
    };
    const says = (p: RawParagraph): boolean => STYLE.test(p.style) || isCaptionText(p.text.trim());
    const chosen = may(below, says)
      ? below
      : may(above, says)
        ? above
        : may(below, (p) => isSmall(p, b, usual))
          ? below
          : -1;
    if (chosen < 0) return;
    used.add(chosen);
    out.set(at, chosen);
  });
  return out;
}

/** In italics, smaller than the text, or centred below a centred picture; no break, no speech. */
function isSmall(p: RawParagraph, picture: RawParagraph, usual: RawParagraph | null): boolean {
  if (!usual || countWords(p.text, 40) > 40 || p.outline > 0 || countWords(p.text) === 0) return false;
  const smaller = p.size > 0 && usual.size > 0 && p.size < usual.size;
  const slanted = p.italic && !usual.italic;
  const centred = p.align === 'centre' && picture.align === 'centre' && usual.align !== 'centre' && !p.bold;
  return smaller || slanted || centred;
}

/** The next block with anything in it in that direction, one blank line away at most. */
function near(body: readonly RawBlock[], at: number, step: 1 | -1): number {
  let i = at + step;
  if (isEmpty(body[i])) i += step;
  return i >= 0 && i < body.length && !isEmpty(body[i]) ? i : -1;
}

/** The longest paragraph: it shows how the text is set. */
function longestOf(body: readonly RawBlock[]): RawParagraph | null {
  let best: RawParagraph | null = null;
  for (const b of body) if (isText(b) && b.text.length > (best?.text.length ?? 60)) best = b;
  return best;
}
