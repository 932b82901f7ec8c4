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

/** A copy of a section's content in which every block is new, and calls of notes go to the copied notes. */
export function copyOf(doc: Node, newId: () => string): Node {
  const ids = new Map<string, string>();
  doc.descendants((n) => {
    const id = n.attrs.id as string | undefined;
    if (id) ids.set(id, newId());
  });
  const copy = (n: Node): Node => {
    if (n.isText) return n;
    const children: Node[] = [];
    n.forEach((c) => void children.push(copy(c)));
    const { id, ref } = n.attrs as { id?: string; ref?: string };
    const attrs = {
      ...n.attrs,
      ...(id === undefined ? {} : { id: ids.get(id) ?? newId() }),
      ...(ref === undefined ? {} : { ref: ids.get(ref) ?? ref }),
    };
    return n.type.create(attrs, Fragment.fromArray(children), n.marks);
  };
  return copy(doc);
}

/** The position of a place in its section's document, or null when the block is gone. */
export function positionOf(doc: Node, place: Place): number | null {
  if (!place.block) return 0;
  let found: number | null = null;
  doc.descendants((node, pos) => {
    if (found !== null) return false;
    if (node.attrs.id === place.block) found = pos + 1 + Math.min(place.offset ?? 0, node.content.size);
    return found === null;
  });
  return found;
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
