/**
 * Pages that are laid out one by one, as in a picture book: a picture in a frame, and boxes of words. A section holds either
 * such pages or running text.
 *
 * A frame is [x, y, width, height] in thousandths of the page (of both pages, where one is laid out across a spread), so
 * that the same pages serve any trim. What reaches an edge of the paper bleeds over it.
 */
import { Fragment, type Node, type NodeSpec } from 'prosemirror-model';

export type Frame = readonly [x: number, y: number, width: number, height: number];

/** Thousandths of a page. */
export const WHOLE_PAGE: Frame = [0, 0, 1000, 1000];
/** The least side of a frame, in thousandths. */
export const LEAST_SIDE = 20;

export interface PictureCrop {
  /** Which part of what is cut off lies on the left and at the head, in thousandths: 500 shows the middle. */
  x: number;
  y: number;
  /** Hundredths of the size at which it just fills its frame. */
  zoom: number;
}
export const MOST_ZOOM = 400;

export interface PicturePageAttrs {
  id: string;
  /** Laid out over two pages that face each other. */
  across: boolean;
  /** '' for a page without one. */
  picture: string;
  alt: string;
  decorative: boolean;
  frame: Frame;
  /** The picture fills its frame and is cropped, or stands in it whole. */
  fit: 'fill' | 'whole';
  crop: PictureCrop;
  /** Colour of the paper, as "#rrggbb"; '' for none. */
  ground: string;
}

export interface TextBoxAttrs {
  id: string;
  frame: Frame;
  /** Typeface; '' for that of the design. */
  face: string;
  bold: boolean;
  /** Tenths of a point. */
  size: number;
  /** Hundredths of the size. */
  lineSpace: number;
  colour: string;
  align: 'left' | 'centre' | 'right';
  stand: 'head' | 'middle' | 'foot';
  /** Colour behind the words; '' for none. */
  ground: string;
  /** BCP 47; '' for the book's own. */
  lang: string;
}

/** Sizes that a box’s words may have, in tenths of a point. */
export const BOX_SIZES = { least: 60, most: 1440 } as const;
export const BOX_LINE_SPACES = { least: 80, most: 300 } as const;

const check =
  (what: string, holds: (v: unknown) => boolean) =>
  (v: unknown): void => {
    if (!holds(v)) throw new RangeError(`${what} is not valid`);
  };
const isWhole = (v: unknown, least: number, most: number): boolean =>
  Number.isInteger(v) && (v as number) >= least && (v as number) <= most;
const isFrame = (v: unknown): boolean =>
  Array.isArray(v) &&
  v.length === 4 &&
  v.every((n, i) => isWhole(n, i < 2 ? 0 : LEAST_SIDE, 1000)) &&
  v[0] + v[2] <= 1000 &&
  v[1] + v[3] <= 1000;
const isCrop = (v: unknown): boolean => {
  const { x, y, zoom } = (v ?? {}) as Record<string, unknown>;
  return isWhole(x, 0, 1000) && isWhole(y, 0, 1000) && isWhole(zoom, 100, MOST_ZOOM);
};
export const isColour = (v: unknown): v is string => typeof v === 'string' && /^#[0-9a-f]{6}$/.test(v);
const oneOf = (...all: readonly string[]) => check(all.join('/'), (v) => all.includes(v as string));
const colourOrNone = check('a colour', (v) => v === '' || isColour(v));
const frame = check('a frame', isFrame);

/** An attribute as a data attribute of HTML, and back. */
const written = (n: Node): Record<string, string> =>
  Object.fromEntries(
    Object.entries(n.attrs).map(([k, v]) => [
      `data-${k.toLowerCase()}`,
      typeof v === 'string' ? v : JSON.stringify(v),
    ]),
  );
function read(el: HTMLElement, defaults: object): Record<string, unknown> {
  const attrs: Record<string, unknown> = {};
  for (const [k, usual] of Object.entries(defaults)) {
    const text = el.getAttribute(`data-${k.toLowerCase()}`);
    if (text === null) continue;
    try {
      attrs[k] = typeof usual === 'string' ? text : JSON.parse(text);
    } catch {
      attrs[k] = usual;
    }
  }
  return attrs;
}

const PAGE: PicturePageAttrs = {
  id: '',
  across: false,
  picture: '',
  alt: '',
  decorative: false,
  frame: WHOLE_PAGE,
  fit: 'fill',
  crop: { x: 500, y: 500, zoom: 100 },
  ground: '',
};
const BOX: TextBoxAttrs = {
  id: '',
  frame: [100, 750, 800, 180],
  face: '',
  bold: false,
  size: 180,
  lineSpace: 130,
  colour: '#000000',
  align: 'left',
  stand: 'head',
  ground: '',
  lang: '',
};

