'use client';
/** Marks with something to say: a link, an index entry, a language. */
import type { Mark } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import { schema } from '@pagina/core/book';

const m = schema.marks;
export type Telling = 'link' | 'indexed' | 'language';

/** The mark of that kind under the cursor or over the selection, with the stretch that bears it. */
export function markAt(
  state: EditorState,
  name: Telling | 'formula',
): { mark: Mark; from: number; to: number } | null {
  const type = m[name]!;
  const { $from, from, to, empty } = state.selection;
  if (!empty) {
    let found: Mark | null = null;
    state.doc.nodesBetween(from, to, (x) => {
      found ??= type.isInSet(x.marks) ?? null;
    });
    return found ? { mark: found, from, to } : null;
  }
  const own = type.isInSet($from.nodeBefore?.marks ?? []) ?? type.isInSet($from.nodeAfter?.marks ?? []);
  if (!own) return null;
  // The stretch of neighbours that bear the same mark.
  const parent = $from.parent;
  let start = $from.start();
  let best: { from: number; to: number } | null = null;
  let run: { from: number; to: number } | null = null;
  parent.forEach((x) => {
    if (own.isInSet(x.marks))
      run = run ? { from: run.from, to: start + x.nodeSize } : { from: start, to: start + x.nodeSize };
    else run = null;
    if (run && run.from <= $from.pos && $from.pos <= run.to) best = run;
    start += x.nodeSize;
  });
  const stretch = best as { from: number; to: number } | null;
  return stretch && { mark: own, ...stretch };
}

/** Whether there is a stretch to mark: selected text, a mark that is there, or the word under the cursor. */
export function stretchOf(state: EditorState, name: Telling): { from: number; to: number } | null {
  const at = markAt(state, name);
  if (at) return at;
  const { $from, from, to, empty } = state.selection;
  if (!empty) return { from, to };
  if (!$from.parent.inlineContent) return null;
  const text = $from.parent.textBetween(0, $from.parent.content.size, undefined, '\ufffc');
  let [a, b] = [$from.parentOffset, $from.parentOffset];
  while (a > 0 && /[\p{L}\p{N}’'-]/u.test(text[a - 1] ?? '')) a--;
  while (b < text.length && /[\p{L}\p{N}’'-]/u.test(text[b] ?? '')) b++;
  return a < b ? { from: $from.start() + a, to: $from.start() + b } : null;
}

/** Sets the mark over its stretch, or takes it away when `attrs` is null. */
export function setTelling(
  state: EditorState,
  name: Telling,
  attrs: Record<string, string> | null,
): Transaction | null {
  const stretch = stretchOf(state, name);
  if (!stretch) return null;
  const type = m[name]!;
  const tr = state.tr;
  const old = markAt(state, name);
  if (old) tr.removeMark(stretch.from, stretch.to, old.mark);
  if (attrs) tr.addMark(stretch.from, stretch.to, type.create(attrs));
  return tr.docChanged ? tr : null;
}
