/** The contents list as the navigation document has it (EPUB 3.3 §7) and as the older NCX does (OPF 2.0.1 §2.4.1). */
import { capitalised, escapeXml, seeWord } from '../base';
import type { ContentsEntry, Heading, IndexEntry, IndexTerm } from '../order';

/** A line of the contents, with the place it leads to. */
export interface NavEntry {
  label: string;
  href: string;
  /** 0 for the outermost. */
  depth: number;
}

export interface Branch {
  entry: NavEntry;
  children: Branch[];
}

/** Entries under those they stand in; one that is deeper than its forerunner allows hangs on that one. */
export function branches(entries: readonly NavEntry[]): Branch[] {
  const roots: Branch[] = [];
  const open: Branch[] = [];
  for (const entry of entries) {
    const branch: Branch = { entry, children: [] };
    while (open.length > 0 && (open.at(-1) as Branch).entry.depth >= entry.depth) open.pop();
    (open.at(-1)?.children ?? roots).push(branch);
    open.push(branch);
  }
  return roots;
}

/** Levels that the list really has. */
export function depthOfContents(entries: readonly NavEntry[]): number {
  const deep = (b: Branch): number => 1 + Math.max(0, ...b.children.map(deep));
  return Math.max(1, ...branches(entries).map(deep));
}

/** "Chapter One: The Boat", "The Boat", "Chapter One": what the printed contents says, with the number before it. */
const labelOf = (h: Heading): string => (h.number && h.title ? `${h.number}: ${h.title}` : h.label);

export const navEntries = (
  entries: readonly ContentsEntry[],
  hrefOf: (e: ContentsEntry) => string,
): NavEntry[] => entries.map((e) => ({ label: labelOf(e.heading), href: hrefOf(e), depth: e.depth }));

/** Nested ordered lists of links. */
export function navList(entries: readonly NavEntry[]): string {
  const list = (level: readonly Branch[]): string =>
    `<ol>\n${level.map((b) => `<li><a href="${b.entry.href}">${escapeXml(b.entry.label)}</a>${b.children.length ? `\n${list(b.children)}` : ''}</li>`).join('\n')}\n</ol>`;
  return list(branches(entries));
}

/**
 * An index by its letters: an ebook has no folios of its own, so a term's places are numbered links (EPUB Indexes 1.0 has the
 * same order).
 */
export function indexList(
  entries: readonly IndexEntry[],
  { language, letters }: { language: string; letters: boolean },
  hrefOf: (place: string) => string | null,
  /** Address of an id of the index itself. */
  here: (id: string) => string,
): string[] {
  const ids = new Map(entries.map((e, i) => [e.term, `entry-${i + 1}`]));
  const linked = (term: string): string => {
    const id = ids.get(term);
    return id ? `<a href="${here(id)}">${escapeXml(term)}</a>` : escapeXml(term);
  };
  const places = (t: IndexTerm): string =>
    t.places
      .flatMap(({ section, block }, i) => {
        const href = hrefOf(`${section}#${block}`);
        return href ? [`<a href="${escapeXml(href)}">${i + 1}</a>`] : [];
      })
      .join(', ');
  /** A term, its places, and the entries it leads to; `more` are the terms under it. */
  const item = (t: IndexTerm, id = '', more = ''): string => {
    const at = places(t);
    const also = at !== '' || more !== '';
    const word = seeWord(also, language);
    const see =
      t.see.length === 0
        ? ''
        : `${also ? '.' : ','} <em>${also ? capitalised(word) : word}</em> ${t.see.map(linked).join('; ')}`;
    return `<li${id}>${escapeXml(t.term)}${at && ` ${at}`}${see}${more}</li>`;
  };
  const list = (items: readonly string[]): string => `<ul class="index">\n${items.join('\n')}\n</ul>`;
  const entry = (e: IndexEntry): string =>
    item(e, ` id="${ids.get(e.term)}"`, e.under.length > 0 ? list(e.under.map((u) => item(u))) : '');
  if (!letters) return [list(entries.map(entry))];
  return [...new Set(entries.map((e) => e.letter))].map((letter) => {
    const own = list(entries.filter((e) => e.letter === letter).map(entry));
    return letter === '' ? own : `<h2>${escapeXml(letter)}</h2>\n${own}`;
  });
}
