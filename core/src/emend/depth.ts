/** How deep the elements of a source are nested. */

/** Levels above which browsers give up laying a document out, and some break down; no book has a tenth of them. */
const DEEPEST = 500;

/** Whether a document can’t be shown since its elements are nested too deep. Counts tags, without reading the document. */
export function isTooDeep(source: string): boolean {
  let depth = 0;
  for (const m of source.matchAll(/<(\/?)[A-Za-z][^<>]*?(\/?)>/g)) {
    if (m[1]) depth--;
    else if (!m[2] && ++depth > DEEPEST) return true;
  }
  return false;
}
