/** Find and replace over the whole book: words or a pattern, everywhere or in one kind of text, shown before anything is done. */
import type { Node } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import type { Book } from '../book';
import { around, blockText, type TextEdit } from './edits';

/** Where is looked: everywhere, in a kind of block, or in text that carries a mark. */
export const PLACES = {
  everywhere: 'Everywhere',
  paragraph: 'Text',
  subhead: 'Subheads',
  quotation: 'Quotations',
  verse: 'Verse',
  letter: 'Letters',
  list: 'Lists',
  table: 'Tables',
  figure: 'Captions',
  noteBody: 'Notes',
  emphasis: 'Emphasis',
  strong: 'Strong',
  smallCaps: 'Small caps',
  monospaced: 'Monospace',
} as const;
export type FindPlace = keyof typeof PLACES;
const MARKS: readonly FindPlace[] = ['emphasis', 'strong', 'smallCaps', 'monospaced'];

export interface TextQuery {
  /** Words, or a pattern. */
  find: string;
  /** What is put in place of it; in a pattern, $1 is what its first group found. */
  by: string;
  matchCase: boolean;
  wholeWords: boolean;
  /** `find` is a regular expression (ECMAScript, Unicode). */
  pattern: boolean;
  place: FindPlace;
}

/** More than so many are not shown: the words sought are too common to be what was meant. */
export const MOST_FOUND = 10_000;

/** Every place where the query is met, with what would stand there. Errors: `find/pattern`. */
export function findAll(book: Book, query: TextQuery): Outcome<TextEdit[]> {
  if (query.find === '') return done([]);
  const compiled = patternOf(query);
  if (!compiled.ok) return compiled;
  const found: TextEdit[] = [];
  for (const section of book.sections) {
    section.content.descendants((node, pos) => {
      if (found.length >= MOST_FOUND) return false;
      if (!node.isTextblock) return true;
      const path = section.content.resolve(pos);
      const inside = Array.from({ length: path.depth }, (_, d) => path.node(d + 1).type.name);
      if (isIn(node, inside, query.place)) search(section.id, node, compiled.value, query, found);
      return false;
    });
  }
  return done(found);
}

function patternOf(q: TextQuery): Outcome<RegExp> {
  const escaped = q.pattern
    ? q.find
    : q.find.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&').replace(/ /g, '[ \\u00a0\\u202f]');
  const whole = q.wholeWords ? `(?<![\\p{L}\\p{N}_])(?:${escaped})(?![\\p{L}\\p{N}_])` : escaped;
  try {
    return done(new RegExp(whole, q.matchCase ? 'gu' : 'giu'));
  } catch (e) {
    const why = (e as Error).message.replace(/^Invalid regular expression: \/.*\/[a-z]*: /s, '');
    return refused(
      'find/pattern',
      `The pattern cannot be read: ${why.charAt(0).toLowerCase()}${why.slice(1)}.`,
    );
  }
}

function isIn(node: Node, inside: readonly string[], place: FindPlace): boolean {
  if (place === 'everywhere' || MARKS.includes(place)) return true;
  if (place === 'paragraph') return node.type.name === 'paragraph' && inside.length === 0;
  return node.type.name === place || inside.includes(place);
}

function search(section: string, node: Node, pattern: RegExp, q: TextQuery, found: TextEdit[]): void {
  const text = blockText(node);
  const block = node.attrs.id as string;
  for (const m of text.matchAll(pattern)) {
    const from = m.index;
    const to = from + m[0].length;
    if (to === from || found.length >= MOST_FOUND) continue;
    if (MARKS.includes(q.place) && !carries(node, from, to, q.place)) continue;
    const by = q.pattern ? expanded(q.by, m) : q.by;
    found.push({ section, block, from, to, was: m[0], by, ...around(text, from, to) });
  }
}

/** Whether all of a stretch carries a mark. */
function carries(node: Node, from: number, to: number, mark: string): boolean {
  for (let at = from; at < to; at++)
    if (!node.nodeAt(at)?.marks.some((m) => m.type.name === mark)) return false;
  return true;
}

/** "$1" and "$&" as String.prototype.replace reads them (ECMA-262 §22.1.3.19.1); "$$" is a dollar sign. */
const expanded = (by: string, m: RegExpExecArray | RegExpMatchArray): string =>
  by.replace(/\$(\$|&|\d)/g, (_, k: string) => (k === '$' ? '$' : k === '&' ? m[0] : (m[Number(k)] ?? '')));
