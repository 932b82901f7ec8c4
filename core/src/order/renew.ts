/**
 * A manuscript that comes in a second time. Its sections are matched with the book's by title and by text; the new text
 * takes the place of the old, section by section as the author chooses, while kinds, order, editions and design stay.
 * Blocks whose words are the same stay as they are in the book, with whatever was done to them here.
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
import { isFromRecord } from './fromrecord';
import { hasText } from './text';
import { remove } from './rearrange';
import { Adopting } from './adopting';

export interface Match {
  /** Id in the book; null for a section that is new. */
  old: string | null;
  /** Id in the new reading; null for a section that it lacks. */
  fresh: string | null;
  /** 0 to 1: how much of the text is the same. */
  likeness: number;
}
/** For each match whether the new reading is followed: its text taken, its new section put in, a missing one deleted. */
export interface Choice {
  follow: boolean;
  /** Whether the new title is taken too, where it differs. */
  title: boolean;
}

const SKETCH = 96;
const SHINGLE = 3;

/** The smallest hashes of the runs of three words: two texts are as like as their sketches (Broder 1997). */
function sketch(content: Node): Uint32Array {
  const words =
    content
      .textBetween(0, content.content.size, ' ', ' ')
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu) ?? [];
  const hashes = new Set<number>();
  for (let i = 0; i + SHINGLE <= words.length || (i === 0 && words.length > 0); i++) {
    let h = 2166136261;
    for (const w of words.slice(i, i + SHINGLE))
      for (let k = 0; k <= w.length; k++) h = Math.imul(h ^ (w.charCodeAt(k) || 32), 16777619);
    hashes.add(h >>> 0);
  }
  return Uint32Array.from(hashes).sort().subarray(0, SKETCH);
}
function likeness(a: Uint32Array, b: Uint32Array): number {
  if (a.length === 0 || b.length === 0) return 0;
  const most = Math.min(SKETCH, Math.max(a.length, b.length));
  let [i, k, same, seen] = [0, 0, 0, 0];
  while (seen < most && i < a.length && k < b.length) {
    const [x, y] = [a[i] as number, b[k] as number];
    if (x === y) same++;
    if (x <= y) i++;
    if (y <= x) k++;
    seen++;
  }
  return same / Math.max(1, seen);
}
const plain = (s: string): string => s.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** Pages that the book makes itself need no text from a manuscript. */
const takesPart = (s: Section, book: Book): boolean =>
  s.kind !== 'contents' && !(isFromRecord(s, book.record) && !hasText(s.content));

/** Matches in the book's order; new sections stand after the one they follow in the new reading. */
export function matchSections(book: Book, fresh: Book): Match[] {
  const olds = book.sections.filter((s) => takesPart(s, book));
  const news = fresh.sections.filter((s) => takesPart(s, fresh));
  const sketches = new Map<Section, Uint32Array>([...olds, ...news].map((s) => [s, sketch(s.content)]));
  const pairs: { old: Section; fresh: Section; like: number; score: number }[] = [];
  olds.forEach((old, i) => {
    news.forEach((n, k) => {
      const like = likeness(sketches.get(old) as Uint32Array, sketches.get(n) as Uint32Array);
      const titled = plain(old.title) !== '' && plain(old.title) === plain(n.title);
      const empty = !hasText(old.content) && !hasText(n.content);
      // The same place counts a little, so that untitled sections of like text keep their order.
      const place = 1 - Math.abs(i / Math.max(1, olds.length) - k / Math.max(1, news.length));
      const score =
        like + (titled ? 0.5 : 0) + (old.kind === n.kind ? 0.1 : 0) + (empty ? 0.2 : 0) + place * 0.05;
      if (like >= 0.08 || titled || (old.kind === n.kind && old.kind !== 'chapter'))
        pairs.push({ old, fresh: n, like, score });
    });
  });
  pairs.sort((a, b) => b.score - a.score);
  const byOld = new Map<string, Match>();
  const byFresh = new Map<string, string>();
  for (const p of pairs) {
    if (byOld.has(p.old.id) || byFresh.has(p.fresh.id)) continue;
    byOld.set(p.old.id, { old: p.old.id, fresh: p.fresh.id, likeness: p.like });
    byFresh.set(p.fresh.id, p.old.id);
  }
  const list: Match[] = olds.map((s) => byOld.get(s.id) ?? { old: s.id, fresh: null, likeness: 0 });
  let after = -1;
  for (const n of news) {
    const old = byFresh.get(n.id);
    if (old !== undefined) after = list.findIndex((m) => m.old === old);
    else list.splice(++after, 0, { old: null, fresh: n.id, likeness: 0 });
  }
  return list;
}

