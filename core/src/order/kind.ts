/** Changing what a section is: the commonest correction, one action for one section or many. */
import { done, refused, type Outcome } from '../base';
import { Fragment, type Node } from 'prosemirror-model';
import {
  isPictured,
  kindRule,
  schema,
  textReplaced,
  type Book,
  type Change,
  type Placed,
  type Section,
  type SectionKind,
} from '../book';
import { placeFor } from './absent';
import { headingIn, type HeadingIn } from './headingin';
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
  if (kind === 'part')
    list = withChapters(
      list,
      chosen.filter((s) => s.kind !== 'part'),
    );
  const label =
    chosen.length === 1
      ? `Change the kind to ${rule.label.toLowerCase()}`
      : `Make ${chosen.length} sections ${rule.label.toLowerCase()}`;
  const kinds: Change[] = chosen.flatMap((s): Change[] => {
    const numbered = rule.numbered && !kindRule(s.kind).numbered ? { numbered: true } : {};
    const heading = headed(s, kind);
    const text = heading && textReplaced(s, Fragment.fromArray(heading.rest));
    const fields = { kind, ...numbered, ...heading?.fields };
    return [{ type: 'set-section', id: s.id, fields }, ...(text ? [text] : [])];
  });
  return done({ type: 'group', label, changes: [...kinds, ...arrange(book, list)] });
}

/** A section that had no heading and becomes one that has takes it out of its text, where it stands first. */
function headed(s: Section, kind: SectionKind): HeadingIn | null {
  const heads = (k: SectionKind): boolean => kindRule(k).opening === 'heading' || k === 'part';
  if (!heads(kind) || heads(s.kind) || s.title !== '' || isPictured(s.content)) return null;
  const blocks: Node[] = [];
  s.content.forEach((n) => void blocks.push(n));
  const heading = headingIn(blocks);
  const calls = heading && holdsCall(blocks) !== holdsCall(heading.rest);
  if (!heading || calls) return null;
  const text = heading.rest.some((n) => n.type.name !== 'noteBody');
  return text
    ? heading
    : { ...heading, rest: [schema.node('paragraph', { id: `${s.id}-1` }), ...heading.rest] };
}
const holdsCall = (blocks: readonly Node[]): number => {
  let n = 0;
  Fragment.fromArray([...blocks]).descendants((x) => {
    if (x.type.name === 'note') n++;
  });
  return n;
};

/** New parts take in the sections that stand beside them, down to the next part. */
function withChapters(list: readonly Placed[], parts: readonly Section[]): Placed[] {
  let part: Placed | null = null;
  const fresh = new Set(parts.map((s) => s.id));
  return list.map((s) => {
    if (s.kind === 'part' || s.matter !== 'body' || s.kind === 'epilogue') {
      if (s.kind === 'part' || s.parent === (part?.parent ?? null)) part = fresh.has(s.id) ? s : null;
      return s;
    }
    return part && s.parent === part.parent ? { ...s, parent: part.id } : s;
  });
}
