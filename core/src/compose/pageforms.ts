/** Pages with a form of their own: half title, title page, copyright page, part page. */
import { toRoman } from '../base';
import type { Edition, Section } from '../book';
import { rowsOf, type LineStyle } from '../design';
import { copyrightLines, titlePageLines, type Heading } from '../order';
import type { BookRecord } from '../record';
import type { FlowBlock, Item, LineItem } from './flow';
import { solid } from './opening';
import type { Setter } from './setter';
import { displayed, mannerOf, Stack } from './stack';

/** The title alone, in the letters that the title page gives the author. */
export function halfTitle(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const rows = rowsOf(s.interior);
  const stack = new Stack(s, Math.round(rows * 0.25));
  stack.line(record.title || 'Untitled', s.interior.titlePage.author, 'titlePage.author');
  return [solid(section.id, rows, stack.items)];
}

export function titlePage(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const total = rowsOf(s.interior);
  const t = s.interior.titlePage;
  const stack = new Stack(s, Math.min(t.sink, total >> 1));
  const foot: Item[] = [];
  let divided = false;
  /** What stands between the book and those who made it. */
  const divide = (): void => {
    if (divided) return;
    divided = true;
    if (t.ornament) stack.skip(2).ornament(t.ornament, t.title.align, 'titlePage.ornament');
    if (t.rule) stack.skip(1).rule(0.25, t.title.align);
    stack.skip(t.ornament || t.rule ? 2 : 4);
  };
  const other: LineStyle = { ...t.subtitle, size: s.interior.text.size };
  for (const { role, text } of titlePageLines(record)) {
    if (role === 'imprint') {
      const set = displayed(s, text, mannerOf(t.imprint), 0, t.imprint.align, 'titlePage.imprint');
      foot.push(...set.items.map((i) => i.atRow(i.row + total - set.rows)));
    } else if (role === 'title') stack.line(text, t.title, 'titlePage.title');
    else if (role === 'subtitle') stack.skip(1).line(text, t.subtitle, 'titlePage.subtitle');
    else if (role === 'author') {
      if (divided) stack.skip(1);
      divide();
      stack.line(text, t.author, 'titlePage.author');
    } else stack.skip(1).line(text, other, 'titlePage.subtitle');
  }
  return [solid(section.id, total, [...stack.items, ...foot])];
}

/** The copyright page stands at the foot of its page in the size of notes. */
export function copyrightPage(
  s: Setter,
  section: Section,
  record: BookRecord,
  edition: Edition,
): FlowBlock[] {
  const form = s.alone({ size: s.interior.notes.size }, 'left');
  const items: LineItem[] = [];
  let row = 0;
  for (const text of copyrightLines(record, edition)) {
    const p = s.plain(text, form);
    const lines = s.items(p, s.break(p, form), form);
    items.push(...lines.map((l) => l.atRow(l.row + row)));
    row += lines.length + 1;
  }
  const total = rowsOf(s.interior);
  const down = Math.max(0, total - (row - 1));
  return [
    solid(
      section.id,
      total,
      items.map((i) => i.atRow(i.row + down)),
    ),
  ];
}

export function partPage(s: Setter, section: Section, heading: Heading): FlowBlock[] {
  const p = s.interior.partPage;
  const stack = new Stack(s, Math.min(p.sink, rowsOf(s.interior) >> 1));
  if (heading.number)
    stack.line(heading.number, p.number, 'partPage.number', true).skip(heading.title ? 2 : 0);
  stack
    .line(heading.title, p.title, 'partPage.title')
    .line(heading.subtitle, p.subtitle, 'partPage.subtitle');
  if (p.ornament) stack.skip(1).ornament(p.ornament, p.title.align, 'partPage.ornament');
  return [solid(section.id, stack.row, stack.items)];
}

export const romanFolio = (n: number): string => toRoman(n).toLowerCase();
