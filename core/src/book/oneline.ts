import type { Node } from 'prosemirror-model';

/** The words of a block, or of a whole section, on one line: where a line is broken by hand, or a block ends, stands a space. */
export const onOneLine = (n: Node): string =>
  n
    .textBetween(0, n.content.size, ' ', (leaf) => (leaf.type.name === 'lineBreak' ? ' ' : ''))
    .replace(/\s+/g, ' ')
    .trim();
