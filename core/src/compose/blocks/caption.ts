/** A picture's caption with its credit: the author's words with their marks and notes, in the interior's style. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import type { Variant } from '../lines';
import { addInline } from '../lines';
import type { ParagraphForm, Setter } from './setter';
import { balanced, mannerOf } from './stack';

/** Null where there is neither. `width` and `x` are those of the picture where its caption stands in its width. */
export function captionOf(
  s: Setter,
  node: Node,
  markOf: (ref: string) => string,
  within: { width: Mp; x: Mp } | null = null,
): Variant | null {
  const { caption } = s.interior.pictures;
  const manner = mannerOf(caption);
  const plain = s.alone(manner, caption.align);
  const form: ParagraphForm = within ? { ...plain, measure: within.width, x: within.x } : plain;
  const credit = (node.attrs.credit as string).trim();
  if (node.textContent.trim() === '' && credit === '') return null;
  const builder = s.builder(node.attrs.id as string, form);
  addInline(builder, node, {
    styleFor: (n) => s.style(manner, n.marks),
    noteMark: (ref) => ({ mark: markOf(ref), style: s.superior(manner) }),
  });
  if (credit !== '') {
    const apart = node.textContent.trim() === '' ? '' : ' ';
    builder.text(apart + credit, s.style(manner));
  }
  const p = builder.done();
  return s.variant(p, within ? s.break(p, form) : balanced(s, p, form), form);
}
