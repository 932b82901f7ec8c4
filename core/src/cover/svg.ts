/** A drawing as SVG 1.1, letters as outlines: what is seen is what is printed, whatever faces a browser has. */
import { escapeXml } from '../base';
import { GLYPH, PICT, PICT_LENGTH, RULE, RULE_LENGTH, TEXT, TEXT_HEAD } from '../compose';
import type { Box, Drawing } from '../pdf';
import type { Face } from '../type';

export interface SvgOptions {
  /** Address of a picture; '' leaves it out. */
  href: (picture: string) => string;
  /** Pixels of the whole, where the picture is made of it; else it takes the room that it is given. */
  pixels?: { width: number; height: number };
}

const points = (mp: number): string => String(Math.round(mp) / 1000);
const box = (b: Box): string =>
  `x="${points(b.x)}" y="${points(b.y)}" width="${points(b.width)}" height="${points(b.height)}"`;
const TURN = { none: 0, down: 90, up: -90 } as const;

export function drawingSvg(d: Drawing, { href, pixels }: SvgOptions): string {
  const glyphs = new Map<string, string>();
  const id = (face: number, glyph: number): string => {
    const key = `g${face}-${glyph}`;
    if (!glyphs.has(key)) glyphs.set(key, (d.faces[face] as Face).path(glyph));
    return key;
  };
  let clips = 0;
  const body = d.drawn.map((m) => {
    if (m.kind === 'fill') return `<rect ${box(m)} fill="${m.colour}"/>`;
    if (m.kind === 'frame') {
      const t = m.thickness;
      const within = { x: m.x + t / 2, y: m.y + t / 2, width: m.width - t, height: m.height - t };
      return `<rect ${box(within)} fill="none" stroke="${m.colour}" stroke-width="${points(t)}"${m.dashed ? ' stroke-dasharray="4 3"' : ''}/>`;
    }
    if (m.kind === 'picture') {
      const address = href(m.picture);
      if (!address) return `<rect ${box(m.clip)} fill="#d6cfbf"/>`;
      const clip = `c${clips++}`;
      return `<clipPath id="${clip}"><rect ${box(m.clip)}/></clipPath><image ${box(m.box)} preserveAspectRatio="none" clip-path="url(#${clip})" href="${escapeXml(address)}"/>`;
    }
    return `<g transform="translate(${points(m.x)} ${points(m.y)}) rotate(${TURN[m.turn]})" fill="${m.colour}">${letters(d, m.list, id)}</g>`;
  });
  const defs = [...glyphs].map(([key, path]) => `<path id="${key}" d="${path}"/>`).join('');
  const size = pixels ? ` width="${pixels.width}" height="${pixels.height}"` : '';
  return `<svg xmlns="http://www.w3.org/2000/svg"${size} viewBox="0 0 ${points(d.width)} ${points(d.height)}"><defs>${defs}</defs>${body.join('')}</svg>`;
}

function letters(
  d: Drawing,
  { ops }: { ops: Int32Array },
  id: (face: number, glyph: number) => string,
): string {
  const out: string[] = [];
  for (let at = 0; at < ops.length;) {
    const n = (k: number): number => ops[at + k] as number;
    if (n(0) === RULE) {
      out.push(
        `<rect x="${points(n(1))}" y="${points(n(2))}" width="${points(n(3))}" height="${points(n(4))}"/>`,
      );
      at += RULE_LENGTH;
    } else if (n(0) === PICT) at += PICT_LENGTH;
    else if (n(0) === TEXT) {
      const face = d.faces[n(1)] as Face;
      const em = n(2) / 1000 / face.upem;
      const across = em * (n(9) / 100_000);
      let x = n(3);
      for (let g = 0; g < n(5); g++) {
        const k = at + TEXT_HEAD + g * GLYPH;
        const glyph = ops[k] as number;
        if (face.path(glyph) !== '')
          out.push(
            `<use href="#${id(n(1), glyph)}" transform="matrix(${across.toFixed(6)} 0 0 ${(-em).toFixed(6)} ${points(x + (ops[k + 2] as number))} ${points(n(4) - (ops[k + 3] as number))})"/>`,
          );
        x += ops[k + 1] as number;
      }
      at += TEXT_HEAD + n(5) * GLYPH;
    } else break;
  }
  return out.join('');
}
