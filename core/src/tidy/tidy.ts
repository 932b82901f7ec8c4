/**
 * Typographic clean-up as a list of changes: found, shown with what stands around them, and made only when accepted.
 * Nothing touches monospace text or addresses.
 */
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { schema, type Book, type Change, type Section } from '../book';
import { ATOM, dashes, ellipses, noBreakSpaces, quotes, spaces, type Edit, type RuleName } from './rules';
import { styleFor, type TypographicStyle } from './styles';

export interface TidyItem {
  rule: RuleName;
  section: string;
  block: string;
  /** Offsets in the block's content; both 0 for a block that goes as a whole. */
  from: number;
  to: number;
  was: string;
  by: string;
  /** What stands around it, for the eye. */
  before: string;
  after: string;
  /** The same for the same change in the same words: a refusal is remembered by it. */
  key: string;
}

const CONTEXT = 32;
/** Web and mail addresses: what stands in them is no punctuation of the text. */
const ADDRESS = /\b(?:https?:\/\/|www\.)\S+|\b[\w.+-]+@[\w-]+\.[\w.-]+/gi;

/** All that the rules would change, in the order of the book, without what was refused before. */
export function findTidy(book: Book, refused: ReadonlySet<string> = new Set()): TidyItem[] {
  const style = styleFor(book.record.language);
  return book.sections.flatMap((s) => tidySection(s, style)).filter((i) => !refused.has(i.key));
}

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
    const text = textOf(node);
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

const textOf = (node: Node): string => node.textBetween(0, node.content.size, '', ATOM);

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
  for (const rule of [spaces, quotes, dashes, ellipses, noBreakSpaces])
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
  const before = text.slice(Math.max(0, e.from - CONTEXT), e.from).replaceAll(ATOM, '');
  const after = text.slice(e.to, e.to + CONTEXT).replaceAll(ATOM, '');
  // By the letters around it alone, so that a refusal outlives what else is tidied there.
  const letters = (t: string): string => t.replace(/[^\p{L}\p{N}]/gu, '');
  const around = [letters(before).slice(-12), letters(after).slice(0, 12)];
  const key = [e.rule, ...around, was, e.by, text === '' ? block : ''].join('\u0001');
  return { rule: e.rule, section, block, from: e.from, to: e.to, was, by: e.by, before, after, key };
}

/** One change that makes all those changes; null when the text has moved on and none of them fits any more. */
export function tidyChange(book: Book, items: readonly TidyItem[], label: string): Change | null {
  const changes: Change[] = [];
  for (const section of book.sections) {
    const own = items.filter((i) => i.section === section.id);
    if (own.length === 0) continue;
    const tr = new Transform(section.content);
    const places: { pos: number; node: Node; item: TidyItem }[] = [];
    section.content.descendants((node, pos) => {
      for (const item of own)
        if (node.isTextblock && node.attrs.id === item.block) places.push({ pos, node, item });
      return !node.isTextblock;
    });
    // From the end on, so that what comes before keeps its place.
    places.sort((a, b) => b.pos - a.pos || b.item.from - a.item.from);
    for (const { pos, node, item } of places) make(tr, pos, node, item);
    if (tr.docChanged)
      changes.push({ type: 'text', section: section.id, steps: tr.steps.map((s) => s.toJSON() as unknown) });
  }
  return changes.length > 0 ? { type: 'group', label, changes } : null;
}

function make(tr: Transform, pos: number, node: Node, item: TidyItem): void {
  if (item.rule === 'empty-paragraphs') {
    if (node.content.size === 0) tr.delete(pos, pos + node.nodeSize);
    return;
  }
  if (textOf(node).slice(item.from, item.to) !== item.was) return;
  const from = pos + 1 + item.from;
  const to = pos + 1 + item.to;
  const marks =
    (item.to > item.from ? node.nodeAt(item.from) : node.nodeAt(Math.max(0, item.from - 1)))?.marks ?? [];
  if (item.by === '') tr.delete(from, to);
  else tr.replaceWith(from, to, schema.text(item.by, marks));
}
