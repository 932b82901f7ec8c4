/**
 * A composed page as a document of a fixed size: a drawing with every word at its place, which can be chosen, found and read
 * aloud (EPUB 3.3 §8; SVG 1.1 §10). Drawn from the display list that the PDF is drawn from.
 */
import { escapeXml, type Mp } from '../base';
import {
  FURNITURE,
  GLYPH,
  INK,
  INK_LENGTH,
  isDecoration,
  isHeadingPart,
  LINE_START,
  maskCurves,
  partOf,
  PICT,
  PICT_LENGTH,
  RULE,
  RULE_LENGTH,
  TEXT,
  TEXT_HEAD,
  WINDOW,
  WINDOW_LENGTH,
  type DisplayList,
  type LinkBox,
  type Role,
  type ScreenFacts,
} from '../compose';
import type { Face } from '../type';
import { Ids } from './ids';
import type { WordForms, WordStyles } from './fixedtext';

export interface FixedPageContext {
  /** Faces by their number in the display list. */
  faces: (n: number) => Face;
  forms: WordForms;
  styles: WordStyles;
  facts: ScreenFacts;
  /** A picture of the book by its id, from the page's document; null for one that there is not. */
  pictureHref: (id: string) => string | null;
  /** Alternative text of the next place at which a picture stands; '' for decoration. */
  altOf: (picture: string) => string;
  /** Address of a place of the book, or of the web; null for one that this edition does not carry. */
  href: (target: string) => string | null;
}

/** Points, by two places. */
const pt = (mp: Mp): string => String(Math.round(mp / 10) / 100);

/** Elements of the structure as WAI-ARIA 1.1 and DPUB-ARIA 1.1 name them; others are groups without a name. */
const ROLES: Record<string, string> = {
  L: 'list',
  LI: 'listitem',
  Note: 'doc-footnote',
};
const roleOf = (type: string): string => {
  const level = /^H(\d)$/.exec(type)?.[1];
  if (level) return ` role="heading" aria-level="${level}"`;
  return ROLES[type] ? ` role="${ROLES[type]}"` : '';
};
interface Group {
  key: string;
  open: string;
}

export class FixedPage {
  private readonly out: string[] = [];
  private readonly open: Group[] = [];
  private readonly ids = new Ids();
  private readonly defs: string[] = [];
  private char = 0;
  /** Words with the place at which each begins, for the names of links. */
  private readonly words: { x: Mp; y: Mp; text: string }[] = [];
  private line: string[] = [];
  /** The baseline on which the line begins, and on which its last word stands. */
  private lineAt = { y: 0, pen: 0, scale: 100_000 };
  /** The colour that is drawn in; '' for black. */
  private ink = '';
  /** What is seen of the next picture, as a path; '' for all of it. */
  private seen = '';

  constructor(
    private readonly list: DisplayList,
    private readonly pictures: readonly string[],
    private readonly c: FixedPageContext,
  ) {}

  /** Words and rules take the text's own colour (`currentColor`); outlines are filled. */
  private inked(attribute: 'color' | 'fill'): string {
    return this.ink === '' ? '' : ` ${attribute}="${this.ink}"`;
  }

