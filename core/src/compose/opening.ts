/** How a section begins: number, title, subtitle over a sink; drop cap; the words of the first paragraph. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../base';
import type { Heading } from '../order';
import type { FlowBlock, Item, LineItem } from './flow';
import type { Manner, ParagraphForm, Setter } from './setter';

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

/** Centred lines of a text, each line moved down from `row`; sizes above the leading take two rows. */
export function displayed(
  s: Setter,
  text: string,
  manner: Manner,
  row: number,
  align: LineItem['align'] = 'centre',
): { items: LineItem[]; rows: number } {
  const form: ParagraphForm = { manner, indent: 0, measure: s.measure, x: 0, align, hyphenate: false };
  const p = s.plain(text, form);
  const each = Math.max(1, Math.ceil((manner.size * 1.1) / s.interior.text.leading));
  const items = s.items(p, s.break(p, form), form).map((item, i) => item.atRow(row + i * each));
  return { items, rows: items.length * each };
}

/** The heading of a chapter or of any other section that has one. */
export function openingBlock(
  s: Setter,
  section: string,
  heading: Heading,
  sinkRows: number,
): FlowBlock | null {
  const o = s.interior.opening;
  const items: Item[] = [];
  let row = sinkRows;
  if (heading.number) {
    const tracking = Math.round(o.numberSize * 0.12);
    const number = displayed(
      s,
      heading.number.toLowerCase(),
      { size: o.numberSize, smallCaps: true, tracking },
      row,
    );
    items.push(...number.items);
    row += number.rows + (heading.title ? 1 : 0);
  }
  if (heading.title) {
    const title = displayed(s, heading.title, { size: o.titleSize }, row);
    items.push(...title.items);
    row += title.rows;
  }
  if (heading.subtitle) {
    const subtitle = displayed(s, heading.subtitle, { size: o.subtitleSize, italic: true }, row);
    items.push(...subtitle.items);
    row += subtitle.rows;
  }
  if (items.length === 0) return null;
  return solid(section, row + o.gap - 1, items, { keep: 2, heading: true });
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
    x: -scale(ink.left) - (quote?.width ?? 0),
    align: 'left',
    hyphenate: false,
  };
  const builder = s.builder(block.attrs.id as string, form);
  if (quote && m[1])
    builder.text(
      m[1],
      s.faces.style('regular', {
        size: text.size,
        features: 'onum',
        language: s.language,
        rise: height - Math.round(capShare * text.size),
        tracking: 0,
      }),
    );
  builder.text((m[2] as string).toUpperCase(), style);
  const p = builder.done();
  const [item] = s.items(p, s.break(p, form), form);
  const room = scale(ink.left + ink.width) - scale(ink.left) + Math.round(text.size * 0.14);
  const widths = Array.from({ length: lines }, () => ({ width: s.measure - room, shift: room }));
  return item ? { taken: m[0].length, item: item.atRow(lines - 1), widths } : null;
}
