/** Monospaced text: each line of the manuscript is a paragraph, its indent kept. */
import type { Node } from 'prosemirror-model';
import type { Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';

export function monospaceLines(s: Setter, node: Node, form: ParagraphForm): Paragraph[] {
  let offset = 0;
  return node.textContent.split('\n').map((row) => {
    const builder = s.builder(node.attrs.id as string, form);
    const shown = withoutTabs(row);
    const [indent] = /^ */.exec(shown) as RegExpExecArray;
    // The spaces at a line's head are its indent; at those within it a long line may turn over.
    builder
      .skip(offset)
      .text(indent.replace(/ /g, '\u00a0') + shown.slice(indent.length), s.style(form.manner));
    offset += row.length + 1;
    return builder.done();
  });
}

/** Columns from one tab stop to the next in monospaced text. */
const TAB = 4;
/** A line of monospaced text with its tabs as the spaces up to their stops. */
function withoutTabs(row: string): string {
  let shown = '';
  for (const c of row) shown += c === '\t' ? ' '.repeat(TAB - (shown.length % TAB)) : c;
  return shown;
}
