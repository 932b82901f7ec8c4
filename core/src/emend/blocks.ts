/**
 * The passages of a document that one can point at: paragraphs, headings, items, rows, pictures. Each is an element of the
 * source, told by its number in document order, which is the same in whatever tree a browser makes of the file.
 */
import { localName, type Located } from './located';

/** Elements that hold text as a rule, and are pointed at as a whole (HTML §4.4 and others). */
const PASSAGES = new Set(
  'p h1 h2 h3 h4 h5 h6 li dt dd td th tr caption figcaption pre address hr img svg math table figure blockquote summary'.split(
    ' ',
  ),
);
const INLINE_PICTURES = new Set(['img', 'svg', 'math']);
/** Elements that only hold others, and are pointed at where they hold text of their own. */
const HOLDERS = new Set(
  'body section article aside nav header footer div main ol ul dl details center'.split(' '),
);

/** Number of the passage that an element belongs to; null for what stands outside the body. */
export function passageOf(all: readonly Located[], n: number, source: string): number | null {
  let found: number | null = null;
  for (let e = all[n]; e; e = e.parent ?? undefined) {
    const name = localName(e.name);
    if (name === 'html' || name === 'head') break;
    // The innermost passage, but a picture within a line belongs to the line.
    if (found === null && (PASSAGES.has(name) || (HOLDERS.has(name) && hasOwnText(e, source))))
      found = e.index;
    else if (found !== null && INLINE_PICTURES.has(localName(all[found]?.name ?? '')) && isLine(e))
      found = e.index;
  }
  return found;
}
const isLine = (e: Located): boolean => /^(p|h[1-6]|li|dd|dt|td|th|figcaption)$/.test(localName(e.name));

/** Whether an element holds text outside its children. */
function hasOwnText(e: Located, source: string): boolean {
  let at = e.inner.from;
  for (const c of e.children) {
    if (/[^\s]/.test(withoutComments(source.slice(at, c.from)))) return true;
    at = c.to;
  }
  return /[^\s]/.test(withoutComments(source.slice(at, e.inner.to)));
}
const withoutComments = (s: string): string => s.replace(/<!--[\s\S]*?-->/g, '');

/** Numbers of all passages, in document order; of one within another both. */
export function passages(all: readonly Located[], source: string): number[] {
  const found = new Set<number>();
  for (let n = 0; n < all.length; n++) if (passageOf(all, n, source) === n) found.add(n);
  return [...found];
}

/** The passage at an offset of the source: the innermost that holds it, or the next one. */
export function passageAt(all: readonly Located[], offset: number, source: string): number | null {
  let innermost: number | null = null;
  for (let n = 0; n < all.length; n++) {
    const e = all[n] as Located;
    if (e.from <= offset && offset < e.to) innermost = n;
  }
  return innermost === null ? null : passageOf(all, innermost, source);
}
