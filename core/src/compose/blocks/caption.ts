/** A picture's caption with its credit: the author's words with their marks and notes, in the interior's style. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import type { Variant } from '../lines';
import { addInline, type MadeWords, type ParagraphBuilder } from '../lines';
import type { Manner, ParagraphForm, Setter } from './setter';
import { balanced, mannerOf } from './stack';

/** Null where there is neither. `width` and `x` are those of the picture where its caption stands in its width. */
export function captionOf(
  s: Setter,
  node: Node,
  made: MadeWords,
  within: { width: Mp; x: Mp } | null = null,
): Variant | null {
  const { caption } = s.interior.pictures;
  const manner = mannerOf(caption);
  const plain = s.alone(manner, caption.align);
  const form: ParagraphForm = within ? { ...plain, measure: within.width, x: within.x } : plain;
  const credit = (node.attrs.credit as string).trim();
  if (node.textContent.trim() === '' && credit === '') return null;
  const builder = s.builder(node.attrs.id as string, form);
  labelled(s, builder, made.captionLabel(node.attrs.id as string), manner);
  addInline(builder, node, s.inline(manner, made));
  if (credit !== '') {
    const apart = node.textContent.trim() === '' ? '' : ' ';
    builder.text(apart + credit, s.style(manner));
  }
  const p = builder.done();
  return s.variant(p, within ? s.break(p, form) : balanced(s, p, form), form);
}

/** The number of a caption before its words, an en apart. */
export function labelled(s: Setter, builder: ParagraphBuilder, label: string, manner: Manner): void {
  if (label === '') return;
  const style = s.style(manner);
  builder
    .text(label, style)
    .gap(manner.size >> 1, style)
    .skip(-label.length);
}
