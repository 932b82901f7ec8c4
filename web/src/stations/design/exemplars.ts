/** What a specimen shows: places of this very book where a part of the design can be seen. */
import type { Node } from 'prosemirror-model';
import { sectionsOf, type Book, type Section } from '@pagina/core/book';
import type { Composed } from '@/workers/messages';

export interface Exemplar {
  name: string;
  section: string;
  /** Where it is seen; the section's opening without one. */
  block?: string;
  /** Pages after that one. */
  after?: number;
}

const BLOCKS: [name: string, fits: (n: Node) => boolean][] = [
  ['Break', (n) => n.type.name === 'break' && Boolean(n.attrs.ornament)],
  ['Subhead', (n) => n.type.name === 'subhead'],
  ['Quotation', (n) => n.type.name === 'quotation'],
  ['Verse', (n) => n.type.name === 'verse'],
  ['Letter', (n) => n.type.name === 'letter'],
  ['Picture', (n) => n.type.name === 'figure'],
  ['List', (n) => n.type.name === 'list'],
  ['Table', (n) => n.type.name === 'table'],
  ['Note', (n) => n.type.name === 'noteBody'],
];
/** A section longer than this is not set for a block that stands somewhere in it, so that a specimen is always quick. */
const LONG = 60_000;
/** Characters of a chapter that has an opening and two plain pages in any interior. */
const THREE_PAGES = 6_500;

/** Blocks have no line of their own in print where their text is their children's. */
function lineOf(n: Node): string {
  let first = n;
  while (!first.isTextblock && first.firstChild && 'id' in first.firstChild.attrs) first = first.firstChild;
  return (first.attrs.id as string) || (n.attrs.id as string);
}

/** Block by whose line the first fitting block is seen: a break holds no words, what follows it does. */
function seenIn(doc: Node, fits: (n: Node) => boolean): string | null {
  for (let i = 0; i < doc.childCount; i++) {
    const n = doc.child(i);
    if (!fits(n)) continue;
    const seen = n.type.name === 'break' ? doc.maybeChild(i + 1) : n;
    if (seen) return lineOf(seen);
  }
  return null;
}

export function exemplarsOf(book: Book, edition: string): Exemplar[] {
  const carried = sectionsOf(book, edition);
  const of = (kind: Section['kind']): Section | undefined => carried.find((s) => s.kind === kind);
  const chapter =
    carried.find((s) => s.kind === 'chapter' && s.content.content.size > THREE_PAGES) ??
    of('chapter') ??
    carried.find((s) => s.matter === 'body') ??
    carried[0];
  const list: Exemplar[] = [];
  if (chapter) {
    list.push({ name: 'Opening', section: chapter.id });
    list.push(
      { name: 'Plain page', section: chapter.id, after: 1 },
      { name: 'Plain page', section: chapter.id, after: 2 },
    );
  }
  const likely = [...carried].sort((a, b) => Number(b === chapter) - Number(a === chapter));
  for (const [name, fits] of BLOCKS)
    for (const s of likely) {
      if (s.content.content.size > LONG && s !== chapter) continue;
      const block = seenIn(s.content, fits);
      if (!block) continue;
      list.push({ name, section: s.id, block });
      break;
    }
  for (const [kind, name] of [
    ['contents', 'Contents'],
    ['title-page', 'Title page'],
    ['part', 'Part page'],
    ['half-title', 'Half title'],
  ] as const) {
    const s = of(kind);
    if (s) list.push({ name, section: s.id });
  }
  return list;
}

/** The pages on which the exemplars stand, each once, with what is to be seen on it. */
export function pagesShown(exemplars: readonly Exemplar[], c: Composed): { page: number; names: string[] }[] {
  const shown: { page: number; names: string[] }[] = [];
  for (const e of exemplars) {
    const start = c.pages.find((p) => p.section === e.section && !p.blank)?.index;
    const at = e.block ? c.places[e.block]?.[0] : start;
    if (at === undefined) continue;
    const page = at + (e.after ?? 0);
    if (c.pages[page]?.section !== e.section || c.pages[page]?.blank) continue;
    const known = shown.find((s) => s.page === page);
    if (!known) shown.push({ page, names: [e.name] });
    else if (!known.names.includes(e.name)) known.names.push(e.name);
  }
  return shown;
}
