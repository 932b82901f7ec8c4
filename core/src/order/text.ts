import type { Node } from 'prosemirror-model';

/** Whether there is anything to read or to look at. */
export const hasText = (content: Node): boolean => {
  let found = false;
  content.descendants((n) => {
    if ((n.isText && (n.text as string).trim() !== '') || n.type.name === 'figure') found = true;
    return !found;
  });
  return found;
};
