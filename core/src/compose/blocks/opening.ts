/** How a section begins: number, title, subtitle over a sink; drop cap; the words of the first paragraph. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import { rowsOf } from '../../design';
import type { Heading } from '../../order';
import type { FlowBlock, Item, LineItem } from '../lines';
import type { Manner, ParagraphForm, Setter } from './setter';
import { smaller, squeezed, Stack } from './stack';

const NO_NOTES: ReadonlyMap<number, readonly string[]> = new Map();
const NO_HYPHENS: ReadonlySet<number> = new Set();

/** A solid block of items. */
export function solid(
  section: string,
  rows: number,
  items: readonly Item[],
  more: Partial<FlowBlock> = {},
): FlowBlock {
  return {
    place: { section },
    kind: 'solid',
    before: 0,
    keep: 0,
    best: { rows, cost: 0, items, hyphenAt: NO_HYPHENS, notes: NO_NOTES },
    others: null,
    atEdge: null,
    heading: false,
    ...more,
  };
}

/** Rows of text that a page with an opening holds at least. */
const BELOW_OPENING = 4;

/** The heading of a chapter or of any other section that has one. A long one takes from its white, then from its letters. */
export function openingBlock(
  s: Setter,
  section: string,
  heading: Heading,
  sinkRows: number,
): FlowBlock | null {
  if (!heading.number && !heading.title && !heading.subtitle) return null;
  const most = Math.max(1, rowsOf(s.interior) - BELOW_OPENING);
  const made = squeezed(sinkRows, most, ({ sink, share }) => stacked(s, heading, sink, share));
  return solid(section, made.rows, made.items, { keep: 2, heading: true });
}

function stacked(
  s: Setter,
  heading: Heading,
  sink: number,
  share: number,
): { items: readonly Item[]; rows: number } {
  const o = s.interior.opening;
  const { align } = heading.title ? o.title : o.number;
  const stack = new Stack(s, sink);
  const ornament = (at: typeof o.ornamentAt): void => {
    if (o.ornament && o.ornamentAt === at)
      stack.ornament(o.ornament, align, 'opening.ornament').skip(at === 'below' ? 0 : 1);
  };
  ornament('above');
  if (o.rules === 'above' || o.rules === 'both') {
    stack.rule(1, align);
    // Large letters rise above their own row, into the rule.
    if (!heading.number && o.title.size > s.interior.text.leading) stack.skip(1);
  }
  if (heading.number) {
    stack.line(heading.number, smaller(o.number, share), 'opening.number', true);
    if (o.rules === 'both' && heading.title) stack.rule(1, align);
    if (heading.title) stack.skip(1);
  }
  if (heading.number && heading.title) ornament('between');
  stack
    .line(heading.title, smaller(o.title, share), 'opening.title')
    .line(heading.subtitle, smaller(o.subtitle, share), 'opening.subtitle');
  if (o.rules === 'below') stack.rule(1, align);
  if (o.ornament && o.ornamentAt === 'below') stack.skip(1);
  ornament('below');
  return { items: stack.items, rows: stack.row + o.gap - 1 };
}

export interface DropCap {
  /** Characters taken from the paragraph's start: the letter, with an opening quotation mark before it. */
  taken: number;
  item: LineItem;
  widths: { width: Mp; shift: Mp }[];
}

/**
 * A drop cap so large that its cap height spans from the baseline of line `lines` to the cap height of the first line.
 * An opening quotation mark goes with the letter, hung outside the measure. Null where the text does not begin with a letter.
 */
export function dropCap(s: Setter, block: Node, lines: number): DropCap | null {
  const first = block.firstChild;
  if (!first?.isText || lines < 2) return null;
  const m = /^([\u2018\u201c"']?)(\p{Lu}|\p{L}\p{M}*)/u.exec(first.text as string);
  // A ligature written as one character has no single capital.
  if (!m || (m[2] as string).toUpperCase().length !== (m[2] as string).length) return null;
  const { text } = s.interior;
  const body = s.style({ size: text.size });
  const capShare = body.face.capHeight / body.face.upem;
  const height = (lines - 1) * text.leading + Math.round(capShare * text.size);
  const size = Math.round(height / capShare);
  const manner: Manner = { size, capitals: true };
  const style = s.style(manner);
  const letter = style.word((m[2] as string).toUpperCase());
  const quote = m[1] ? s.style({ size: text.size }).word(m[1]) : null;
  const glyph = style.firstGlyph(letter);
  const ink = glyph ? glyph.face.inkOf(glyph.glyph) : { left: 0, width: 0, top: 0, height: 0 };
  const scale = (u: number): Mp => (glyph ? style.scale(glyph.face, u) : 0);
  const form: ParagraphForm = {
    manner,
    indent: 0,
    measure: s.measure,
    x: 0 - scale(ink.left) - (quote?.width ?? 0),
    align: 'left',
    hyphenate: false,
  };
  const builder = s.builder(block.attrs.id as string, form);
  if (quote && m[1]) builder.text(m[1], s.raised(text.size, height - Math.round(capShare * text.size)));
  builder.text((m[2] as string).toUpperCase(), style);
  const p = builder.done();
  const [item] = s.items(p, s.break(p, form), form);
  const room = scale(ink.left + ink.width) - scale(ink.left) + Math.round(text.size * 0.14);
  const widths = Array.from({ length: lines }, () => ({ width: s.measure - room, shift: room }));
  return item ? { taken: m[0].length, item: item.atRow(lines - 1), widths } : null;
}
