/** Stable block ids, and the places that point to them. */
import { Fragment, type Node } from 'prosemirror-model';
import type { Place } from '../base';

/** Gives every block without an id, or with one seen before, a new one: after division, joining and paste. */
export function withFreshIds(doc: Node, newId: () => string, taken: Set<string> = new Set()): Node {
  const renew = (node: Node): Node => {
    if (node.isText || node.isInline) return node;
    const children: Node[] = [];
    let changed = false;
    node.forEach((c) => {
      const r = renew(c);
      changed ||= r !== c;
      children.push(r);
    });
    let attrs = node.attrs;
    if ('id' in attrs) {
      const id = attrs.id as string;
      if (id === '' || taken.has(id)) {
        attrs = { ...attrs, id: newId() };
        changed = true;
      }
      taken.add(attrs.id as string);
    }
    return changed ? node.type.create(attrs, Fragment.fromArray(children), node.marks) : node;
  };
  return renew(doc);
}

/** A copy of a node with other ids. Note calls follow their notes; pictures are renamed where asked. */
export function underOtherIds(
  n: Node,
  idOf: (id: string) => string,
  pictureOf: (picture: string) => string = (p) => p,
): Node {
  if (n.isText) return n;
  const children: Node[] = [];
  n.forEach((c) => void children.push(underOtherIds(c, idOf, pictureOf)));
  const attrs: Record<string, unknown> = { ...n.attrs };
  if (typeof attrs.id === 'string') attrs.id = idOf(attrs.id);
  if (typeof attrs.ref === 'string') attrs.ref = idOf(attrs.ref);
  if (typeof attrs.picture === 'string') attrs.picture = pictureOf(attrs.picture);
  return n.type.create(attrs, Fragment.fromArray(children), n.marks);
}

/** Answers the same new id for the same old one. */
export function newIds(newId: () => string): (id: string) => string {
  const known = new Map<string, string>();
  return (id) => {
    let fresh = id === '' ? undefined : known.get(id);
    if (fresh === undefined) known.set(id, (fresh = newId()));
    return fresh;
  };
}

/**
 * A text with its links and references to places of the book led elsewhere: `to` answers the new target for an old one,
 * or null where the link goes and its words stay.
 */
export function relinked(n: Node, to: (target: string) => string | null): Node {
  if (n.type.name === 'reference') {
    const { words, target: old } = n.attrs as { words: string; target: string };
    const target = to(old);
    if (target !== null) return target === old ? n : n.type.create({ ...n.attrs, target }, null, n.marks);
    return words === '' ? n.type.create({ target: '' }) : n.type.schema.text(words, n.marks);
  }
  if (n.isText) {
    const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
    if (!link) return n;
    const others = link.removeFromSet(n.marks);
    const target = to(link.attrs.target as string);
    return n.mark(target === null ? others : link.type.create({ kind: 'place', target }).addToSet(others));
  }
  let changed = false;
  const children: Node[] = [];
  n.forEach((c) => {
    const r = relinked(c, to);
    changed ||= r !== c;
    children.push(r);
  });
  return changed ? n.copy(Fragment.fromArray(children)) : n;
}

/** What a leaf within text stands for: a line's end, a note's call, a reference's words. */
export function wordsOfLeaf({ type, attrs }: Node): string {
  if (type.name === 'reference') return attrs.words as string;
  return type.name === 'lineBreak' ? '\n' : type.name === 'note' ? '*' : '';
}

/** The innermost block with an id around a position, and the offset inside it. */
export function placeAt(section: string, doc: Node, pos: number): Place {
  const at = doc.resolve(Math.max(0, Math.min(pos, doc.content.size)));
  for (let d = at.depth; d > 0; d--) {
    const id = at.node(d).attrs.id as string | undefined;
    if (id) return { section, block: id, offset: pos - at.start(d) };
  }
  return { section };
}
