/** Words that stand outside a book's pages, on a cover: paragraphs in lines at a distance of their own. */
import type { Mp } from '../../base';
import { lineSpace } from '../lines';
import type { Manner, ParagraphForm, Setter } from './setter';
import { SheetWriter, type Sheet } from '../sheets';
import { balanced } from './stack';
import type { LineItem } from '../lines';

export interface PassageForm {
  manner: Manner;
  measure: Mp;
  /** From one baseline to the next. */
  leading: Mp;
  align: LineItem['align'];
  hyphenate?: boolean;
  /** Lines about as long as one another, as of a title. */
  balance?: boolean;
  /** Space between paragraphs. */
  between?: Mp;
}

export interface Passage {
  /** The first baseline lies at 0. */
  sheet: Sheet;
  lines: number;
  /** From the first baseline to the last. */
  depth: Mp;
  /** Of the longest line. */
  width: Mp;
  /** A word did not fit the measure and was broken. */
  broken: boolean;
  missing: readonly string[];
}

export function passage(s: Setter, paragraphs: readonly string[], form: PassageForm): Passage {
  const writer = new SheetWriter();
  const set: ParagraphForm = {
    manner: form.manner,
    indent: 0,
    measure: form.measure,
    x: 0,
    align: form.align,
    hyphenate: form.hyphenate ?? false,
  };
  let y = -form.leading;
  let lines = 0;
  let width = 0;
  let broken = false;
  paragraphs.forEach((text, i) => {
    if (i > 0) y += form.between ?? 0;
    const p = s.plain(text, set);
    if (p.pieces.length === 0) return;
    const made = form.balance ? balanced(s, p, set) : s.break(p, set);
    for (const item of s.items(p, made, set)) {
      y += form.leading;
      writer.item(item, y);
      lines++;
      width = Math.max(width, lineSpace(item).natural);
      broken ||= item.line.toCut > 0 && !set.hyphenate;
    }
  });
  return {
    sheet: writer.done(),
    lines,
    depth: Math.max(0, y),
    width,
    broken,
    missing: writer.missing.map((m) => m.char),
  };
}
