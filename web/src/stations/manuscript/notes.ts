'use client';
/**
 * Notes: a call in the text and a body at the section's end always belong together. A body whose call goes is kept aside
 * while the title is open, and comes back when the call is pasted, here or in another section.
 */
import { type Node } from 'prosemirror-model';
import { Plugin, PluginKey, TextSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { isPictured, noteMarks, schema, type NoteKind } from '@pagina/core/book';
import { shortId } from '@/title/ids';

const n = schema.nodes;
const aside = new Map<string, Node>();

function found(doc: Node): {
  calls: { ref: string; pos: number }[];
  bodies: Map<string, { pos: number; node: Node }>;
} {
  const calls: { ref: string; pos: number }[] = [];
  const bodies = new Map<string, { pos: number; node: Node }>();
  doc.descendants((x, pos) => {
    if (x.type === n.note) calls.push({ ref: x.attrs.ref as string, pos });
    else if (x.type === n.noteBody) bodies.set(x.attrs.id as string, { pos, node: x });
  });
  return { calls, bodies };
}

/** Puts a note's call behind the selection and the cursor into its body. */
export function insertNote(state: EditorState, kind: NoteKind): Transaction | null {
  const { $to } = state.selection;
  if (
    isPictured(state.doc) ||
    $to.depth === 0 ||
    $to.node(1).type === n.noteBody ||
    !$to.parent.inlineContent ||
    $to.parent.type === n.monospace
  )
    return null;
  const id = `n${shortId()}`;
  const tr = state.tr.insert($to.pos, n.note!.create({ ref: id }));
  const end = tr.doc.content.size;
  tr.insert(end, n.noteBody!.create({ id, kind }, n.paragraph!.create({ id: '' })));
  return tr.setSelection(TextSelection.near(tr.doc.resolve(end + 1))).scrollIntoView();
}

/** The call of the note the cursor stands in, or the body of the call beside it. */
export function otherEnd(state: EditorState): Transaction | null {
  const { $from } = state.selection;
  const { calls, bodies } = found(state.doc);
  const body =
    $from.depth > 0 && $from.node(1).type === n.noteBody ? ($from.node(1).attrs.id as string) : null;
  const to = body
    ? calls.find((c) => c.ref === body)?.pos
    : bodies.get(($from.nodeBefore ?? $from.nodeAfter)?.attrs.ref as string)?.pos;
  if (to === undefined) return null;
  return state.tr.setSelection(TextSelection.near(state.doc.resolve(to + 1))).scrollIntoView();
}

/** The note that the cursor stands in, or whose call is beside it. */
export function noteAt(state: EditorState): { pos: number; node: Node } | null {
  const { $from, empty } = state.selection;
  const at = $from.depth > 0 && $from.node(1).type === n.noteBody ? ($from.node(1).attrs.id as string) : null;
  const beside = [$from.nodeAfter, $from.nodeBefore].find((x) => x?.type === n.note);
  const id = at ?? (empty ? (beside?.attrs.ref as string | undefined) : undefined);
  return id === undefined ? null : (found(state.doc).bodies.get(id) ?? null);
}

function rememberNotes(doc: Node): void {
  doc.forEach((x) => {
    if (x.type === n.noteBody) aside.set(x.attrs.id as string, x);
  });
}

const key = new PluginKey<DecorationSet>('notes');

/** Marks of calls and bodies through the section. */
function numbers(doc: Node): DecorationSet {
  const { calls, bodies } = found(doc);
  if (calls.length === 0) return DecorationSet.empty;
  // Both kinds in one section: footnotes bear signs, as they do where endnotes stand apart from them.
  const both = new Set([...bodies.values()].map((b) => b.node.attrs.kind as NoteKind)).size === 2;
  const order = noteMarks(doc, both);
  const marks = calls.map(({ ref, pos }) =>
    Decoration.node(pos, pos + 1, { 'data-number': order.get(ref) ?? '', 'data-call': ref }),
  );
  for (const [ref, { pos, node }] of bodies)
    marks.push(Decoration.node(pos, pos + node.nodeSize, { 'data-number': order.get(ref) ?? '' }));
  return DecorationSet.create(doc, marks);
}

export function notesPlugin(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_, state) => numbers(state.doc),
      apply: (tr, old) => (tr.docChanged ? numbers(tr.doc) : old),
    },
    props: {
      decorations: (s) => key.getState(s),
      transformCopied(slice, view) {
        rememberNotes(view.state.doc);
        return slice;
      },
    },
    appendTransaction(transactions, before, state) {
      // What others did is already whole; only what was done here is completed.
      if (!transactions.some((t) => t.docChanged && !t.getMeta('collab$'))) return null;
      rememberNotes(before.doc);
      const { calls, bodies } = found(state.doc);
      const called = new Set<string>();
      const tr = state.tr;
      for (const { ref, pos } of calls) {
        if (called.has(ref)) {
          // The same call twice: the second has a note of its own with the same words.
          const id = `n${shortId()}`;
          tr.setNodeMarkup(tr.mapping.map(pos), undefined, { ref: id });
          tr.insert(tr.doc.content.size, fresh(id, bodies.get(ref)?.node ?? aside.get(ref)));
          continue;
        }
        called.add(ref);
        if (!bodies.has(ref)) tr.insert(tr.doc.content.size, fresh(ref, aside.get(ref)));
      }
      for (const [ref, { pos, node }] of [...bodies].reverse())
        if (!called.has(ref)) tr.delete(tr.mapping.map(pos), tr.mapping.map(pos + node.nodeSize));
      return tr.docChanged ? tr : null;
    },
  });
}

const fresh = (id: string, like: Node | undefined): Node =>
  n.noteBody!.create(
    { id, kind: (like?.attrs.kind as NoteKind | undefined) ?? 'foot' },
    like?.content ?? n.paragraph!.create({ id: '' }),
  );