type Checks<T> = Record<keyof T, string | ((v: unknown) => void)>;
const PAGE_CHECKS: Checks<PicturePageAttrs> = {
  id: 'string',
  across: 'boolean',
  picture: 'string',
  alt: 'string',
  decorative: 'boolean',
  frame,
  fit: oneOf('fill', 'whole'),
  crop: check('a crop', isCrop),
  ground: colourOrNone,
};
const BOX_CHECKS: Checks<TextBoxAttrs> = {
  id: 'string',
  frame,
  face: 'string',
  bold: 'boolean',
  size: check('a size', (v) => isWhole(v, BOX_SIZES.least, BOX_SIZES.most)),
  lineSpace: check('a line space', (v) => isWhole(v, BOX_LINE_SPACES.least, BOX_LINE_SPACES.most)),
  colour: check('a colour', isColour),
  align: oneOf('left', 'centre', 'right'),
  stand: oneOf('head', 'middle', 'foot'),
  ground: colourOrNone,
  lang: 'string',
};
const attrsOf = <T extends object>(defaults: T, checks: Checks<T>): NodeSpec['attrs'] =>
  Object.fromEntries(
    Object.entries(defaults).map(([k, value]) => [
      k,
      { default: value as unknown, validate: checks[k as keyof T] },
    ]),
  );

/** What of an element fits the schema; the rest is as in a fresh page or box. */
const kept = <T extends object>(el: HTMLElement, defaults: T, checks: Checks<T>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(read(el, defaults)).filter(([k, v]) => {
      const test = checks[k as keyof T];
      if (typeof test === 'string') return typeof v === test;
      try {
        test(v);
        return true;
      } catch {
        return false;
      }
    }),
  );

/** Nodes of the schema. */
export const pictureNodes: Record<'picturePage' | 'textBox', NodeSpec> = {
  picturePage: {
    content: 'textBox*',
    attrs: attrsOf(PAGE, PAGE_CHECKS),
    isolating: true,
    defining: true,
    parseDOM: [{ tag: 'section.picture-page', getAttrs: (el) => kept(el, PAGE, PAGE_CHECKS) }],
    toDOM: (n) => ['section', { class: 'picture-page', ...written(n) }, 0],
  },
  textBox: {
    content: 'paragraph+',
    attrs: attrsOf(BOX, BOX_CHECKS),
    isolating: true,
    defining: true,
    parseDOM: [{ tag: 'div.text-box', getAttrs: (el) => kept(el, BOX, BOX_CHECKS) }],
    toDOM: (n) => ['div', { class: 'text-box', ...written(n) }, 0],
  },
};

export const pageAttrs = (n: Node): PicturePageAttrs => n.attrs as PicturePageAttrs;
export const boxAttrs = (n: Node): TextBoxAttrs => n.attrs as TextBoxAttrs;

/** Whether a section’s content is laid out page by page. */
export const isPictured = (content: Node): boolean => content.firstChild?.type.name === 'picturePage';

/** Whether a node shows a picture of the book, with words for those who do not see it. */
export const showsPicture = ({ type, attrs }: Node): boolean =>
  type.name === 'figure' || (type.name === 'picturePage' && attrs.picture !== '');

/** Colours that the pages of these texts are drawn in, beside black. */
export function coloursOf(contents: Iterable<Node>): string[] {
  const found = new Set<string>();
  for (const content of contents) {
    if (!isPictured(content)) continue;
    content.descendants((n) => {
      for (const colour of [n.attrs.ground, n.attrs.colour] as unknown[])
        if (isColour(colour)) found.add(colour);
      return n.type.name === 'picturePage';
    });
  }
  found.delete('#000000');
  return [...found].sort();
}

/** Typefaces that the boxes of these texts ask for. */
export function facesAsked(contents: Iterable<Node>): string[] {
  const found = new Set<string>();
  for (const content of contents)
    if (isPictured(content))
      content.descendants((n) => {
        if (n.type.name === 'textBox' && n.attrs.face !== '') found.add(n.attrs.face as string);
        return n.type.name === 'picturePage';
      });
  return [...found].sort();
}

/**
 * The same as running text, for forms that have no pages of their own: each page's picture, then its words, then a new page.
 * Other texts are answered as they are.
 */
export function asRunningText(content: Node): Node {
  if (!isPictured(content)) return content;
  const { nodes } = content.type.schema;
  const blocks: Node[] = [];
  content.forEach((page, _o, i) => {
    const { id, picture, alt, decorative } = pageAttrs(page);
    if (i > 0) blocks.push(nodes.pageBreak!.create({ id: `${id}-before` }));
    if (picture !== '') blocks.push(nodes.figure!.create({ id, picture, alt, decorative }));
    page.forEach((box) => {
      const { id: own, align, lang } = boxAttrs(box);
      const said: Node[] = [];
      box.forEach((p) => void (p.content.size > 0 && said.push(lang === '' ? p : inLanguage(p, lang))));
      if (align === 'left') blocks.push(...said);
      else if (said.length > 0) blocks.push(nodes.passage!.create({ id: own, align }, said));
    });
  });
  if (blocks.length === 0)
    blocks.push(nodes.paragraph!.create({ id: pageAttrs(content.firstChild as Node).id }));
  return content.copy(Fragment.fromArray(blocks));
}

function inLanguage(p: Node, tag: string): Node {
  const mark = p.type.schema.marks.language!.create({ tag });
  const children: Node[] = [];
  p.forEach(
    (n) => void children.push(n.marks.some((m) => m.type === mark.type) ? n : n.mark(mark.addToSet(n.marks))),
  );
  return p.copy(Fragment.fromArray(children));
}
