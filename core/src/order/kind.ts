/** Changing what a section is: the commonest correction, one action for one section or many. */
import { done, refused, type Outcome } from '../base';
import { kindRule, type Book, type Change, type Placed, type SectionKind } from '../book';
import { placeFor } from './absent';
import { arrange } from './tree';

/**
 * Makes sections of that kind. A kind belongs to a matter: a section that stands elsewhere moves to its place there. A
 * plain page may stand anywhere.
 */
export function changeKind(book: Book, ids: readonly string[], kind: SectionKind): Outcome<Change> {
  const chosen = book.sections.filter((s) => ids.includes(s.id));
  if (chosen.length === 0) return refused('order/gone', 'The section has been deleted in the meantime.');
  const rule = kindRule(kind);
  const demoted = new Set(kind === 'part' ? [] : chosen.filter((s) => s.kind === 'part').map((s) => s.id));
  const above = new Map(book.sections.map((s) => [s.id, s.parent]));
  const lifted = (parent: string | null): string | null => {
    let p = parent;
    while (p !== null && demoted.has(p)) p = above.get(p) ?? null;
    return p;
  };
  let list: Placed[] = book.sections.map((s) => {
    const parent = lifted(s.parent);
    if (!chosen.includes(s)) return { ...s, parent };
    const matter = kind === 'plain' ? s.matter : rule.matter;
    return { ...s, kind, matter, parent: kind === 'part' && s.kind !== 'part' ? lifted(null) : parent };
  });
  for (const s of chosen) {
    if (kind === 'plain' || s.matter === rule.matter) continue;
    const self = list.find((x) => x.id === s.id) as Placed;
    const rest = list.filter((x) => x !== self);
    const before = list[list.indexOf(self) - 1];
    const after = list[list.indexOf(self) + 1];
    // It may stand where it is when it is the first or the last of its new matter there.
    if (before?.matter === rule.matter || after?.matter === rule.matter) continue;
    const at = placeFor(rest, kind);
    list = [...rest.slice(0, at), self, ...rest.slice(at)];
  }
  const label =
    chosen.length === 1
      ? `Change the kind to ${rule.label.toLowerCase()}`
      : `Make ${chosen.length} sections ${rule.label.toLowerCase()}`;
  const kinds: Change[] = chosen.map((s) => ({
    type: 'set-section',
    id: s.id,
    fields: { kind, ...(rule.numbered && !kindRule(s.kind).numbered ? { numbered: true } : {}) },
  }));
  return done({ type: 'group', label, changes: [...kinds, ...arrange(book, list)] });
}
