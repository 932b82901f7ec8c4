/** What a file for the screen tells of a book: its bookmarks, what each block is, its links, its pictures' words. */
import type { Node } from 'prosemirror-model';
import { altOf, notesIn, placeOf, sectionsOf, showsPicture, type Book, type Edition } from '../book';
import { designOf, numberingWith } from '../design';
import { contentsOf, headingsOf } from '../order';

/** A role in the structure, with the id of the element that bears it; elements of the same id are one. */
export type Role = readonly [type: string, id: string];
/** Where a link leads: an address, or a place of the book as "section" or "section#block". */
export interface LinkRange {
  from: number;
  to: number;
  target: string;
}
export interface OutlineEntry {
  title: string;
  depth: number;
  section: string;
  block: string | null;
}
export interface ScreenFacts {
  outline: readonly OutlineEntry[];
  /** Elements around the words of a block, from the outermost in, by block id. */
  roles: Readonly<Record<string, readonly Role[]>>;
  /** Alternative texts of pictures by figure, in the order in which they stand in the book. */
  figures: Readonly<Record<string, { id: string; alt: string }[]>>;
  /** Links in the text, by block. */
  links: Readonly<Record<string, readonly LinkRange[]>>;
  /** Title of each section, for the structure's own names. */
  sections: readonly { id: string; title: string }[];
}

/** Elements of standard structure types (ISO 32000-1 §14.8.4) that a block's children stand in. */
const AROUND: Record<string, readonly string[]> = {
  quotation: ['BlockQuote'],
  letter: ['Div'],
  passage: ['Div'],
  verse: ['Div'],
  stanza: ['Div'],
  list: ['L'],
  item: ['LI', 'LBody'],
  table: ['Table'],
  row: ['TR'],
  cell: ['TD'],
  noteBody: ['Note'],
};

export function screenFacts(book: Book, edition: Edition): ScreenFacts {
  const sections = sectionsOf(book, edition.id);
  const naming = { ...book, numbering: numberingWith(book.numbering, designOf(edition)) };
  const headings = headingsOf(sections, naming, edition);
  const roles: Record<string, readonly Role[]> = {};
  const links: Record<string, LinkRange[]> = {};
  const figures: Record<string, { id: string; alt: string }[]> = {};
  /** Where each note of the section that is looked through begins, as "section#block". */
  let notes = new Map<string, string>();
  const walk = (n: Node, around: readonly Role[]): void =>
    n.forEach((child) => {
      const id = child.attrs.id as string;
      const { name } = child.type;
      if (showsPicture(child)) {
        const drawn = (figures[child.attrs.picture as string] ??= []);
        drawn.push({ id, alt: altOf(child) });
        // Both pages of a spread draw it; it is told of once.
        if (name === 'picturePage' ? child.attrs.across === true : placeOf(child) === 'spread')
          drawn.push({ id, alt: '' });
      }
      if (name === 'figure') {
        roles[id] = [...around, ['Caption', id]];
        linksOf(child, id, links, notes);
      } else if (child.isTextblock) {
        const type =
          name === 'subhead' ? `H${Number(child.attrs.level) + 1}` : name === 'monospace' ? 'Code' : 'P';
        roles[id] = [...around, [type, id]];
        linksOf(child, id, links, notes);
      } else walk(child, [...around, ...(AROUND[name] ?? []).map((type): Role => [type, id])]);
    });
  for (const s of sections) {
    notes = new Map(
      notesIn(s.content).map((n) => [
        n.attrs.id as string,
        `${s.id}#${String(n.firstChild?.attrs.id ?? '')}`,
      ]),
    );
    walk(s.content, []);
  }
  return {
    outline: contentsOf(sections, naming, 3).map((e) => ({
      title: [e.heading.number, e.heading.title].filter(Boolean).join(': ') || e.heading.label,
      depth: e.depth,
      section: e.section.id,
      block: e.block,
    })),
    roles,
    figures,
    links,
    sections: sections.map((s) => ({ id: s.id, title: headings.get(s.id)?.label ?? '' })),
  };
}

function linksOf(
  block: Node,
  id: string,
  links: Record<string, LinkRange[]>,
  notes: ReadonlyMap<string, string>,
): void {
  block.forEach((n, offset) => {
    const note = n.type.name === 'note' ? notes.get(n.attrs.ref as string) : undefined;
    if (note) (links[id] ??= []).push({ from: offset, to: offset + n.nodeSize, target: note });
    const link = n.marks.find((m) => m.type.name === 'link');
    if (!link || link.attrs.kind === 'shop') return;
    const target = link.attrs.target as string;
    const list = (links[id] ??= []);
    const last = list.at(-1);
    if (last && last.to === offset && last.target === target) last.to = offset + n.nodeSize;
    else list.push({ from: offset, to: offset + n.nodeSize, target });
  });
}

const HEADINGS = /^(opening|partPage)\.(number|title)$|^titlePage\.title$/;
const DECORATION = /^contents\.leader$|\.ornament$|^breaks\.sign$/;
/** Parts of the design that are the heading of their page, and parts that say nothing. */
export const isHeadingPart = (part: string): boolean => HEADINGS.test(part);
export const isDecoration = (part: string): boolean => DECORATION.test(part);
