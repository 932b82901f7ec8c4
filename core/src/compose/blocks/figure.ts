/** A picture with its caption, as one block that is never divided. */
import type { Node } from 'prosemirror-model';
import { inches, type Mp, type Place } from '../../base';
import { placeOf, type Picture } from '../../book';
import { rowsOf, type Interior } from '../../design';
import type { Side } from '../sheets';
import type { FlowBlock, Item, PictureItem, RuleItem, MadeWords } from '../lines';
import { maskNumber } from './mask';
import { solid } from './opening';
import type { Setter } from './setter';
import { captionOf } from './caption';
import { rowsEach } from './stack';

/** Dots an inch below which a picture looks coarse in print; it is rather drawn smaller. */
export const COARSE = 150;
/** Rows that a picture leaves for its caption and for the text around it. */
const SPARED = 3;

/** Null for a figure with neither picture nor words. On a page of its own it stands in the middle. */
export function figureBlock(
  s: Setter,
  place: Place,
  node: Node,
  picture: Picture | undefined,
  made: MadeWords,
  /** Rows that it leaves free on its page. */
  spared = SPARED,
): FlowBlock | null {
  const { leading } = s.interior.text;
  const total = rowsOf(s.interior);
  const items: Item[] = [];
  const at = placeOf(node);
  const stands = at === 'here' || at === 'above' ? undefined : at;
  const alone = stands === 'page';
  const caption = captionOf(s, node, made);
  const notes = new Map<number, readonly string[]>();
  let rows = 0;
  if (picture && (stands === 'edges' || stands === 'spread'))
    return overEdges(s, place, node, picture, stands);
  if (picture) {
    const most = Math.max(2, total - (alone ? (caption ? 2 : 0) : spared)) * leading;
    const share = alone ? 100 : Number(node.attrs.width);
    let width = Math.min(
      Math.round((s.measure * share) / 100),
      Math.max(leading, Math.round((picture.width * 72_000) / COARSE)),
    );
    let height = Math.round((width * picture.height) / picture.width);
    if (height > most) {
      width = Math.max(1000, Math.round((width * most) / height));
      height = most;
    }
    height = Math.max(1000, height);
    rows = Math.ceil((height + leading / 4) / leading);
    items.push({
      kind: 'picture',
      picture: picture.id,
      alt: node.attrs.alt as string,
      mask: maskNumber(node.attrs.mask as string),
      x: Math.round((s.measure - width) / 2),
      row: 0,
      dy: 0,
      width,
      height,
    });
    if (s.interior.pictures.frame && node.attrs.mask === 'none')
      items.push(...frame(Math.round((s.measure - width) / 2), width, height));
  }
  if (caption) {
    const each = rowsEach(s, s.interior.pictures.caption.size);
    for (const [row, ids] of caption.notes) notes.set(rows + row * each, ids);
    for (const item of caption.items) if ('atRow' in item) items.push(item.atRow(rows + item.row * each));
    rows += caption.rows * each;
  }
  if (rows === 0) return null;
  const down = alone ? Math.max(0, Math.floor((total - rows) / 2)) : 0;
  const lowered = items.map((i) => ('atRow' in i ? i.atRow(i.row + down) : { ...i, row: i.row + down }));
  const block = solid(place.section, Math.min(total, rows + down), lowered, {
    place,
    ...(stands ? { kind: 'float', stands } : {}),
  });
  return { ...block, best: { ...block.best, notes } };
}

/** Rows of text that stand under an opening with pictures above it. */
const UNDER_OPENING = 4;

/** Pictures above a section's title: they leave room for it, and for some text, on their page. */
export function picturesOver(
  s: Setter,
  section: string,
  nodes: readonly Node[],
  opening: FlowBlock,
  pictures: ReadonlyMap<string, Picture>,
  made: MadeWords,
): FlowBlock[] {
  const below = opening.best.rows + UNDER_OPENING;
  const total = rowsOf(s.interior);
  // Each has its share of what is left.
  const spared = total - Math.floor((total - below) / Math.max(1, nodes.length));
  return nodes.flatMap((node) => {
    const place = { section, block: node.attrs.id as string };
    const block = figureBlock(s, place, node, pictures.get(node.attrs.picture as string), made, spared);
    return block ? [{ ...block, keep: below }] : [];
  });
}

/** What is cut off at each edge, so that a picture that reaches it leaves no white line (common practice). */
export const BLEED: Mp = inches(0.125);

/** A picture that fills a page or two and what is cut off of them; where it lies its page says. */
function overEdges(
  s: Setter,
  place: Place,
  node: Node,
  picture: Picture,
  stands: 'edges' | 'spread',
): FlowBlock {
  const { trim } = s.interior;
  const across = (stands === 'spread' ? 2 : 1) * trim.width + 2 * BLEED;
  const scale = Math.max(across / picture.width, (trim.height + 2 * BLEED) / picture.height);
  const item: PictureItem = {
    kind: 'picture',
    picture: picture.id,
    alt: node.attrs.alt as string,
    mask: maskNumber('none'),
    x: 0,
    row: 0,
    dy: 0,
    width: Math.round(picture.width * scale),
    height: Math.round(picture.height * scale),
    over: stands === 'spread' ? 'spread' : 'page',
  };
  return solid(place.section, rowsOf(s.interior), [item], { place, kind: 'float', stands });
}

/** Where a picture over the edges lies on a page: from the left of its type area, and from its head. */
export function lies(
  item: PictureItem,
  { trim, margins }: Pick<Interior, 'trim' | 'margins'>,
  side: Side,
): { x: Mp; y: Mp } {
  const left = side === 'recto' ? margins.inside : margins.outside;
  const sheet = item.over === 'spread' ? 2 * trim.width : trim.width;
  const before = item.over === 'spread' && side === 'recto' ? trim.width : 0;
  return {
    x: Math.round((sheet - item.width) / 2) - before - left,
    y: Math.round((trim.height - item.height) / 2),
  };
}

const FRAME: Mp = 400;
/** Four rules around a picture; the baseline of row 0 stands lower than the picture's head. */
function frame(x: Mp, width: Mp, height: Mp): RuleItem[] {
  const rule = (dx: Mp, dy: Mp, w: Mp, h: Mp): RuleItem => ({
    kind: 'rule',
    x: x + dx,
    row: 0,
    dy,
    width: w,
    thickness: h,
    fromHead: true,
  });
  return [
    rule(0, 0, width, FRAME),
    rule(0, height - FRAME, width, FRAME),
    rule(0, 0, FRAME, height),
    rule(width - FRAME, 0, FRAME, height),
  ];
}