/** The words of a block with those of the notes it calls: two blocks of the same words are the same block. */
function wordsOf(block: Node, doc: Node): string {
  const refs: string[] = [];
  const own = block.textBetween(0, block.content.size, '\n', (l) => {
    if (l.type.name === 'note') refs.push(l.attrs.ref as string);
    return l.type.name === 'lineBreak' ? '\n' : l.type.name === 'note' ? '*' : '';
  });
  const notes: string[] = [];
  doc.forEach((n) => {
    if (n.type.name === 'noteBody' && refs.includes(n.attrs.id as string)) notes.push(n.textContent);
  });
  const sign = { break: '❦', pageBreak: '⏎' }[block.type.name] ?? '';
  return `${sign}${own}¦${notes.join('¦')}`;
}

/** The new text of a section, with the old blocks where their words are the same. */
function renewed(old: Node, fresh: Node, t: Adopting): Node {
  const waiting = new Map<string, Node[]>();
  const keyOf = (b: Node, doc: Node, picture = b.attrs.picture as string): string =>
    (b.type.name === 'figure' ? picture : '') + wordsOf(b, doc);
  old.forEach((b) => {
    if (b.type.name === 'noteBody') return;
    const key = keyOf(b, old);
    waiting.set(key, [...(waiting.get(key) ?? []), b]);
  });
  const blocks: Node[] = [];
  const called = new Set<string>();
  fresh.forEach((b) => {
    if (b.type.name === 'noteBody') return;
    const same = waiting.get(keyOf(b, fresh, t.picture(b.attrs.picture as string)))?.shift();
    if (same) {
      t.block(b.attrs.id as string, same.attrs.id as string);
      same.descendants((n) => {
        if (n.type.name === 'note') called.add(n.attrs.ref as string);
      });
    }
    blocks.push(same ?? t.take(b));
  });
  const keptNotes: Node[] = [];
  old.forEach((n) => {
    if (n.type.name === 'noteBody' && called.has(n.attrs.id as string)) keptNotes.push(n);
  });
  const freshRefs = new Set<string>();
  blocks.forEach((b) =>
    b.descendants((n) => {
      if (n.type.name === 'note') freshRefs.add(n.attrs.ref as string);
    }),
  );
  fresh.forEach((n) => {
    if (n.type.name !== 'noteBody') return;
    const note = t.take(n);
    if (freshRefs.has(note.attrs.id as string) && !called.has(note.attrs.id as string)) keptNotes.push(note);
  });
  return fresh.copy(Fragment.fromArray([...blocks, ...keptNotes]));
}

