import type { Node } from 'prosemirror-model';
import { showsPicture } from '../book';

/** Whether there is anything to read or to look at. */
export const hasText = (content: Node): boolean => {
  let found = false;
  content.descendants((n) => {
    const words = n.isText && (n.text as string).trim() !== '';
    if (words || n.type.name === 'reference' || showsPicture(n)) found = true;
    return !found;
  });
  return found;
};
