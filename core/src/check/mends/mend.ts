/** How a mend is written: what it changes of an ebook for the findings of its rules, without guessing. */
import { offsetAt, type Finding } from '../../base';
import { localName, type Draft, type Located, type LocatedAttribute, type Replacement } from '../../emend';
import type { EpubSubject } from '../epub/subject';

export interface Mending {
  d: Draft;
  /** The ebook as the findings saw it. */
  s: EpubSubject;
  findings: readonly Finding[];
  /** The moment of the mend, as 2026-11-29T04:00:00Z. */
  moment: string;
}
export interface Mend {
  /** What is done, for a button and for Undo. */
  label: string;
  apply(m: Mending): void;
}

/** Findings by the file that they stand in, with their offsets. */
function* byFile({ d, findings }: Mending): Generator<{ path: string; text: string; places: number[] }> {
  const files = new Map<string, number[]>();
  for (const { file, line, column } of findings) {
    if (file === undefined || !d.now.parts.has(file)) continue;
    const at = line === undefined ? 0 : offsetAt(d.text(file), line, column ?? 1);
    files.set(file, [...(files.get(file) ?? []), at]);
  }
  for (const [path, places] of files) yield { path, text: d.text(path), places };
}

/** Edits of the text at each place. */
export const atPlaces =
  (edits: (text: string, at: number, m: Mending, path: string) => readonly Replacement[]): Mend['apply'] =>
  (m) => {
    for (const { path, text, places } of byFile(m))
      m.d.edit(
        path,
        places.flatMap((at) => edits(text, at, m, path)),
      );
  };

/** Edits of each element that a finding begins at, or whose attribute it begins at. */
export const atElements =
  (
    edits: (
      e: Located,
      text: string,
      m: Mending,
      path: string,
      attribute: LocatedAttribute | undefined,
    ) => readonly Replacement[],
  ): Mend['apply'] =>
  (m) => {
    for (const { path, text, places } of byFile(m)) {
      const wanted = new Set(places);
      const found: Replacement[] = [];
      for (const e of m.d.elements(path)) {
        const a = e.attributes.find((x) => wanted.has(x.from));
        if (wanted.has(e.from) || a) found.push(...edits(e, text, m, path, a));
      }
      m.d.edit(path, found);
    }
  };

/** An attribute taken away, with the space before it. */
export const withoutAttribute = (text: string, a: LocatedAttribute): Replacement => ({
  from: text.slice(0, a.from).trimEnd().length,
  to: a.to,
  with: '',
});
/** The value of an attribute in place of the one it has. */
export const valueFor = (text: string, a: LocatedAttribute, value: string): Replacement => {
  const quote = text[a.inner.from - 1] === "'" ? "'" : '"';
  const escaped = value
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replaceAll(quote, quote === '"' ? '&quot;' : '&apos;');
  return { ...a.inner, with: escaped };
};
/** Both tags of an element with another name, and attributes more. */
export function renamedElement(e: Located, text: string, name: string, more = ''): Replacement[] {
  const start = { from: e.open.from + 1, to: e.open.from + 1 + e.name.length, with: name + more };
  const close = text.slice(e.inner.to, e.to);
  const at = close.startsWith('</') ? e.inner.to + 2 : -1;
  return at < 0 ? [start] : [start, { from: at, to: at + e.name.length, with: name }];
}
export const isElement = (e: Located, name: string): boolean => localName(e.name) === name;
