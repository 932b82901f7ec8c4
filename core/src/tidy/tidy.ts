/**
 * Typographic clean-up as a list of changes: found, shown with what stands around them, and made only when accepted.
 * Nothing touches monospace text or addresses.
 */
import type { Node } from 'prosemirror-model';
import { inLetters } from '../base';
import type { Book, Section } from '../book';
import { typedCaption } from './captions';
import { addressesIn, around, blockText, UNTOUCHED, type TextEdit } from './edits';
import { fieldsOf } from './fields';
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
import { ReferenceFinder } from './references';
import { styleFor, type TypographicStyle } from './styles';

export interface TidyItem extends TextEdit {
  rule: RuleName;
  /** The same for the same change in the same words: a refusal is remembered by it. */
  key: string;
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
    const text = blockText(node);
    for (const e of [...inLanguages(node, text, style), ...underlining(node, text)])
      items.push(itemOf(text, e, section.id, block));
    return false;
  });
  return items;
}

/** What the rules would change in titles and in the record. */
export function tidyFields(book: Book, style: TypographicStyle): TidyItem[] {
  const items: TidyItem[] = [];
  // Other languages write their titles otherwise, and German nouns can’t be told from their capitals.
  const english = /^en\b/i.test(book.record.language);
  for (const { section, field, text } of fieldsOf(book)) {
    const letters = english && section && /\p{Lu}{4}/u.test(text) ? inLetters(text) : text;
    if (letters !== text) {
      // The interior says which titles are set in capitals.
      const edit = { rule: 'capital-titles' as const, from: 0, to: text.length, by: letters };
      items.push({ ...itemOf(text, edit, section, ''), field });
      continue;
    }
    let at = 0;
    for (const line of text.split('\n')) {
      for (const e of editsOf(line, addressesIn(line), style)) {
        const item = itemOf(line, e, section, '');
        items.push({ ...item, field, from: e.from + at, to: e.to + at });
      }
      at += line.length + 1;
    }
  }
  return items;
}

const referred = new WeakMap<Node, { by: string; section: string; items: TidyItem[] }>();

/** Words that could be references to places of the book, and numbers typed before captions that the book numbers itself. */
export function tidyReferences(book: Book): TidyItem[] {
  const finder = new ReferenceFinder(book);
  return book.sections.flatMap(({ id, content }) => {
    const known = referred.get(content);
    if (known?.by === finder.key && known.section === id) return known.items;
    const items: TidyItem[] = [];
    content.descendants((node) => {
      if (node.type.name === 'monospace') return false;
      if (!node.isTextblock) return true;
      const text = blockText(node);
      const block = node.attrs.id as string;
      for (const { from, to, refer } of finder.in(node, id))
        items.push({
          ...itemOf(text, { rule: 'cross-references', from, to, by: finder.nameOf(refer) }, id, block),
          refer,
        });
      const typed = typedCaption(node);
      if (typed && finder.numbers(node))
        items.push(itemOf(text, { rule: 'caption-numbers', from: 0, to: typed.length, by: '' }, id, block));
      return false;
    });
    referred.set(content, { by: finder.key, section: id, items });
    return items;
  });
}

/** Edits of a block; words marked as of another language follow that one’s typography. */
function inLanguages(node: Node, text: string, style: TypographicStyle): Edit[] {
  const foreign: { from: number; to: number; tag: string }[] = [];
  node.forEach((n, offset) => {
    const tag = n.marks.find((m) => m.type.name === 'language')?.attrs.tag as string | undefined;
    const last = foreign.at(-1);
    if (!tag) return;
    if (last?.to === offset && last.tag === tag) last.to += n.nodeSize;
    else foreign.push({ from: offset, to: offset + n.nodeSize, tag });
  });
  const kept = protectedIn(node, text);
  const edits = editsOf(text, [...kept, ...foreign.map((f): [number, number] => [f.from, f.to])], style);
  for (const f of foreign) {
    const inside = kept.map(([a, b]): [number, number] => [a - f.from, b - f.from]);
    for (const e of editsOf(text.slice(f.from, f.to), inside, styleFor(f.tag)))
      // At its ends stands a space of the sentence around it.
      if (e.rule !== 'white-space-at-ends') edits.push({ ...e, from: e.from + f.from, to: e.to + f.from });
  }
  return edits.sort((a, b) => a.from - b.from);
}

/** Underlined words, which books set in italics (common practice). */
function underlining(node: Node, text: string): Edit[] {
  const found: Edit[] = [];
  node.forEach((n, offset) => {
    if (!n.isText || !n.marks.some((m) => m.type.name === 'underline')) return;
    const last = found.at(-1);
    const [from, to] = [offset, offset + n.nodeSize];
    if (last?.to === from) Object.assign(last, { to, by: text.slice(last.from, to) });
    else found.push({ rule: 'underlining', from, to, by: text.slice(from, to) });
  });
  return found;
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
  const kept = addressesIn(text);
  node.forEach((n, offset) => {
    if (n.marks.some((m) => UNTOUCHED.has(m.type.name))) kept.push([offset, offset + n.nodeSize]);
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
  const remark = e.rule === 'underlining' ? { off: 'underline', on: 'emphasis' } : undefined;
  return { ...e, section, block, was, before, after, whole, remark, key };
}
