'use client';
/** Shows a stretch of a block's text by the browser's own highlights, which change nothing of the text. */

/** Sections appear as they come into sight: a block is looked for a moment, then left. */
const TRIES = 10;
const PAUSE = 80;

export function showStretch(block: string, from: number, to: number, tries = TRIES): void {
  if (!('highlights' in CSS)) return;
  CSS.highlights.delete('found');
  const element = document.querySelector(`.manuscript [data-id="${CSS.escape(block)}"]`);
  const range = element && rangeIn(element, from, to);
  if (range) CSS.highlights.set('found', new Highlight(range));
  else if (tries > 0) setTimeout(() => showStretch(block, from, to, tries - 1), PAUSE);
}
export const showNothing = (): void => {
  if ('highlights' in CSS) CSS.highlights.delete('found');
};

/** Offsets count as in the document: one for a note's mark, a reference, and a forced line break. */
function rangeIn(element: Element, from: number, to: number): Range | null {
  const range = document.createRange();
  let at = 0;
  let begun = false;
  const walk = (node: Node): boolean => {
    for (const child of node.childNodes) {
      if ((child as Element).matches?.('.made')) continue;
      if (child.nodeType === Node.TEXT_NODE) {
        const length = (child as Text).length;
        if (!begun && from < at + length) {
          range.setStart(child, Math.max(0, from - at));
          begun = true;
        }
        if (begun && to <= at + length) {
          range.setEnd(child, to - at);
          return true;
        }
        at += length;
      } else if ((child as Element).matches?.('br, .note-mark, .reference')) at += 1;
      else if (walk(child)) return true;
    }
    return false;
  };
  return walk(element) ? range : null;
}
