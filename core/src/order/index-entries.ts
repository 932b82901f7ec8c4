/** The index of a book, from the passages that the author marked: terms in alphabetical order, each with its places. */
import type { Section } from '../book';
import { hasText } from './text';

/** A marked passage; `from` and `to` are offsets in its block. */
export interface Indexed {
  section: string;
  block: string;
  from: number;
  to: number;
}
export interface IndexTerm {
  term: string;
  places: Indexed[];
}
export interface IndexEntry extends IndexTerm {
  /** Terms under it: "tides: neap" is "neap" under "tides". */
  under: IndexTerm[];
}

/** An index is made by itself where nothing was written on its page. */
export const makesIndex = (s: Section): boolean => s.kind === 'index' && !hasText(s.content);

/** Entries in the order of the book's language; a passage marked through several stretches of text is one place. */
export function indexOf(sections: readonly Section[], language: string): IndexEntry[] {
  const entries = new Map<string, IndexEntry>();
  const placesOf = (marked: string): Indexed[] => {
    const [term = '', sub = ''] = marked.split(/:\s*(.*)/s).map((t) => t.trim());
    let entry = entries.get(term);
    if (!entry) entries.set(term, (entry = { term, places: [], under: [] }));
    if (sub === '') return entry.places;
    let under = entry.under.find((u) => u.term === sub);
    if (!under) entry.under.push((under = { term: sub, places: [] }));
    return under.places;
  };
  for (const section of sections)
    section.content.descendants((n) => {
      if (!n.isTextblock) return true;
      const block = n.attrs.id as string;
      n.forEach((child, offset) => {
        for (const mark of child.marks) {
          if (mark.type.name !== 'indexed' || !(mark.attrs.term as string).trim()) continue;
          const places = placesOf(mark.attrs.term as string);
          const last = places.at(-1);
          if (last?.block === block && last.to === offset) last.to = offset + child.nodeSize;
          else places.push({ section: section.id, block, from: offset, to: offset + child.nodeSize });
        }
      });
      return false;
    });
  const order = new Intl.Collator(language, { sensitivity: 'base', ignorePunctuation: true });
  const sorted = [...entries.values()].sort((a, b) => order.compare(a.term, b.term));
  for (const e of sorted) e.under.sort((a, b) => order.compare(a.term, b.term));
  return sorted;
}
