/**
 * Typographic clean-up as a list of changes: found, shown with what stands around them, and made only when accepted.
 * Nothing touches monospace text or addresses.
 */
import type { Node } from 'prosemirror-model';
import type { Section } from '../book';
import { around, blockText, type TextEdit } from './edits';
import {
  dashes,
  ellipses,
  fractions,
  noBreakSpaces,
  quotes,
  spaces,
  type Edit,
  type RuleName,
} from './rules';
import { type TypographicStyle } from './styles';

export interface TidyItem extends TextEdit {
  rule: RuleName;
  /** The same for the same change in the same words: a refusal is remembered by it. */
  key: string;
}

/** Web and mail addresses: what stands in them is no punctuation of the text. */
const ADDRESS = /\b(?:https?:\/\/|www\.)\S+|\b[\w.+-]+@[\w-]+\.[\w.-]+/gi;

/** What the rules would change in one section. */
export function tidySection(section: Section, style: TypographicStyle): TidyItem[] {
  const items: TidyItem[] = [];
  section.content.descendants((node, _pos, parent) => {
    if (node.type.name === 'monospace') return false;
    if (!node.isTextblock) return true;
    const block = node.attrs.id as string;
    if (node.content.size === 0) {
      const spare = node.type.name === 'paragraph' && parent === section.content && textBlocks(parent) > 1;
      if (spare)
        items.push(itemOf('', { rule: 'empty-paragraphs', from: 0, to: 0, by: '' }, section.id, block));
      return false;
    }
    const text = blockText(node);
    for (const e of editsOf(text, protectedIn(node, text), style))
      items.push(itemOf(text, e, section.id, block));
    return false;
  });
  return items;
}

const textBlocks = (doc: Node): number => {
  let n = 0;
  doc.forEach((c) => {
    if (c.type.name !== 'noteBody') n++;
  });
  return n;
};

/** Stretches that no rule may touch. */
function protectedIn(node: Node, text: string): [from: number, to: number][] {
  const kept: [number, number][] = [...text.matchAll(ADDRESS)].map((m) => [m.index, m.index + m[0].length]);
  node.forEach((n, offset) => {
    if (n.marks.some((m) => m.type.name === 'monospaced')) kept.push([offset, offset + n.nodeSize]);
  });
  return kept;
}

/** Edits of all rules; where two meet, the one of the earlier rule stands. */
function editsOf(text: string, kept: readonly [number, number][], style: TypographicStyle): Edit[] {
  const taken: Edit[] = [];
  const meets = (a: Edit, from: number, to: number): boolean =>
    a.from < to && from < a.to ? true : a.from === a.to && a.from > from && a.from < to;
  for (const rule of [spaces, quotes, dashes, ellipses, fractions, noBreakSpaces])
    for (const e of rule(text, style)) {
      if (text.slice(e.from, e.to) === e.by) continue;
      if (kept.some(([from, to]) => meets(e, from, to))) continue;
      if (taken.some((t) => meets(t, e.from, e.to) || meets(e, t.from, t.to))) continue;
      taken.push(e);
    }
  return taken.sort((a, b) => a.from - b.from);
}

function itemOf(text: string, e: Edit, section: string, block: string): TidyItem {
  const was = text.slice(e.from, e.to);
  const { before, after } = around(text, e.from, e.to);
  // By the letters around it alone, so that a refusal outlives what else is tidied there.
  const letters = (t: string): string => t.replace(/[^\p{L}\p{N}]/gu, '');
  const near = [letters(before).slice(-12), letters(after).slice(0, 12)];
  const key = [e.rule, ...near, was, e.by, text === '' ? block : ''].join('\u0001');
  const whole = e.rule === 'empty-paragraphs';
  return { ...e, section, block, was, before, after, whole, key };
}
