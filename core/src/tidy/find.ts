/** Find and replace over the whole book, its titles and its record: words or a pattern, everywhere or in one kind of text, shown before anything is done. */
import type { Node } from 'prosemirror-model';
import { RE2JS } from 're2js';
import { done, refused, type Outcome } from '../base';
import type { Book } from '../book';
import { around, blockText, type TextEdit } from './edits';
import { fieldsOf, type FieldText } from './fields';

/** Where is looked: everywhere, in a kind of block, or in text that carries a mark. */
export const PLACES = {
  everywhere: 'Everywhere',
  title: 'Titles',
  paragraph: 'Text',
  subhead: 'Subheads',
  quotation: 'Quotations',
  verse: 'Verse',
  letter: 'Letters',
  list: 'Lists',
  table: 'Tables',
  figure: 'Captions',
  noteBody: 'Notes',
  record: 'Record',
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
  /** `find` is a regular expression in RE2's syntax, which takes a time that grows with the text and no faster. */
  pattern: boolean;
  place: FindPlace;
}

/** More than so many are not shown: the words sought are too common to be what was meant. */
export const MOST_FOUND = 10_000;

/** Every place where the query is met, with what would stand there. Errors: `find/pattern`. */
export function findAll(book: Book, query: TextQuery): Outcome<TextEdit[]> {
  const steps = findSteps(book, query);
  return steps.ok ? done([...steps.value].flat()) : steps;
}

/** The same, a section at a time, for those who must not wait for the whole of a long book. */
export function findSteps(book: Book, query: TextQuery): Outcome<Iterable<TextEdit[]>> {
  if (query.find === '') return done([]);
  const finder = finderOf(query);
  return finder.ok ? done(stepsOf(book, query, finder.value)) : finder;
}

function* stepsOf(book: Book, query: TextQuery, finder: Finder): Generator<TextEdit[]> {
  let left = MOST_FOUND;
  const most = (found: TextEdit[]): TextEdit[] => {
    const kept = found.slice(0, left);
    left -= kept.length;
    return kept;
  };
  const named = new Map<string, FieldText[]>();
  for (const f of fieldsOf(book)) named.set(f.section, [...(named.get(f.section) ?? []), f]);
  for (const section of book.sections) {
    const found: TextEdit[] = [];
    if (TITLES.includes(query.place))
      for (const f of named.get(section.id) ?? [])
        found.push(...editsIn(f.text, finder, query).map((e) => ({ ...e, ...placeOf(f) })));
    section.content.descendants((node, pos) => {
      if (found.length >= left) return false;
      if (!node.isTextblock) return true;
      const path = section.content.resolve(pos);
      const inside = Array.from({ length: path.depth }, (_, d) => path.node(d + 1).type.name);
      if (isIn(node, inside, query.place))
        for (const e of editsIn(blockText(node), finder, query))
          if (!MARKS.includes(query.place) || carries(node, e.from, e.to, query.place))
            found.push({ ...e, section: section.id, block: node.attrs.id as string });
      return false;
    });
    yield most(found);
    if (left === 0) return;
  }
  if (RECORD.includes(query.place))
    for (const f of named.get('') ?? [])
      yield most(editsIn(f.text, finder, query).map((e) => ({ ...e, ...placeOf(f) })));
}
const TITLES: readonly FindPlace[] = ['everywhere', 'title'];
const RECORD: readonly FindPlace[] = ['everywhere', 'record'];
const placeOf = ({ section, field }: FieldText) => ({ section, block: '', field });

interface Match {
  from: number;
  to: number;
  /** What was found, and what each group found. */
  groups: string[];
}
type Finder = (text: string) => Iterable<Match>;

/** Words are found by the language's own patterns, which cannot run away with those; patterns by a linear engine. */
function finderOf(q: TextQuery): Outcome<Finder> {
  if (!q.pattern) {
    // A hyphen needs no escape outside brackets, and in a Unicode pattern may not have one.
    const escaped = q.find.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&').replace(/ /g, '[ \\u00a0\\u202f]');
    const words = new RegExp(escaped, q.matchCase ? 'gu' : 'giu');
    return done(function* (text) {
      for (const m of text.matchAll(words))
        yield { from: m.index, to: m.index + m[0].length, groups: [...m] };
    });
  }
  try {
    const compiled = RE2JS.compile(
      q.find.replace(/\\u([0-9a-f]{4})/gi, '\\x{$1}'),
      q.matchCase ? 0 : RE2JS.CASE_INSENSITIVE,
    );
    return done(function* (text) {
      const m = compiled.matcher(text);
      while (m.find()) {
        const groups = Array.from({ length: m.groupCount() + 1 }, (_, i) => m.group(i) ?? '');
        yield { from: m.start(), to: m.end(), groups };
      }
    });
  } catch (e) {
    return refused('find/pattern', whyNot((e as Error).message));
  }
}

/** What the engine says of a pattern, as a sentence. Looking around and references back are what no linear engine does. */
function whyNot(said: string): string {
  const [, why = '', part = ''] = /^error parsing regexp: (.*?)(?:: `([^]*)`)?$/.exec(said) ?? [];
  if (/^\(\?[=!<]/.test(part))
    return 'Lookahead and lookbehind aren’t supported. Match the words around it too, and put them back with $1.';
  if (/^\\[1-9k]/.test(part))
    return 'Backreferences aren’t supported: an expression can’t ask for what it has found before.';
  return `The expression can’t be read: ${why || said}${part ? ` (${part})` : ''}.`;
}

const WORD = /[\p{L}\p{N}_]/u;

function isIn(node: Node, inside: readonly string[], place: FindPlace): boolean {
  if (place === 'everywhere' || MARKS.includes(place)) return true;
  if (place === 'paragraph') return node.type.name === 'paragraph' && inside.length === 0;
  return node.type.name === place || inside.includes(place);
}

function editsIn(text: string, finder: Finder, q: TextQuery): Omit<TextEdit, 'section' | 'block'>[] {
  const found: Omit<TextEdit, 'section' | 'block'>[] = [];
  for (const { from, to, groups } of finder(text)) {
    if (to === from) continue;
    if (q.wholeWords && (WORD.test(signBefore(text, from)) || WORD.test(signAt(text, to)))) continue;
    const by = q.pattern ? expanded(q.by, groups) : q.by;
    found.push({ from, to, was: groups[0] as string, by, ...around(text, from, to) });
    if (found.length >= MOST_FOUND) break;
  }
  return found;
}
const signAt = (text: string, at: number): string => String.fromCodePoint(text.codePointAt(at) ?? 32);
const signBefore = (text: string, at: number): string =>
  [...text.slice(Math.max(0, at - 2), at)].at(-1) ?? ' ';

/** Whether all of a stretch carries a mark. */
function carries(node: Node, from: number, to: number, mark: string): boolean {
  for (let at = from; at < to; at++)
    if (!node.nodeAt(at)?.marks.some((m) => m.type.name === mark)) return false;
  return true;
}

/** "$1" and "$&" as String.prototype.replace reads them (ECMA-262 §22.1.3.19.1); "$$" is a dollar sign. */
const expanded = (by: string, groups: readonly string[]): string =>
  by.replace(/\$(\$|&|\d)/g, (_, k: string) => (k === '$' ? '$' : (groups[k === '&' ? 0 : Number(k)] ?? '')));
