/** Links and references that follow what they lead to, when a section is divided or joined. */
import type { Node } from 'prosemirror-model';
import { relinked } from '../book';

/** The text with its links and references led on: `to` answers the new target, or null for one that stays. The same text where all stay. */
export function ledOn(content: Node, to: (target: string) => string | null): Node {
  let any = false;
  content.descendants((n) => {
    const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
    const target = (n.type.name === 'reference' ? n.attrs.target : link?.attrs.target) as string | undefined;
    any ||= target !== undefined && to(target) !== null;
    return !any;
  });
  return any ? relinked(content, (target) => to(target) ?? target) : content;
}
