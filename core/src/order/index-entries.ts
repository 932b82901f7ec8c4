/** The index of a book, from the passages that the author marked: terms in alphabetical order, each with its places. */
import type { Book, Section } from '../book';
import { hasText } from './text';

/** A marked passage; `from` and `to` are offsets in its block. */
export interface Indexed {
  section: string;
  block: string;
  from: number;
  to: number;
  /** The block in which it ends, where that is a later one of the same section; `to` is an offset there. */
  until: string;
}
export interface IndexTerm {
  term: string;
  places: Indexed[];
  /** Entries that it leads to: "see" where it has no places itself, else "see also". */
  see: string[];
}
export interface IndexEntry extends IndexTerm {
  /** Terms under it: "tides: neap" is "neap" under "tides". */
  under: IndexTerm[];
  /** The letter it stands under, in the order of the book's language; '' for one that begins with none. */
  letter: string;
}

/** An index is made by itself where nothing was written on its page. */
export const makesIndex = (s: Section): boolean => s.kind === 'index' && !hasText(s.content);

/** "tides: neap" → "tides" and "neap". */
export function termParts(marked: string): [term: string, under: string] {
  const [term = '', under = ''] = marked.split(/:\s*(.*)/s).map((t) => t.trim());
  return [term, under];
}

/**
 * Entries in the order of the book's language. A passage marked through several stretches of text, or from one block
 * into the next, is one place.
 */
export function indexOf(
  sections: readonly Section[],
  { record: { language }, indexSee }: Pick<Book, 'record' | 'indexSee'>,
): IndexEntry[] {
  const order = new Intl.Collator(language, { sensitivity: 'base', ignorePunctuation: true });
  const entries = new Map<string, IndexEntry>();
  const termOf = (marked: string): IndexTerm => {
    const [term, sub] = termParts(marked);
    let entry = entries.get(term);
    if (!entry) {
      const fresh = { term, places: [], see: [], under: [], letter: letterOf(term, order) };
      entries.set(term, (entry = fresh));
    }
    if (sub === '') return entry;
    let under = entry.under.find((u) => u.term === sub);
    if (!under) entry.under.push((under = { term: sub, places: [], see: [] }));
    return under;
  };
  for (const section of sections)
    forMarked(section, (marked, place) => addPlace(termOf(marked).places, place));
  for (const { term, to } of indexSee) termOf(term).see.push(to);
  const sorted = [...entries.values()].sort((a, b) => order.compare(a.term, b.term));
  for (const e of sorted) e.under.sort((a, b) => order.compare(a.term, b.term));
  for (const t of sorted.flatMap((e) => [e, ...e.under])) t.see.sort((a, b) => order.compare(a, b));
  return sorted;
}

interface Stretch extends Indexed {
  /** It begins at its block's beginning, right after a block in which the same mark went to the end. */
  goesOn: boolean;
}

function addPlace(places: Indexed[], { goesOn, ...place }: Stretch): void {
  const last = places.at(-1);
  const here = last?.section === place.section && last.until === place.block && last.to === place.from;
  if (last && (here || (goesOn && last.section === place.section)))
    Object.assign(last, { until: place.block, to: place.to });
  else places.push(place);
}

/** Calls `take` for every marked stretch, in the order of the text. */
function forMarked(section: Section, take: (marked: string, place: Stretch) => void): void {
  /** Terms whose mark went to the end of the block before. */
  let open = new Set<string>();
  section.content.descendants((n) => {
    if (!n.isTextblock) return true;
    if (n.content.size === 0) return false;
    const block = n.attrs.id as string;
    const still = new Set<string>();
    n.forEach((child, from) => {
      const to = from + child.nodeSize;
      for (const mark of child.marks) {
        const marked = ((mark.attrs.term as string | undefined) ?? '').trim();
        if (mark.type.name !== 'indexed' || marked === '') continue;
        take(marked, {
          section: section.id,
          block,
          from,
          to,
          until: block,
          goesOn: from === 0 && open.has(marked),
        });
        if (to === n.content.size) still.add(marked);
      }
    });
    open = still;
    return false;
  });
}

/** Å stands under A in English and after Z in Swedish: a letter is its own where the language orders it so. */
function letterOf(term: string, order: Intl.Collator): string {
  const [first = ''] = term.match(/[\p{L}\p{N}]\p{M}*/u) ?? [];
  if (!/^\p{L}/u.test(first)) return '';
  const plain = first.normalize('NFD').replace(/\p{M}/gu, '');
  return (order.compare(first, plain) === 0 ? plain : first).toUpperCase();
}
