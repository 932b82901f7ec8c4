/** Items of a list: what stands before each, and its first paragraph with that. */
import type { Node } from 'prosemirror-model';
import { listNumber, type ListNumbers, type Mp } from '../../base';
import { addInline, type MadeWords, type Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';

/** "•", "3.", "c." before the item at that index. */
export const markerOf = ({ attrs }: Node, index: number): string =>
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
