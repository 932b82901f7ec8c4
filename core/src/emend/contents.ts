/** The contents and the other lists as an outline: changed, put in reading order, made from the headings. */
import { refused, type Outcome } from '../base';
import type { Emended } from './container';
import { Draft, type Emendation } from './draft';
import { LIST_NAMES, writeList, type ListName, type WantedEntry } from './lists';
import { elementsNamed, localName, textWithin, valueOf } from './located';
import type { Replacement } from './markup';
import { attributeEdit } from './opf';
import { isNavigation, pathsOf } from './spine';

/** Errors: `emend/entry`. */
export function setList(e: Emended, list: ListName, wanted: readonly WantedEntry[]): Outcome<Emendation> {
  const d = new Draft(e);
  const fault = writeList(d, list, wanted);
  return fault ? refused('emend/entry', fault) : d.done(`Change ${LIST_NAMES[list]}`);
}

/** Takes entries away; what stands below them moves up to their place. */
export function without(entries: readonly WantedEntry[], gone: (e: WantedEntry) => boolean): WantedEntry[] {
  const kept: WantedEntry[] = [];
  // For each depth that was, how many of those above are gone.
  const lifted: number[] = [];
  for (const e of entries) {
    lifted.length = e.depth;
    const above = lifted.reduce((n, x) => n + x, 0);
    const out = gone(e);
    lifted[e.depth] = out ? 1 : 0;
    if (!out) kept.push({ ...e, depth: e.depth - above });
  }
  return kept;
}

/** Entries in the order in which one comes to their targets; only where they were in order before. */
export function inReadingOrder(
  entries: readonly WantedEntry[],
  before: (path: string) => number,
  now: (path: string) => number,
): WantedEntry[] {
  interface Branch {
    entry: WantedEntry;
    below: Branch[];
  }
  const roots: Branch[] = [];
  const open: Branch[] = [];
  for (const entry of entries) {
    const branch: Branch = { entry, below: [] };
    open.length = entry.depth;
    (open.at(-1)?.below ?? roots).push(branch);
    open.push(branch);
  }
  const placeIn = (b: Branch, place: (path: string) => number): number => {
    const own = b.entry.path ? place(b.entry.path) : -1;
    return own >= 0 || b.below.length === 0 ? own : Math.min(...b.below.map((x) => placeIn(x, place)));
  };
  const sorted = (branches: Branch[]): Branch[] => {
    const was = branches.map((b) => placeIn(b, before));
    const ordered = was.every((p, i) => i === 0 || (was[i - 1] ?? 0) <= p);
    const list = ordered ? [...branches].sort((a, b) => placeIn(a, now) - placeIn(b, now)) : branches;
    return list.map((b) => ({ ...b, below: sorted(b.below) }));
  };
  const flat = (branches: Branch[]): WantedEntry[] => branches.flatMap((b) => [b.entry, ...flat(b.below)]);
  return flat(sorted(roots));
}

/** Entries from the headings of documents, to a depth of 1 to 6; headings without an id get one. */
export function contentsFromHeadings(e: Emended, depth: number): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  const found: { label: string; path: string; fragment: string; level: number }[] = [];
  for (const path of pathsOf(p)) {
    if (!path || isNavigation(p, path)) continue;
    const text = d.text(path);
    const ids = new Set(d.elements(path).map((x) => valueOf(x, 'id')));
    const edits: Replacement[] = [];
    const bodyStart = elementsNamed(d.elements(path), 'body')[0]?.inner.from ?? 0;
    for (const h of d.elements(path)) {
      const level = Number(/^h([1-6])$/.exec(localName(h.name))?.[1] ?? 0);
      const words = level > 0 && level <= depth ? textWithin(text, h) : '';
      if (!words) continue;
      // What begins its document is reached by the document.
      const first = !/[^\s]/.test(text.slice(bodyStart, h.from).replace(/<[^>]*>/g, ''));
      let fragment = first ? '' : (valueOf(h, 'id') ?? '');
      if (!first && !fragment) {
        for (let n = 1; fragment === '' || ids.has(fragment); n++) fragment = `heading-${n}`;
        ids.add(fragment);
        edits.push(...attributeEdit(text, h, 'id', fragment));
      }
      found.push({ label: words, path, fragment, level });
    }
    d.edit(path, edits);
  }
  if (found.length === 0) return refused('emend/entry', 'No document has a heading.');
  const open: number[] = [];
  const wanted = found.map(({ level, ...f }): WantedEntry => {
    while (open.length > 0 && (open.at(-1) ?? 0) >= level) open.pop();
    open.push(level);
    return { from: null, ...f, depth: open.length - 1 };
  });
  const fault = writeList(d, 'contents', wanted);
  return fault ? refused('emend/entry', fault) : d.done('Make the contents from the headings');
}
