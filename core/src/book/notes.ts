/** Notes of a section: in which order they are called, of which kind they are, and by which marks they are known. */
import type { Node } from 'prosemirror-model';

export type NoteKind = 'foot' | 'end';

/** Signs of footnotes that stand beside numbered endnotes (The Chicago Manual of Style, 17th ed., 14.25, from memory). */
const SIGNS = ['*', '\u2020', '\u2021', '\u00a7', '\u2016', '\u00b6'];

/** The notes of a section by their ids. */
export function noteKinds(doc: Node): Map<string, NoteKind> {
  const kinds = new Map<string, NoteKind>();
  doc.forEach((n) => {
    if (n.type.name === 'noteBody') kinds.set(n.attrs.id as string, n.attrs.kind as NoteKind);
  });
  return kinds;
}

/**
 * Marks of a section's notes in the order of their calls: numbers from 1 up. `signs` is for books whose footnotes and
 * endnotes stand apart: endnotes are numbered by themselves, and footnotes bear signs, doubled after the sixth.
 */
export function noteMarks(doc: Node, signs: boolean): Map<string, string> {
  const kinds = signs ? noteKinds(doc) : null;
  const marks = new Map<string, string>();
  const count = { foot: 0, end: 0 };
  doc.descendants((n) => {
    const ref = n.attrs.ref as string;
    if (n.type.name !== 'note' || marks.has(ref)) return;
    const kind = kinds ? (kinds.get(ref) ?? 'foot') : 'end';
    const i = count[kind]++;
    const sign = SIGNS[i % SIGNS.length] as string;
    marks.set(ref, kind === 'end' ? String(i + 1) : sign.repeat(Math.floor(i / SIGNS.length) + 1));
  });
  return marks;
}

/** A section's notes in the order of their calls, whatever the order they are kept in; those that nothing calls come last. */
export function notesIn(doc: Node): Node[] {
  const notes: Node[] = [];
  doc.forEach((n) => {
    if (n.type.name === 'noteBody') notes.push(n);
  });
  if (notes.length < 2) return notes;
  const place = new Map([...noteMarks(doc, false).keys()].map((ref, i) => [ref, i]));
  const of = (n: Node): number => place.get(n.attrs.id as string) ?? Infinity;
  return notes.sort((a, b) => (of(a) === of(b) ? 0 : of(a) - of(b)));
}