  /** The drawing, with its links above it. */
  svg(links: readonly LinkBox[]): string {
    const { ops, width, height } = this.list;
    for (let at = 0; at < ops.length;) {
      const op = ops[at] as number;
      if (op === TEXT) at = this.text(at);
      else if (op === RULE) {
        this.within([]);
        const [x, y, w, t] = [1, 2, 3, 4].map((k) => pt(ops[at + k] as number));
        this.out.push(`<rect x="${x}" y="${y}" width="${w}" height="${t}"${this.inked('color')}/>`);
        at += RULE_LENGTH;
      } else if (op === PICT) {
        this.within([]);
        this.picture(at);
        at += PICT_LENGTH;
      } else if (op === WINDOW) {
        const [x, y, w, h] = [1, 2, 3, 4].map((k) => ops[at + k] as number) as [
          number,
          number,
          number,
          number,
        ];
        this.seen = `M${pt(x)} ${pt(y)}H${pt(x + w)}V${pt(y + h)}H${pt(x)}Z`;
        at += WINDOW_LENGTH;
      } else if (op === INK) {
        this.within([]);
        const colour = (ops[at + 1] as number).toString(16).padStart(6, '0');
        this.ink = colour === '000000' ? '' : `#${colour}`;
        at += INK_LENGTH;
      } else throw new Error(`the display list has an unknown command ${op}`);
    }
    this.within([]);
    const size = `${pt(width)} ${pt(height)}`;
    const defs = this.defs.length > 0 ? `<defs>${this.defs.join('')}</defs>\n` : '';
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size}" width="${Math.round(width / 1000)}" height="${Math.round(height / 1000)}">\n${defs}${this.out.join('\n')}${links.map((l) => this.link(l)).join('')}\n</svg>`;
  }

  /** Words of one face, size and line. */
  private text(at: number): number {
    const { ops, text } = this.list;
    const face = this.c.faces(ops[at + 1] as number);
    const size = ops[at + 2] as number;
    let x = ops[at + 3] as number;
    const y = ops[at + 4] as number;
    const count = ops[at + 5] as number;
    const flags = ops[at + 8] as number;
    const scale = ops[at + 9] as number;
    this.within(this.chainOf(flags, this.list.blocks[ops[at + 6] as number] ?? ''));
    if ((flags & LINE_START) !== 0 || this.lineAt.scale !== scale) this.endLine();
    if (this.line.length === 0) this.lineAt = { y, pen: y, scale };
    let k = at + TEXT_HEAD;
    let from = k;
    let start = x;
    let chars = this.char;
    const word = (until: number): void => {
      const spelled = text.slice(chars, this.char);
      if (until > from && spelled !== '')
        this.word(face, size, { from, until, x: start, y, text: spelled, scale });
    };
    for (let g = 0; g < count; g++, k += GLYPH) {
      const own = ops[k + 4] as number;
      if (own === 1 && text[this.char] === ' ') {
        word(k);
        this.char++;
        if (this.line.length > 0) this.line.push(' ');
        x += ops[k + 1] as number;
        from = k + GLYPH;
        start = x;
        chars = this.char;
        continue;
      }
      this.char += own;
      x += ops[k + 1] as number;
    }
    word(k);
    return k;
  }

  private word(
    face: Face,
    size: Mp,
    w: { from: number; until: number; x: Mp; y: Mp; text: string; scale: number },
  ): void {
    const { ops } = this.list;
    const count = (w.until - w.from) / GLYPH;
    const form = this.c.forms.of(face, { ops, from: w.from, count, text: w.text, size, scale: w.scale });
    const style = this.c.styles.of(face.name, size, form, w.text);
    this.words.push({ x: w.x, y: w.y, text: w.text });
    const along = (x: Mp): string => pt((x * 100_000) / w.scale);
    let places = along(w.x);
    if (form.as === 'letters') {
      let x = w.x;
      const all: string[] = [];
      for (let k = w.from; k < w.until; k += GLYPH) {
        all.push(along(x));
        x += ops[k + 1] as number;
      }
      places = all.join(' ');
    }
    if (form.as === 'outlines') this.outlines(face, size, w);
    const hidden = form.as === 'outlines' ? ' fill-opacity="0"' : '';
    // A word that is raised leaves those behind it raised, unless they are put back.
    const y = w.y === this.lineAt.pen ? '' : ` y="${pt(w.y)}"`;
    this.lineAt.pen = w.y;
    this.line.push(`<tspan class="${style}" x="${places}"${y}${hidden}>${escapeXml(w.text)}</tspan>`);
  }

  private outlines(
    face: Face,
    size: Mp,
    { from, until, x: start, y, scale }: { from: number; until: number; x: Mp; y: Mp; scale: number },
  ): void {
    const { ops } = this.list;
    const em = size / face.upem / 1000;
    let x = start;
    for (let k = from; k < until; k += GLYPH) {
      const d = face.path(ops[k] as number);
      const [dx, dy] = [ops[k + 2] as number, ops[k + 3] as number];
      const matrix = [(em * scale) / 100_000, 0, 0, -em].map((n) => Number(n.toPrecision(6))).join(' ');
      if (d)
        this.out.push(
          `<path aria-hidden="true" transform="matrix(${matrix} ${pt(x + dx)} ${pt(y - dy)})" d="${d}"${this.inked('fill')}/>`,
        );
      x += ops[k + 1] as number;
    }
  }

  private endLine(): void {
    if (this.line.length > 0) {
      const { y, scale } = this.lineAt;
      const narrow = scale === 100_000 ? '' : ` transform="scale(${scale / 100_000} 1)"`;
      this.out.push(
        `<text y="${pt(y)}"${narrow}${this.inked('color')}>${this.line.join('').trimEnd()}</text>`,
      );
    }
    this.line = [];
  }

  /** What the words of a block or of a part of the design stand in, from the outermost in. */
  private chainOf(flags: number, block: string): Group[] {
    const part = partOf(flags);
    if ((flags & FURNITURE) !== 0 || isDecoration(part) || (part === '' && block === ''))
      return [{ key: 'hidden', open: '<g aria-hidden="true">' }];
    if (isHeadingPart(part)) return [{ key: 'heading', open: '<g role="heading" aria-level="1">' }];
    if (part !== '') return [{ key: `${part}/${block}`, open: '<g>' }];
    const chain: readonly Role[] = this.c.facts.roles[block] ?? [['P', block]];
    return chain.flatMap(([type, id], i) => {
      const attributes = roleOf(type) + (i === chain.length - 1 ? this.idOf(id) : '');
      // What has no name of its own, and no place that is led to, needs no group.
      return attributes || i === chain.length - 1 ? [{ key: `${type}/${id}`, open: `<g${attributes}>` }] : [];
    });
  }
  private readonly shown = new Set<string>();
  private idOf(block: string): string {
    // Asked for with every stretch; given where the block first stands.
    if (this.shown.has(block)) return '';
    this.shown.add(block);
    return this.ids.attribute(block);
  }

  /** Closes what does not go on, and opens what is new. */
  private within(chain: readonly Group[]): void {
    let same = 0;
    while (same < chain.length && this.open[same]?.key === chain[same]?.key) same++;
    if (same < this.open.length || same < chain.length) this.endLine();
    while (this.open.length > same) {
      this.open.pop();
      this.out.push('</g>');
    }
    for (const group of chain.slice(same)) {
      this.open.push(group);
      this.out.push(group.open);
    }
  }

  private picture(at: number): void {
    const { ops } = this.list;
    const [n, x, y, w, h, mask] = [...ops.subarray(at + 1, at + PICT_LENGTH)] as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const id = this.pictures[n] ?? '';
    const href = this.c.pictureHref(id);
    if (href === null) return;
    const curves = maskCurves(mask, w, h);
    let path = this.seen;
    this.seen = '';
    if (curves) {
      const p = (px: number, py: number): string => `${pt(x + px)} ${pt(y + py)}`;
      path = `${curves
        .map((c) =>
          c.to === 'curve'
            ? `C${p(c.x1, c.y1)} ${p(c.x2, c.y2)} ${p(c.x, c.y)}`
            : `${c.to === 'move' ? 'M' : 'L'}${p(c.x, c.y)}`,
        )
        .join('')}Z`;
    }
    let clip = '';
    if (path !== '') {
      this.defs.push(`<clipPath id="clip-${this.defs.length + 1}"><path d="${path}"/></clipPath>`);
      clip = ` clip-path="url(#clip-${this.defs.length})"`;
    }
    const alt = this.c.altOf(id);
    const said = alt === '' ? 'aria-hidden="true"' : 'role="img"';
    this.out.push(
      `<image ${said} href="${escapeXml(href)}" x="${pt(x)}" y="${pt(y)}" width="${pt(w)}" height="${pt(h)}" preserveAspectRatio="none"${clip}${alt === '' ? '/>' : `><title>${escapeXml(alt)}</title></image>`}`,
    );
  }

  private link({ target, x, y, width, height }: LinkBox): string {
    const href = this.c.href(target);
    if (href === null) return '';
    const words = this.words.filter(
      (w) => w.x >= x - 500 && w.x < x + width && w.y >= y && w.y <= y + height + 500,
    );
    const name = words.map((w) => w.text).join(' ') || target;
    return `\n<a href="${escapeXml(href)}"><title>${escapeXml(name)}</title><rect class="link" x="${pt(x)}" y="${pt(y)}" width="${pt(width)}" height="${pt(height)}"/></a>`;
  }
}
