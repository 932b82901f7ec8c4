/** What a person does to the order, each as one `Change` with one undo. All take many sections at once. */
import { done, refused, type Outcome } from '../base';
import {
  freshSection,
  kindRule,
  newIds,
  sectionToJson,
  underOtherIds,
  type Book,
  type Change,
  type Matter,
  type Placed,
  type Section,
} from '../book';
import { placeFor } from './absent';
import { hasText } from './text';
import { arrange, familyOf, rootsOf } from './tree';

const gone = (): Outcome<never> => refused('order/gone', 'The section has been deleted in the meantime.');
const group = (label: string, changes: Change[]): Outcome<Change> => done({ type: 'group', label, changes });
const several = (n: number, one: string): string => (n === 1 ? one : `${one} (${n} sections)`);

/** Matter of what is put between two sections: theirs, or its own where they differ and it is one of them. */
function matterBetween(own: Matter, above: Placed | undefined, below: Placed | undefined): Matter {
  if (!above || !below)
    return above?.matter === own || below?.matter === own ? own : ((above ?? below)?.matter ?? own);
  return own === above.matter || own === below.matter ? own : above.matter;
}

/** Moves sections, with all that stands in them, before the section `beforeId` (null: to the end). */
export function moveBefore(book: Book, ids: readonly string[], beforeId: string | null): Outcome<Change> {
  const roots = rootsOf(book.sections, ids);
  if (roots.length === 0) return gone();
  const moving = new Set(roots.flatMap((r) => familyOf(book.sections, r.id)));
  // Put before one of themselves they stay where they are, gathered before what follows it.
  const from = beforeId === null ? book.sections.length : book.sections.findIndex((s) => s.id === beforeId);
  if (from < 0) return refused('order/gone', 'The section you want to move it in front of has been deleted.');
  const anchor = book.sections.slice(from).find((s) => !moving.has(s));
  const rest = book.sections.filter((s) => !moving.has(s));
  const at = anchor ? rest.indexOf(anchor) : rest.length;
  const [above, below] = [rest[at - 1], rest[at]];
  const parent = above?.kind === 'part' ? above.id : above?.matter === 'body' ? above.parent : null;
  const placed: Placed[] = [];
  for (const s of book.sections) {
    if (!moving.has(s)) continue;
    const matter = matterBetween(s.matter, above, below);
    if (matter !== 'body' && (s.kind === 'part' || s.kind === 'chapter'))
      return refused('order/matter', `A ${s.kind} belongs in the body of the book.`);
    const root = roots.includes(s);
    const keeps = s.kind === 'part' && root ? (s.parent === parent ? parent : null) : parent;
    placed.push(root ? { ...s, matter, parent: matter === 'body' ? keeps : null } : { ...s, matter });
  }
  return group(
    several(roots.length, 'Move the section'),
    arrange(book, [...rest.slice(0, at), ...placed, ...rest.slice(at)]),
  );
}

/** Moves the sections one place up or down, past whatever stands there. */
export function moveBy(book: Book, ids: readonly string[], by: -1 | 1): Outcome<Change> {
  const roots = rootsOf(book.sections, ids);
  const moving = new Set(roots.flatMap((r) => familyOf(book.sections, r.id)));
  const first = book.sections.findIndex((s) => moving.has(s));
  const last = book.sections.findLastIndex((s) => moving.has(s));
  if (first < 0) return gone();
  const target = by < 0 ? first - 1 : last + 2;
  if (target < 0 || target > book.sections.length)
    return refused('order/end', 'It’s already at the end of the book.');
  return moveBefore(book, ids, book.sections[target]?.id ?? null);
}

/** Puts sections into the part above them, or takes them out of theirs, to stand after it. */
export function nest(book: Book, ids: readonly string[], way: 'in' | 'out'): Outcome<Change> {
  let list: Placed[] = [...book.sections];
  const roots = rootsOf(book.sections, ids);
  if (roots.length === 0) return gone();
  if (way === 'in') {
    const at = list.findIndex((s) => s.id === roots[0]?.id);
    const level = roots[0]?.parent ?? null;
    const above = list.slice(0, at).findLast((s) => s.parent === level && s.matter === 'body');
    if (above?.kind !== 'part' || roots.some((r) => r.matter !== 'body'))
      return refused('order/no-part', 'There is no part above it to move it into.');
    list = list.map((s) => (roots.some((r) => r.id === s.id) ? { ...s, parent: above.id } : s));
    return group('Move into the part above', arrange(book, list));
  }
  for (const root of [...roots].reverse()) {
    const part = list.find((s) => s.id === root.parent);
    if (!part) return refused('order/no-part', 'It isn’t in a part.');
    const family = familyOf(list, root.id).map((s) => (s.id === root.id ? { ...s, parent: part.parent } : s));
    const rest = list.filter((s) => !family.some((f) => f.id === s.id));
    const after = rest.indexOf(familyOf(rest, part.id).at(-1) as Placed) + 1;
    list = [...rest.slice(0, after), ...family, ...rest.slice(after)];
  }
  return group('Move out of the part', arrange(book, list));
}

