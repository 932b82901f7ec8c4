/** The lines of text on a page, read back from what is drawn. */
import { LOOSE, PICT, PICT_LENGTH, RULE, RULE_LENGTH, WINDOW, WINDOW_LENGTH, INK, INK_LENGTH } from './sheet';
import { partOf } from '../lines';
import { GLYPH, LINE_START, TEXT_HEAD, type DisplayList } from './display';

/** A line under the picture of a page, for selecting and for screen readers; points from the page's top left. */
export interface TextLine {
  x: number;
  y: number;
  size: number;
  width: number;
  text: string;
  block: string;
  offset: number;
  /** The setting of the design it belongs to; '' for the author's words. */
  part: string;
  /** Its word spaces are wider than a third of the em. */
  loose: boolean;
}

/** In the order in which they are drawn: head and folio first. */
export function readableLines(list: DisplayList): TextLine[] {
  const lines: TextLine[] = [];
  const { ops, text } = list;
  let char = 0;
  for (let at = 0; at < ops.length;) {
    const op = ops[at];
    if (op === RULE) at += RULE_LENGTH;
    else if (op === PICT) at += PICT_LENGTH;
    else if (op === WINDOW) at += WINDOW_LENGTH;
    else if (op === INK) at += INK_LENGTH;
    else {
      const count = ops[at + 5] as number;
      let width = 0;
      let length = 0;
      for (let g = 0; g < count; g++) {
        width += ops[at + TEXT_HEAD + g * GLYPH + 1] as number;
        length += ops[at + TEXT_HEAD + g * GLYPH + 4] as number;
      }
      const piece = text.slice(char, char + length);
      char += length;
      const last = lines.at(-1);
      if (last && ((ops[at + 8] as number) & LINE_START) === 0) {
        last.text += piece;
        last.width += width / 1000;
      } else
        lines.push({
          x: (ops[at + 3] as number) / 1000,
          y: (ops[at + 4] as number) / 1000,
          size: (ops[at + 2] as number) / 1000,
          width: width / 1000,
          text: piece,
          block: list.blocks[ops[at + 6] as number] ?? '',
          offset: ops[at + 7] as number,
          part: partOf(ops[at + 8] as number),
          loose: ((ops[at + 8] as number) & LOOSE) !== 0,
        });
      at += TEXT_HEAD + count * GLYPH;
    }
  }
  return lines;
}
