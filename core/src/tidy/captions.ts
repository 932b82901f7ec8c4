/** Numbers that were typed before captions: "Figure 2.3: The lock", "Tab. 7 –". */
import type { Node } from 'prosemirror-model';

/** Labels of captions in the languages of the house, from memory. */
const LABEL =
  /^(?:figures?|fig\.|abbildung|abb\.|figura|figuur|tables?|tab\.|tabelle|tableau|tabla|tabella|tabela|tabel)[\s\u00a0]*((?:[A-Z]\.)?\d{1,3}(?:[.\u2013-]\d{1,3})?)(?:[\s\u00a0]*[.:\u2013\u2014-]+[\s\u00a0]*|[\s\u00a0]+(?=\p{Lu}))/iu;

/** The number typed at a caption's head, and how many characters it takes with its word; null for none. */
export function typedCaption(caption: Node): { number: string; length: number } | null {
  if (caption.type.name !== 'figure' && caption.type.name !== 'tableCaption') return null;
  const m = LABEL.exec(caption.textBetween(0, caption.content.size, '', '\ufffc'));
  if (!m || m[0].length >= caption.content.size) return null;
  return { number: (m[1] as string).replace(/[\u2013-]/g, '.'), length: m[0].length };
}
