/**
 * A newer manuscript taken into the book, row by row as the author chooses. Kinds, order, editions and design stay, and
 * blocks that the manuscript left alone stay as they are, with whatever was done to them here.
 */
import { Fragment, type Node } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import {
  apply,
  sectionToJson,
  textReplaced,
  type Book,
  type Change,
  type Placed,
  type Section,
} from '../book';
import { parentBelow, withPictures } from './adding';
import { Adopting } from './adopting';
import { blocksOf, keysIn } from './blockwords';
import type { Newer, NewerRow, Piece } from './newer';
import { remove } from './rearrange';

export interface Choice {
  /** Whether the row is followed: its new text taken, its new section put in, a missing one deleted. */
  follow: boolean;
  /** Whether the new title is taken. */
  title: boolean;
  /** Whether the manuscript's words are taken at contested places; else the book's stay. */
  theirs: boolean;
}

/** What is chosen before the author has looked: nothing that could lose what was done here. */
export const firstChoice = (row: NewerRow): Choice => ({
  follow: !row.risky && (row.how === 'new' || row.pieces.some((p) => !p.contested)),
  title: !row.risky && row.title === 'new',
  theirs: false,
});

/** The pieces of a row that a choice takes. */
export const piecesTaken = (row: NewerRow, choice: Choice): Piece[] =>
  row.pieces.filter((p) => choice.follow && (!p.contested || choice.theirs));

/** The section's text as it would be; for looking at, since ids of blocks that come in are the manuscript's. */
export function previewOf(book: Book, fresh: Book, row: NewerRow, choice: Choice): Node | null {
  const section = book.sections.find((s) => s.id === row.old);
  let n = 0;
  const t = new Adopting(book, fresh, () => `preview-${++n}`);
  return section ? merged(book, fresh, section, piecesTaken(row, choice), t) : null;
}

/**
 * One change that follows the newer manuscript where the author chose to. `sha256` is the file of its reading, with which
 * the one after it will be compared. Errors: `order/nothing` when nothing was chosen.
 */
export function renew(
  book: Book,
  fresh: Book,
  { rows, known, sections }: Newer,
  choices: readonly Choice[],
  newId: () => string,
  sha256 = '',
): Outcome<Change> {
  const t = new Adopting(book, fresh, newId);
  for (const [other, id] of known) t.block(other, id);
  for (const [other, id] of sections) t.section(other, id);
  const coming = rows.map((r, i) => (r.how === 'new' && choices[i]?.follow ? newId() : null));
  rows.forEach((r, i) => coming[i] && t.section(r.fresh as string, coming[i]));
  const texts = rows.map((row, i): Node | null => {
    const choice = choices[i];
    const old = book.sections.find((s) => s.id === row.old);
    const n = fresh.sections.find((s) => s.id === row.fresh);
    if (!choice) return null;
    if (coming[i] && n) return t.take(n.content);
    const pieces = piecesTaken(row, choice);
    return old && pieces.length > 0 ? merged(book, fresh, old, pieces, t) : null;
  });
  const changes: Change[] = [];
  const order: Placed[] = [...book.sections];
  rows.forEach((row, i) => {
    const content = texts[i] ? t.linked(texts[i]) : null;
    const n = fresh.sections.find((s) => s.id === row.fresh);
    const old = book.sections.find((s) => s.id === row.old);
    if (old && content && !old.content.eq(content)) changes.push(textReplaced(old, content));
    if (old && n && row.title !== 'same' && choices[i]?.title)
      changes.push({ type: 'set-section', id: old.id, fields: { title: n.title, subtitle: n.subtitle } });
    const id = coming[i];
    if (!id || !n || !content) return;
    const at = placeFor(fresh, n, order, sections, rows, coming);
    const section: Section = { ...n, id, parent: parentBelow(order[at], n), leftOut: [], content };
    changes.push({ type: 'insert-section', index: at + 1, section: sectionToJson(section) });
    order.splice(at + 1, 0, section);
  });
  const gone = rows.flatMap((r, i) => (r.how === 'gone' && r.old && choices[i]?.follow ? [r.old] : []));
  if (gone.length > 0) {
    const now = apply(book, { type: 'group', label: '', changes });
    const removal = now.ok ? remove(now.value.book, gone) : now;
    if (!removal.ok) return removal;
    changes.push(removal.value);
  }
  if (changes.length === 0) return refused('order/nothing', 'None of the new text was selected.');
  if (sha256) changes.push({ type: 'set-reading', sha256 });
  return done({
    type: 'group',
    label: 'Use the text of a newer manuscript',
    changes: withPictures(t, changes),
  });
}

