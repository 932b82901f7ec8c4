/** Items of a list: what stands before each, and its first paragraph with that. */
import type { Node } from 'prosemirror-model';
import { listNumber, type ListNumbers, type Mp } from '../../base';
import { isTerms } from '../../book';
import { addInline, type MadeWords, type Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';

/** A paragraph of a list: where it stands, and the mark before it. */
export interface ItemPart {
  node: Node;
  x: Mp;
  /** "•", "3.", "c."; null for a paragraph without one. */
  marker: string | null;
  /** Rows of the next one that stay with it at a page's foot. */
  keep: number;
}

/** The paragraphs of a list and of those within it, in order. `room` is what a mark takes up. */
export function itemParts(list: Node, room: Mp, depth = 0): ItemPart[] {
  const parts: ItemPart[] = [];
  list.forEach((item, _offset, index) => {
    item.forEach((child, _o, i) => {
      const isTerm = i === 0 && isTerms(list);
      if (child.type === list.type) parts.push(...itemParts(child, room, depth + 1));
      else
        parts.push({
          node: child,
          x: (isTerm ? depth : depth + 1) * room,
          marker: i === 0 && !isTerm ? markerOf(list, index) : null,
          keep: isTerm && item.childCount > 1 ? 2 : 0,
        });
    });
  });
  return parts;
}
const markerOf = ({ attrs }: Node, index: number): string =>
  attrs.ordered ? `${listNumber(Number(attrs.start) + index, attrs.numbers as ListNumbers)}.` : '•';

/** An item's first paragraph. The marker's own space is fixed, so that what follows always starts at the same place. */
export function itemParagraph(
  s: Setter,
  node: Node,
  marker: string,
  room: Mp,
  form: ParagraphForm,
  made: MadeWords,
): Paragraph {
  const style = s.style(form.manner);
  const builder = s.builder(node.attrs.id as string, form);
  builder
    .text(marker, style)
    .gap(room - style.word(marker).width, style)
    .skip(-marker.length);
  addInline(builder, node, s.inline(form.manner, made));
  return builder.done();
}
