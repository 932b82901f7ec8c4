/** Makes edits of text that were found and shown before. */
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { schema, type Book, type Change } from '../book';
import { blockText, type TextEdit } from './edits';
import { changesOfFields } from './fields';

/** One change that makes all those edits; null when the text has moved on and none of them fits any more. */
export function changeOfEdits(book: Book, edits: readonly TextEdit[], label: string): Change | null {
  const changes: Change[] = [];
  for (const section of book.sections) {
    const own = new Map<string, TextEdit[]>();
    for (const e of edits)
      if (e.section === section.id && !e.field) own.set(e.block, [...(own.get(e.block) ?? []), e]);
    if (own.size === 0) continue;
    const tr = new Transform(section.content);
    const places: { pos: number; node: Node; edit: TextEdit }[] = [];
    section.content.descendants((node, pos) => {
      if (node.isTextblock)
        for (const edit of own.get(node.attrs.id as string) ?? []) places.push({ pos, node, edit });
      return !node.isTextblock;
    });
    // From the end on, so that what comes before keeps its place.
    places.sort((a, b) => b.pos - a.pos || b.edit.from - a.edit.from);
    for (const { pos, node, edit } of places) make(tr, pos, node, edit);
    if (tr.docChanged)
      changes.push({ type: 'text', section: section.id, steps: tr.steps.map((s) => s.toJSON() as unknown) });
  }
  const fields = edits.filter((e) => e.field);
  if (fields.length > 0) changes.push(...changesOfFields(book, fields));
  return changes.length > 0 ? { type: 'group', label, changes } : null;
}

/** Words put in take the marks of those they replace, or of what stands before them. */
function make(tr: Transform, pos: number, node: Node, edit: TextEdit): void {
  if (edit.whole) {
    if (node.content.size === 0) tr.delete(pos, pos + node.nodeSize);
    return;
  }
  if (blockText(node).slice(edit.from, edit.to) !== edit.was) return;
  const at = edit.to > edit.from ? edit.from : Math.max(0, edit.from - 1);
  const marks = node.type.spec.code ? [] : (node.nodeAt(at)?.marks ?? []);
  const from = pos + 1 + edit.from;
  const to = pos + 1 + edit.to;
  if (edit.remark) {
    tr.removeMark(from, to, schema.marks[edit.remark.off]);
    tr.addMark(from, to, schema.mark(edit.remark.on));
  } else if (edit.index !== undefined) tr.addMark(from, to, schema.mark('indexed', { term: edit.index }));
  else if (edit.refer) {
    const others = marks.filter((m) => m.type.name !== 'link');
    tr.replaceWith(from, to, schema.node('reference', { ...edit.refer, words: edit.was }, [], others));
  } else if (edit.by === '') tr.delete(from, to);
  else tr.replaceWith(from, to, schema.text(edit.by, marks));
}