/** A new section stands after the last one before it in the manuscript that the book holds; index in the order. */
function placeFor(
  fresh: Book,
  n: Section,
  order: readonly Placed[],
  sections: ReadonlyMap<string, string>,
  rows: readonly NewerRow[],
  coming: readonly (string | null)[],
): number {
  const here = (other: string): string | null | undefined =>
    sections.get(other) ?? coming[rows.findIndex((r) => r.fresh === other && r.how === 'new')];
  for (const above of fresh.sections.slice(0, fresh.sections.indexOf(n)).reverse()) {
    const at = order.findIndex((s) => s.id === here(above.id));
    if (at >= 0) return at;
  }
  return -1;
}

/** A section's text with those pieces of the newer manuscript in it. */
function merged(book: Book, fresh: Book, old: Section, pieces: readonly Piece[], t: Adopting): Node {
  const [ours, theirs] = [keysIn(book), keysIn(fresh)];
  const own = blocksOf(old.content);
  const ownKeys = ours(old.content);
  const blocks = [...own];
  // From the end on, so that what comes before keeps its place; of two at one place the later first.
  for (const p of [...pieces].reverse().sort((a, b) => b.from - a.from || b.to - a.to)) {
    const n = fresh.sections.find((s) => s.id === p.fresh) as Section;
    const keys = new Map(blocksOf(n.content).map((b, i) => [b, theirs(n.content)[i]]));
    const waiting = own.slice(p.from, p.to).map((block, i) => ({ block, key: ownKeys[p.from + i] }));
    const come = p.blocks.map((b) => {
      const at = waiting.findIndex((w) => w.key === keys.get(b));
      const same = at >= 0 ? waiting.splice(at, 1)[0]?.block : undefined;
      if (same) t.block(b.attrs.id as string, same.attrs.id as string);
      return same ?? b;
    });
    const single = p.to - p.from === 1 && come.length === 1 && come[0] === p.blocks[0];
    const replaced = own[p.from] as Node;
    blocks.splice(
      p.from,
      p.to - p.from,
      ...come.map((b) => (own.includes(b) ? b : single ? inShapeOf(replaced, t.take(b)) : t.take(b))),
    );
  }
  return withNotes(old, blocks, pieces, fresh, t);
}

/** New words of one paragraph in the shape that the paragraph was given here: a subhead, a quotation, a letter. */
function inShapeOf(shape: Node, words: Node): Node {
  if (words.type.name !== 'paragraph' || shape.type === words.type) {
    return words.type === shape.type && words.isTextblock
      ? shape.type.create({ ...words.attrs, id: shape.attrs.id as string }, words.content)
      : words;
  }
  if (shape.isTextblock && shape.type.name !== 'monospace' && shape.type.name !== 'figure')
    return shape.copy(words.content);
  const [only] = [shape.firstChild];
  return shape.childCount === 1 && only?.type === words.type
    ? shape.copy(Fragment.from(only.copy(words.content)))
    : words;
}

/** The blocks with the notes that they call: the section's own, and those that came with the new words. */
function withNotes(
  old: Section,
  blocks: readonly Node[],
  pieces: readonly Piece[],
  fresh: Book,
  t: Adopting,
): Node {
  const called = new Set<string>();
  Fragment.fromArray([...blocks]).descendants((n) => {
    if (n.type.name === 'note') called.add(n.attrs.ref as string);
  });
  const notes = new Map<string, Node>();
  old.content.forEach((n) => {
    if (n.type.name === 'noteBody' && called.has(n.attrs.id as string)) notes.set(n.attrs.id as string, n);
  });
  for (const id of new Set(pieces.map((p) => p.fresh)))
    fresh.sections
      .find((s) => s.id === id)
      ?.content.forEach((n) => {
        if (n.type.name !== 'noteBody') return;
        const note = t.take(n);
        const own = note.attrs.id as string;
        if (called.has(own) && !notes.has(own)) notes.set(own, note);
      });
  return old.content.copy(Fragment.fromArray([...blocks, ...notes.values()]));
}
