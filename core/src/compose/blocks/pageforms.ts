/** Pages with a form of their own: half title, title page, copyright page, part page. */
import { pt, toRoman, type Mp } from '../../base';
import type { Edition, Section } from '../../book';
import { rowsOf, type LineStyle } from '../../design';
import { copyrightLines, titlePageLines, type Heading } from '../../order';
import type { BookRecord } from '../../record';
import type { FlowBlock, Item, LineItem } from '../lines';
import { solid } from './opening';
import type { Setter } from './setter';
import { displayed, mannerOf, smaller, squeezed, Stack } from './stack';

/** The title alone, in the letters that the title page gives the author. */
export function halfTitle(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const rows = rowsOf(s.interior);
  const { author } = s.interior.titlePage;
  const { items } = squeezed(Math.round(rows * 0.25), rows, ({ sink, share }) => {
    const stack = new Stack(s, sink);
    stack.line(record.title || 'Untitled', smaller(author, share), 'titlePage.author');
    return { items: stack.items, rows: stack.row };
  });
  return [solid(section.id, rows, items)];
}

/** Blank rows between what stands on a title page and the imprint at its foot. */
const ABOVE_IMPRINT = 1;

export function titlePage(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const total = rowsOf(s.interior);
  const t = s.interior.titlePage;
  const { items } = squeezed(Math.min(t.sink, total >> 1), total, ({ sink, share }) => {
    const stack = new Stack(s, sink);
    const foot: Item[] = [];
    let footRows = 0;
    let divided = false;
    // White between groups goes with the letters.
    const apart = (rows: number): Stack => stack.skip(Math.max(1, Math.round(rows * share)));
    /** What stands between the book and those who made it. */
    const divide = (): void => {
      if (divided) return;
      divided = true;
      if (t.ornament) apart(2).ornament(t.ornament, t.title.align, 'titlePage.ornament');
      if (t.rule) apart(1).rule(0.25, t.title.align);
      apart(t.ornament || t.rule ? 2 : 4);
    };
    const other: LineStyle = { ...t.subtitle, size: Math.min(t.subtitle.size, s.interior.text.size) };
    for (const { role, text } of titlePageLines(record)) {
      if (role === 'imprint') {
        const imprint = smaller(t.imprint, share);
        const set = displayed(s, text, mannerOf(imprint), 0, imprint.align, 'titlePage.imprint');
        foot.push(...set.items.map((i) => i.atRow(i.row + total - set.rows)));
        footRows += set.rows;
      } else if (role === 'title') stack.line(text, smaller(t.title, share), 'titlePage.title');
      else if (role === 'subtitle')
        stack.skip(1).line(text, smaller(t.subtitle, share), 'titlePage.subtitle');
      else if (role === 'author') {
        if (divided) stack.skip(1);
        divide();
        stack.line(text, smaller(t.author, share), 'titlePage.author');
      } else stack.skip(1).line(text, smaller(other, share), 'titlePage.subtitle');
    }
    const rows = stack.row + (footRows > 0 ? footRows + ABOVE_IMPRINT : 0);
    return { items: [...stack.items, ...foot], rows };
  });
  return [solid(section.id, total, items)];
}

/** Letters of a copyright page are made smaller until it fits, but not smaller than this. */
const SMALLEST: Mp = pt(6);

/** The copyright page stands at the foot of its page in the size of notes; what one page cannot hold goes on to the next. */
export function copyrightPage(
  s: Setter,
  section: Section,
  record: BookRecord,
  edition: Edition,
): FlowBlock[] {
  const clauses = copyrightLines(record, edition);
  const total = rowsOf(s.interior);
  const set = (size: Mp, between: number): { blocks: LineItem[][]; rows: number } => {
    const form = s.alone({ size }, 'left');
    const blocks = clauses.map((text) => {
      const p = s.plain(text, form);
      return s.items(p, s.break(p, form), form);
    });
    const lines = blocks.reduce((n, b) => n + b.length, 0);
    return { blocks, rows: lines + between * Math.max(0, blocks.length - 1) };
  };
  const { size } = s.interior.notes;
  let between = 1;
  let made = set(size, between);
  if (made.rows > total) made = set(size, (between = 0));
  for (let at = size; made.rows > total && at > SMALLEST; at = Math.round(at * 0.96)) made = set(at, between);
  if (made.rows > total)
    return made.blocks.map((items) => solid(section.id, items.length, items, { kind: 'text' }));
  const items: LineItem[] = [];
  let row = total - made.rows;
  for (const block of made.blocks) {
    items.push(...block.map((l) => l.atRow(l.row + row)));
    row += block.length + between;
  }
  return [solid(section.id, total, items)];
}

export function partPage(s: Setter, section: Section, heading: Heading): FlowBlock[] {
  const p = s.interior.partPage;
  const total = rowsOf(s.interior);
  const { items, rows } = squeezed(Math.min(p.sink, total >> 1), total, ({ sink, share }) => {
    const stack = new Stack(s, sink);
    if (heading.number)
      stack
        .line(heading.number, smaller(p.number, share), 'partPage.number', true)
        .skip(heading.title ? 2 : 0);
    stack
      .line(heading.title, smaller(p.title, share), 'partPage.title')
      .line(heading.subtitle, smaller(p.subtitle, share), 'partPage.subtitle');
    if (p.ornament) stack.skip(1).ornament(p.ornament, p.title.align, 'partPage.ornament');
    return { items: stack.items, rows: stack.row };
  });
  return [solid(section.id, rows, items)];
}

export const romanFolio = (n: number): string => toRoman(n).toLowerCase();
