/** Pages with a form of their own: half title, title page, copyright page, dedication, part page, contents. */
import { toRoman } from '../base';
import type { Edition, Section } from '../book';
import { rowsOf } from '../design';
import { copyrightLines, titlePageLines, type ContentsEntry, type Heading } from '../order';
import type { BookRecord } from '../record';
import type { FlowBlock, Item, LineItem } from './flow';
import { displayed, solid } from './opening';
import type { Manner, ParagraphForm, Setter } from './setter';

export function halfTitle(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const title = displayed(
    s,
    record.title || 'Untitled',
    { size: 13_000, smallCaps: true, tracking: 900 },
    Math.round(rowsOf(s.interior) * 0.25),
  );
  return [solid(section.id, rowsOf(s.interior), title.items)];
}

export function titlePage(s: Setter, section: Section, record: BookRecord): FlowBlock[] {
  const total = rowsOf(s.interior);
  const items: Item[] = [];
  let row = Math.round(total * 0.22);
  const sizes: Record<string, Manner> = {
    title: { size: Math.round(s.interior.opening.titleSize * 1.4) },
    subtitle: { size: s.interior.opening.subtitleSize, italic: true },
    author: { size: 13_000, smallCaps: true, tracking: 1_000 },
    other: { size: s.interior.text.size, italic: true },
    imprint: { size: s.interior.text.size, smallCaps: true, tracking: 700 },
  };
  const gaps: Record<string, number> = { title: 0, subtitle: 1, author: 4, other: 1, imprint: 0 };
  for (const line of titlePageLines(record)) {
    const manner = sizes[line.role] as Manner;
    if (line.role === 'imprint') {
      const set = displayed(s, line.text, manner, 0);
      items.push(...set.items.map((i) => i.atRow(i.row + total - set.rows)));
      continue;
    }
    row += gaps[line.role] ?? 0;
    const set = displayed(s, line.text, manner, row);
    items.push(...set.items);
    row += set.rows;
  }
  return [solid(section.id, total, items)];
}

/** The copyright page stands at the foot of its page in the size of notes. */
export function copyrightPage(
  s: Setter,
  section: Section,
  record: BookRecord,
  edition: Edition,
): FlowBlock[] {
  const form: ParagraphForm = {
    manner: { size: s.interior.note.size },
    indent: 0,
    measure: s.measure,
    x: 0,
    align: 'left',
    hyphenate: false,
  };
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
  const items: Item[] = [];
  let row = Math.round(rowsOf(s.interior) * 0.28);
  if (heading.number) {
    items.push(
      ...displayed(s, heading.number.toLowerCase(), { size: 13_000, smallCaps: true, tracking: 1_400 }, row)
        .items,
    );
    row += 3;
  }
  if (heading.title) {
    const title = displayed(s, heading.title, { size: Math.round(s.interior.opening.titleSize * 1.2) }, row);
    items.push(...title.items);
    row += title.rows;
  }
  if (heading.subtitle) {
    const subtitle = displayed(
      s,
      heading.subtitle,
      { size: s.interior.opening.subtitleSize, italic: true },
      row,
    );
    items.push(...subtitle.items);
    row += subtitle.rows;
  }
  return [solid(section.id, row, items)];
}

/** Contents: a line an entry, leaders of dots that stand under one another, folios ranged right. */
export function contentsBlocks(
  s: Setter,
  section: Section,
  entries: readonly ContentsEntry[],
  folioOf: (entry: ContentsEntry) => string,
): FlowBlock[] {
  const { text } = s.interior;
  const manner: Manner = { size: text.size };
  const style = s.style(manner);
  const dot = style.word('.');
  const step = Math.round(text.size * 0.55);
  const room = Math.round(text.size * 2.4);
  const withParts = entries.some((e) => e.section.kind === 'part');
  return entries.map((entry, index) => {
    const part = entry.section.kind === 'part' && entry.block === null;
    const x = entry.depth * Math.round(text.size * 1.3);
    const label = part
      ? [entry.heading.number, entry.heading.title].filter(Boolean).join(': ')
      : entry.heading.title || entry.heading.number;
    const form: ParagraphForm = {
      manner: part ? { size: text.size, smallCaps: true } : manner,
      indent: -text.size,
      measure: s.measure - x - text.size - room,
      x: x + text.size,
      align: 'left',
      hyphenate: false,
    };
    const p = s.plain(part ? label.toLowerCase() : label, form, entry.section.id);
    const broken = s.break(p, form);
    const items: Item[] = s.items(p, broken, form);
    const row = broken.lines.length - 1;
    const last = broken.lines[row];
    let used = row === 0 ? x : x + text.size;
    if (last) for (let i = last.from; i <= last.to; i++) used += p.pieces[i]?.width ?? 0;
    const folio = folioOf(entry);
    const wide: ParagraphForm = {
      manner,
      indent: 0,
      measure: s.measure,
      x: 0,
      align: 'right',
      hyphenate: false,
    };
    const f = s.plain(folio, wide);
    items.push(...s.items(f, s.break(f, wide), wide).map((i) => i.atRow(row)));
    // Dots stand on a grid counted from the right, so that those of all lines agree.
    const from = Math.ceil((used + Math.round(text.size / 2)) / step);
    const to = Math.floor((s.measure - room) / step);
    if (to > from) {
      const b = s.builder('', { ...wide, align: 'left' });
      for (let k = from; k < to; k++) b.text('.', style).gap(step - dot.width, style);
      const leader = b.done();
      items.push(
        ...s
          .items(leader, s.break(leader, { ...wide, align: 'left', hyphenate: false }), {
            ...wide,
            align: 'left',
            x: from * step,
          })
          .slice(0, 1)
          .map((i) => i.atRow(row)),
      );
    }
    return solid(section.id, row + 1, items, {
      before:
        part || (withParts && entry.block === null && entry.depth < (entries[index - 1]?.depth ?? 0)) ? 1 : 0,
      keep: part && withParts ? 1 : 0,
    });
  });
}

export const romanFolio = (n: number): string => toRoman(n).toLowerCase();