/** A new part over the sections chosen, which are brought together where the first of them stands. */
export function gather(book: Book, ids: readonly string[], newId: () => string): Outcome<Change> {
  const roots = rootsOf(book.sections, ids);
  const [first] = roots;
  if (!first) return refused('order/nothing', 'Select the sections for the part.');
  const wrong = roots.find((r) => r.matter !== 'body');
  if (wrong)
    return refused(
      'order/matter',
      `Only sections of the body can go into a part; ${named(wrong)} isn’t one.`,
    );
  const old = book.sections.find((s) => s.id === first.parent);
  const after = old ? familyOf(book.sections, old.id).findLastIndex((s) => !inAny(book, s, roots)) : -1;
  // Chosen to the end of their part, they leave it for a part beside it; otherwise the new part stands in the old.
  const untilEnd = old && familyOf(book.sections, old.id).indexOf(first) > after;
  const parent = old ? (untilEnd ? old.parent : old.id) : null;
  const part = freshSection(newId(), 'part', { parent });
  const families = roots.flatMap((r) =>
    familyOf(book.sections, r.id).map((s) => (s === r ? { ...s, parent: part.id } : s)),
  );
  const index = book.sections.indexOf(first);
  const stays = (s: Section): boolean => !families.some((f) => f.id === s.id);
  const withPart = { sections: [...book.sections.slice(0, index), part, ...book.sections.slice(index)] };
  const target = [
    ...book.sections.slice(0, index).filter(stays),
    part,
    ...families,
    ...book.sections.slice(index).filter(stays),
  ];
  return group(several(roots.length, 'Gather into a part'), [
    { type: 'insert-section', index, section: sectionToJson(part) },
    ...arrange(withPart, target),
  ]);
}
const inAny = (book: Book, s: Section, roots: readonly Section[]): boolean =>
  roots.some((r) => familyOf(book.sections, r.id).includes(s));
const named = (s: Section): string =>
  s.title ? `“${s.title}”` : `the ${kindRule(s.kind).label.toLowerCase()}`;

/** Takes a part away and leaves what stood in it. A part with text of its own stays as a plain page. */
export function dissolve(book: Book, id: string): Outcome<Change> {
  const part = book.sections.find((s) => s.id === id);
  if (!part) return gone();
  if (part.kind !== 'part') return refused('order/no-part', 'Only a part can be dissolved.');
  const freed: Change[] = book.sections
    .filter((s) => s.parent === id)
    .map((s) => ({ type: 'set-section', id: s.id, fields: { parent: part.parent } }));
  const last: Change = hasText(part.content)
    ? { type: 'set-section', id, fields: { kind: 'plain', numbered: false } }
    : { type: 'remove-section', id };
  return group('Dissolve the part', [...freed, last]);
}

/** Deletes sections. What stands in a deleted part and is not deleted itself moves up to where the part stood. */
export function remove(book: Book, ids: readonly string[]): Outcome<Change> {
  const doomed = book.sections.filter((s) => ids.includes(s.id));
  if (doomed.length === 0) return gone();
  const parents = new Map(book.sections.map((s) => [s.id, s.parent]));
  const freed: Change[] = [];
  for (const s of book.sections) {
    if (s.parent === null || !ids.includes(s.parent) || ids.includes(s.id)) continue;
    let parent: string | null = s.parent;
    while (parent !== null && ids.includes(parent)) parent = parents.get(parent) ?? null;
    freed.push({ type: 'set-section', id: s.id, fields: { parent } });
  }
  return group(several(doomed.length, 'Delete the section'), [
    ...freed,
    ...doomed.map((s): Change => ({ type: 'remove-section', id: s.id })),
  ]);
}

/** Copies a section, with all that stands in it, to stand after it. */
export function duplicate(book: Book, id: string, newId: () => string): Outcome<Change> {
  const family = familyOf(book.sections, id);
  const last = family.at(-1);
  if (!last) return gone();
  const fresh = new Map(family.map((s) => [s.id, newId()]));
  const index = book.sections.indexOf(last) + 1;
  return group(
    'Duplicate the section',
    family.map((s, i) => ({
      type: 'insert-section',
      index: index + i,
      section: sectionToJson({
        ...s,
        id: fresh.get(s.id) as string,
        parent: s.id === id ? s.parent : (fresh.get(s.parent ?? '') ?? null),
        content: underOtherIds(s.content, newIds(newId)),
      }),
    })),
  );
}

/** Puts a page that the book lacks into its place. Where the record knows its words, it is made from the record. */
export function addAtItsPlace(book: Book, kind: Section['kind'], newId: () => string): Outcome<Change> {
  const section = freshSection(newId(), kind);
  return group(`Add the ${kindRule(kind).label.toLowerCase()}`, [
    { type: 'insert-section', index: placeFor(book.sections, kind), section: sectionToJson(section) },
  ]);
}
