/** The back: the book's description, the author with portrait and short life, the device, the barcode. */
import type { Mp } from '../base';
import type { Picture } from '../book';
import type { Passage } from '../compose';
import type { Box } from '../pdf';
import { filling, fitted, type Pen } from './pen';
import { marginOf, type CoverGeometry } from './geometry';

export interface BackWords {
  text: string;
  life: string;
  imprint: string;
}

/** Sizes tried for the text, in points; it is never smaller than what reads well on a cover. */
const SIZES = [13, 12.5, 12, 11.5, 11, 10.5, 10, 9.5, 9, 8.5, 8] as const;
const LEADING = 1.34;

const paragraphs = (text: string): string[] =>
  text
    .split(/\n+/)
    .map((p) => p.trim())
    .filter(Boolean);

/** Draws all but the barcode; answers whether the text fits. */
export function drawBack(
  pen: Pen,
  words: BackWords,
  pictures: { portrait: Picture | null; device: Picture | null },
  { back, barcode }: Pick<CoverGeometry, 'back' | 'barcode'>,
): boolean {
  const { ink, accent } = pen.plan;
  const margin = marginOf(back.width);
  const inner: Box = {
    x: back.x + margin,
    y: back.y + Math.round(margin * 1.15),
    width: back.width - 2 * margin,
    height: 0,
  };
  // Text ends above the barcode, or above where one would be put by the printer.
  inner.height = barcode.y - Math.round(margin * 0.7) - inner.y;
  const at = (points: number): { text: Passage; life: Passage | null; size: Mp; portrait: Mp; depth: Mp } => {
    const size = Math.round(points * 1000);
    const leading = Math.round(size * LEADING);
    const text = pen.set(paragraphs(words.text), {
      manner: { size },
      measure: inner.width,
      leading,
      align: 'left',
      between: Math.round(leading * 0.5),
    });
    const portrait = pictures.portrait ? Math.round(inner.width * 0.24) : 0;
    const beside = portrait ? portrait + Math.round(margin * 0.45) : 0;
    const small = Math.max(8_000, size - 1_000);
    const life = words.life
      ? pen.set(paragraphs(words.life), {
          manner: { size: small },
          measure: inner.width - beside,
          leading: Math.round(small * LEADING),
          align: 'left',
        })
      : null;
    const foot = Math.max(life ? life.depth + small : 0, portrait);
    const apart = foot && text.lines ? Math.round(margin * 0.75) : 0;
    return { text, life, size, portrait, depth: (text.lines ? text.depth + size : 0) + apart + foot };
  };
  const sets = SIZES.map((s) => () => at(s));
  let set = (sets[0] as () => ReturnType<typeof at>)();
  for (const next of sets.slice(1)) {
    if (set.depth <= inner.height) break;
    set = next();
  }
  let y = inner.y;
  if (set.text.lines > 0) {
    pen.words(set.text, inner.x, y + Math.round(set.size * 0.72), ink);
    pen.part('back', { ...inner, height: set.text.depth + set.size });
    y += set.text.depth + set.size;
  } else pen.part('back', { ...inner, height: Math.round(inner.height / 3) });
  if (set.life || set.portrait) {
    if (set.text.lines > 0) {
      y += Math.round(margin * 0.375);
      pen.fill({ x: inner.x, y, width: Math.round(inner.width * 0.12), height: 750 }, accent);
      y += Math.round(margin * 0.375);
    }
    const beside = set.portrait ? set.portrait + Math.round(margin * 0.45) : 0;
    if (pictures.portrait) {
      const box = { x: inner.x, y, width: set.portrait, height: set.portrait };
      pen.picture(pictures.portrait.id, filling(pictures.portrait, box, { x: 50, y: 30 }), box);
      pen.part('portrait', box);
    }
    if (set.life) {
      const small = Math.max(8_000, set.size - 1_000);
      pen.words(set.life, inner.x + beside, y + Math.round(small * 0.72), ink);
      pen.part('life', {
        x: inner.x + beside,
        y,
        width: inner.width - beside,
        height: set.life.depth + small,
      });
    }
  }
  device(pen, words.imprint, pictures.device, inner, barcode);
  return set.depth <= inner.height;
}

/** The imprint's device and name stand level with the foot of the barcode. */
function device(pen: Pen, imprint: string, picture: Picture | null, inner: Box, barcode: Box): void {
  const foot = barcode.y + barcode.height;
  const width = barcode.x - inner.x - 12_000;
  if (width < 20_000) return;
  let y = foot;
  if (imprint) {
    const size = 9_000;
    const set = pen.set([imprint], {
      manner: { size, smallCaps: true },
      measure: width,
      leading: 11_000,
      align: 'left',
      balance: true,
    });
    y -= set.depth;
    pen.words(set, inner.x, y, pen.plan.ink);
    y -= size + 4_000;
  }
  if (picture) {
    const most = {
      x: inner.x,
      y: 0,
      width: Math.min(width, 54_000),
      height: Math.min(54_000, y - barcode.y),
    };
    if (most.height <= 8_000) return;
    const box = fitted(picture, most);
    pen.picture(picture.id, { ...box, x: inner.x, y: y - box.height });
    pen.part('device', { ...box, x: inner.x, y: y - box.height });
  }
}
