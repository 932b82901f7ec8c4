import type { Node } from 'prosemirror-model';

/** What shows something without being text. */
const SHOWN: ReadonlySet<string> = new Set(['figure', 'reference']);

/** Whether there is anything to read or to look at. */
export const hasText = (content: Node): boolean => {
  let found = false;
  content.descendants((n) => {
    if ((n.isText && (n.text as string).trim() !== '') || SHOWN.has(n.type.name)) found = true;
    return !found;
  });
  return found;
};
