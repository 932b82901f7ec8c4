/** Draws a display list by glyph outlines: what is seen is what is printed, whatever faces the browser has. */
import {
  GLYPH,
  INK,
  INK_LENGTH,
  maskCurves,
  PICT,
  PICT_LENGTH,
  RULE,
  RULE_LENGTH,
  TEXT,
  TEXT_HEAD,
  WINDOW,
  WINDOW_LENGTH,
  type DisplayList,
} from '@pagina/core/compose';
import type { Face } from '@pagina/core/type';

/** Black is shown as printed ink is seen. */
const BLACK = '#20242a';

const outlines = new WeakMap<Face, Map<number, Path2D>>();
function outline(face: Face, glyph: number): Path2D {
  let of = outlines.get(face);
  if (!of) outlines.set(face, (of = new Map()));
  let path = of.get(glyph);
  if (!path) of.set(glyph, (path = new Path2D(face.path(glyph))));
  return path;
}

const decoded = new Map<string, Promise<ImageBitmap | null>>();
function picture(url: string): Promise<ImageBitmap | null> {
  let p = decoded.get(url);
  if (!p) {
    p = fetch(url).then(
      async (r) => (r.ok ? createImageBitmap(await r.blob()) : null),
      () => null,
    );
    decoded.set(url, p);
  }
  return p;
}

interface Index {
  faces: Face[];
  pictures: string[];
}

/** `width` is the picture's width in pixels of the screen. */
export async function drawPage(
  list: DisplayList,
  index: Index,
  urls: ReadonlyMap<string, string>,
  width: number,
  inColour: boolean,
): Promise<ImageBitmap> {
  const scale = width / list.width;
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(width)),
    Math.max(1, Math.round(list.height * scale)),
  );
  const c = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  c.fillStyle = '#fffdf8';
  c.fillRect(0, 0, canvas.width, canvas.height);
  c.fillStyle = BLACK;
  let seen: readonly number[] | null = null;
  const { ops } = list;
  for (let at = 0; at < ops.length;) {
    const n = (k: number): number => ops[at + k] as number;
    if (n(0) === RULE) {
      c.setTransform(scale, 0, 0, scale, 0, 0);
      c.fillRect(n(1), n(2), n(3), Math.max(n(4), 0.6 / scale));
      at += RULE_LENGTH;
    } else if (n(0) === PICT) {
      const image = await picture(urls.get(index.pictures[n(1)] ?? '') ?? '');
      c.setTransform(1, 0, 0, 1, 0, 0);
      if (image) {
        // As it prints: a black-and-white edition shows its pictures grey.
        c.save();
        if (!inColour) c.filter = 'grayscale(1)';
        if (seen) {
          const [x = 0, y = 0, w = 0, h = 0] = seen;
          c.beginPath();
          c.rect(x, y, w, h);
          c.clip();
        }
        clip(c, n(6), n(2) * scale, n(3) * scale, n(4) * scale, n(5) * scale);
        c.drawImage(image, n(2) * scale, n(3) * scale, n(4) * scale, n(5) * scale);
        c.restore();
      }
      seen = null;
      at += PICT_LENGTH;
    } else if (n(0) === WINDOW) {
      seen = [1, 2, 3, 4].map((k) => n(k) * scale);
      at += WINDOW_LENGTH;
    } else if (n(0) === INK) {
      c.fillStyle = shownInk(n(1), inColour);
      at += INK_LENGTH;
    } else if (n(0) === TEXT) {
      const face = index.faces[n(1)] as Face;
      const em = (n(2) * scale) / face.upem;
      const across = em * (n(9) / 100_000);
      let x = n(3);
      const count = n(5);
      for (let g = 0; g < count; g++) {
        const k = at + TEXT_HEAD + g * GLYPH;
        const glyph = ops[k] as number;
        c.setTransform(
          across,
          0,
          0,
          -em,
          (x + (ops[k + 2] as number)) * scale,
          (n(4) - (ops[k + 3] as number)) * scale,
        );
        c.fill(outline(face, glyph));
        x += ops[k + 1] as number;
      }
      at += TEXT_HEAD + count * GLYPH;
    } else break;
  }
  return canvas.transferToImageBitmap();
}

/** A colour as it prints: grey in a black-and-white edition (luminance by ITU-R BT.709). */
function shownInk(colour: number, inColour: boolean): string {
  if (colour === 0) return BLACK;
  const [r = 0, g = 0, b = 0] = [16, 8, 0].map((shift) => (colour >> shift) & 255);
  const grey = Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b);
  return inColour ? `rgb(${r} ${g} ${b})` : `rgb(${grey} ${grey} ${grey})`;
}

/** Cuts what is drawn next to a picture's outline. */
function clip(
  c: OffscreenCanvasRenderingContext2D,
  mask: number,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  const curves = maskCurves(mask, width, height);
  if (!curves) return;
  c.beginPath();
  for (const p of curves) {
    if (p.to === 'curve') c.bezierCurveTo(x + p.x1, y + p.y1, x + p.x2, y + p.y2, x + p.x, y + p.y);
    else if (p.to === 'move') c.moveTo(x + p.x, y + p.y);
    else c.lineTo(x + p.x, y + p.y);
  }
  c.closePath();
  c.clip();
}
