/** A section's text as the rules of wording read it: its blocks in order, each with its words. */
import type { Node } from 'prosemirror-model';
import type { Section } from '../../book';
import { addressesIn, ATOM, UNTOUCHED } from '../../tidy';

export interface Block {
  id: string;
  /** Name of its node: `paragraph`, `subhead`, `verseLine`. */
  type: string;
  /** Name of the node it stands in: `doc`, `quotation`, `item`. */
  holder: string;
  node: Node;
  /** Its text; a note or a forced line break is one sign, so that offsets agree with the node's content. */
  text: string;
  /** Part of a note. */
  note: boolean;
}

export interface Reading {
  section: Section;
  /** BCP 47, of the book. */
  language: string;
  /** Blocks of words; monospace text is none. */
  blocks: readonly Block[];
}

const known = new WeakMap<Node, readonly Block[]>();

function blocksOf(content: Node): readonly Block[] {
  const before = known.get(content);
  if (before) return before;
  const blocks: Block[] = [];
  const take = (parent: Node, note: boolean): void =>
    parent.forEach((n) => {
      if (!n.isTextblock) return take(n, note || n.type.name === 'noteBody');
      if (n.type.spec.code) return;
      blocks.push({
        id: n.attrs.id as string,
        type: n.type.name,
        holder: parent.type.name,
        node: n,
        text: n.textBetween(0, n.content.size, '', ATOM),
        note,
      });
    });
  take(content, false);
  known.set(content, blocks);
  return blocks;
}

export const readingOf = (section: Section, language: string): Reading => ({
  section,
  language,
  blocks: blocksOf(section.content),
});

/** Stretches of a block that rules of wording pass over: addresses, monospaced words and formulas. */
function passedOver({ node, text }: Block): [from: number, to: number][] {
  const kept = addressesIn(text);
  node.forEach((n, offset) => {
    if (n.marks.some((m) => UNTOUCHED.has(m.type.name))) kept.push([offset, offset + n.nodeSize]);
  });
  return kept;
}

/** Matches of a pattern in a block, but for those in addresses, monospaced words and formulas. */
export function* matchesIn(block: Block, pattern: RegExp): Generator<RegExpExecArray> {
  let kept: [number, number][] | null = null;
  for (const m of block.text.matchAll(pattern)) {
    kept ??= passedOver(block);
    if (!kept.some(([from, to]) => m.index < to && from < m.index + m[0].length)) yield m;
  }
}

/** Some words around a place in a text, for messages. */
export function wordsAround(text: string, from: number, to: number, more = 24): string {
  let start = Math.max(0, from - more);
  let end = Math.min(text.length, to + more);
  if (start > 0) start = Math.min(from, text.indexOf(' ', start) + 1 || start);
  if (end < text.length) end = Math.max(to, text.lastIndexOf(' ', end));
  const words = text.slice(start, end).replaceAll(ATOM, '').replace(/\s+/g, ' ').trim();
  return `${start > 0 ? '… ' : ''}${words}${end < text.length ? ' …' : ''}`;
}