/** One change that follows the new reading where the author chose to. Errors: `order/nothing` when nothing was chosen. */
export function renew(
  book: Book,
  fresh: Book,
  matches: readonly Match[],
  choices: readonly Choice[],
  newId: () => string,
): Outcome<Change> {
  const t = new Adopting(book, fresh, newId);
  const news = new Map(fresh.sections.map((s) => [s.id, s]));
  const olds = new Map(book.sections.map((s) => [s.id, s]));
  const ids = matches.map((m) => m.old ?? newId());
  matches.forEach((m, i) => m.fresh && t.section(m.fresh, ids[i] as string));
  const texts: { match: number; content: Node }[] = [];
  matches.forEach((m, i) => {
    const n = m.fresh === null ? undefined : news.get(m.fresh);
    if (!n || !choices[i]?.follow) return;
    const old = m.old === null ? undefined : olds.get(m.old);
    const content = old ? renewed(old.content, n.content, t) : t.take(n.content);
    texts.push({ match: i, content });
  });
  const changes: Change[] = [];
  const order: Placed[] = [...book.sections];
  for (const { match: i, content } of texts) {
    const m = matches[i] as Match;
    const n = news.get(m.fresh as string) as Section;
    const old = m.old === null ? undefined : olds.get(m.old);
    const linked = t.linked(content);
    if (old) {
      if (!old.content.eq(linked)) changes.push(textReplaced(old, linked));
      if (choices[i]?.title && (n.title !== old.title || n.subtitle !== old.subtitle))
        changes.push({ type: 'set-section', id: old.id, fields: { title: n.title, subtitle: n.subtitle } });
      continue;
    }
    // A new section stands after the last one before it that the book holds, in its part.
    const before = matches.slice(0, i).findLastIndex((x, k) => x.old !== null || choices[k]?.follow);
    const at = before >= 0 ? order.findIndex((s) => s.id === ids[before]) : -1;
    const section = {
      ...n,
      id: ids[i] as string,
      parent: parentBelow(order[at], n),
      leftOut: [],
      content: linked,
    };
    changes.push({ type: 'insert-section', index: at + 1, section: sectionToJson(section) });
    order.splice(at + 1, 0, section);
  }
  const gone = matches.flatMap((m, i) => (m.fresh === null && m.old && choices[i]?.follow ? [m.old] : []));
  if (gone.length > 0) {
    const now = apply(book, { type: 'group', label: '', changes });
    const removal = now.ok ? remove(now.value.book, gone) : now;
    if (!removal.ok) return removal;
    changes.push(removal.value);
  }
  if (changes.length === 0) return refused('order/nothing', 'None of the new text was selected.');
  return done({
    type: 'group',
    label: 'Use the text of a newer manuscript',
    changes: withPictures(t, changes),
  });
}

/** The part in which a section stands that is put below another. */
const parentBelow = (above: Placed | undefined, s: Placed): string | null =>
  s.matter !== 'body' || s.kind === 'part' || above?.matter !== 'body'
    ? null
    : above.kind === 'part'
      ? above.id
      : above.parent;

/**
 * Adds the sections of another reading after one of the book's, parts and all. Pages that the book makes itself, and
 * those it has already, are left where they are.
 */
export function addAfter(
  book: Book,
  fresh: Book,
  afterId: string | null,
  newId: () => string,
): Outcome<Change> {
  const t = new Adopting(book, fresh, newId);
  const single = new Set(['title-page', 'copyright-page', 'half-title', 'contents']);
  const coming = fresh.sections.filter((s) => takesPart(s, fresh) && !single.has(s.kind));
  if (coming.length === 0) return refused('order/nothing', 'It contains no text to add.');
  const ids = new Map(coming.map((s) => [s.id, newId()]));
  for (const [other, id] of ids) t.section(other, id);
  const contents = coming.map((s) => t.take(s.content));
  const found = book.sections.findIndex((s) => s.id === afterId);
  const at = found >= 0 ? found : book.sections.findLastIndex((s) => s.matter === 'body');
  const above = book.sections[at];
  const changes = coming.map((s, i): Change => {
    const parent = s.parent === null ? parentBelow(above, s) : (ids.get(s.parent) ?? null);
    const section = {
      ...s,
      id: ids.get(s.id) as string,
      parent,
      leftOut: [],
      content: t.linked(contents[i] as Node),
    };
    return { type: 'insert-section', index: at + 1 + i, section: sectionToJson(section) };
  });
  return done({
    type: 'group',
    label: 'Add a manuscript',
    changes: withPictures(t, changes),
  });
}

const withPictures = (t: Adopting, changes: Change[]): Change[] =>
  t.pictures.length === 0 ? changes : [{ type: 'add-pictures', pictures: t.pictures }, ...changes];
