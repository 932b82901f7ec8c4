/** The passage whose source is open: a span of the source that follows what is typed in it and around it. */
import { editBetween, localName, type Located, type Span } from '@pagina/core/emend';

/** A span after a text has become another one. */
export function followed(span: Span, was: string, now: string): Span {
  const e = editBetween('', was, now);
  if (!e) return span;
  const by = e.inserted.length - e.removed.length;
  const end = e.at + e.removed.length;
  if (end <= span.from && e.at < span.from) return { from: span.from + by, to: span.to + by };
  if (e.at >= span.to) return span;
  return { from: Math.min(span.from, e.at), to: Math.max(span.to, end) + by };
}

/** Numbers of the first element in a span and of the last that lies in no other of them; null where there is none. */
export function elementsIn(all: readonly Located[], span: Span): { first: number; last: number } | null {
  const inside = all.filter((e) => e.from >= span.from && e.to <= span.to && e.from < span.to);
  const first = inside[0];
  const outer = inside.filter((e) => !e.parent || e.parent.from < span.from || e.parent.to > span.to);
  return first ? { first: first.index, last: outer.at(-1)?.index ?? first.index } : null;
}

const NAMES: Record<string, string> = {
  p: 'Paragraph',
  li: 'List item',
  dt: 'Term',
  dd: 'Definition',
  td: 'Cell',
  th: 'Heading cell',
  tr: 'Row',
  caption: 'Caption',
  figcaption: 'Caption',
  pre: 'Preformatted text',
  hr: 'Break',
  img: 'Picture',
  svg: 'Drawing',
  math: 'Formula',
  table: 'Table',
  figure: 'Figure',
  blockquote: 'Quotation',
  address: 'Address',
};
/** What an element is, in words. */
export function wordsFor(e: Located): string {
  const name = localName(e.name);
  return /^h[1-6]$/.test(name) ? 'Heading' : (NAMES[name] ?? 'Passage');
}
