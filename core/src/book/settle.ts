/** Parents that agree with the order: no part holds itself, and none holds a section that stands elsewhere. */
import type { Matter, SectionKind } from './kinds';

/** What decides where a section belongs. */
export interface Placed {
  id: string;
  kind: SectionKind;
  matter: Matter;
  /** The part this section belongs to, or null. */
  parent: string | null;
}

/**
 * Makes parents agree with the order. A section belongs to a part only while that part is the last one begun (or the
 * last one holds it); one whose part stands elsewhere belongs to the part it now stands below.
 */
export function settle<S extends Placed>(list: readonly S[]): S[] {
  const open: string[] = [];
  return list.map((s) => {
    let { parent } = s;
    if (s.matter !== 'body') parent = null;
    else if (parent !== null && !open.includes(parent))
      parent = s.kind === 'part' ? null : (open.at(-1) ?? null);
    while (open.length > 0 && open.at(-1) !== parent) open.pop();
    if (s.kind === 'part') open.push(s.id);
    return parent === s.parent ? s : { ...s, parent };
  });
}
