/** The contents page: a line an entry, ranged with leaders or centred, with the folio it points to. */
import type { Mp } from '../../base';
import type { Section } from '../../book';
import type { LineStyle } from '../../design';
import type { ContentsEntry } from '../../order';
import type { FlowBlock, Item, LineItem } from '../lines';
import { partNumber, type LinePart } from '../lines';
import { solid } from './opening';
import type { Paragraph } from '../lines';
import type { Manner, ParagraphForm, Setter } from './setter';
import { mannerOf } from './stack';

type FolioOf = (entry: ContentsEntry) => string;

export function contentsBlocks(
  s: Setter,
  section: Section,
  entries: readonly ContentsEntry[],
  folioOf: FolioOf,
): FlowBlock[] {
  const withParts = entries.some((e) => e.section.kind === 'part');
  const room = roomForNumbers(s, entries);
  return entries.map((entry, index) => {
    const part = isPart(entry);
    const { items, rows } =
      s.interior.contents.set === 'centred'
        ? centred(s, entry, part, folioOf)
        : ranged(s, entry, part, room, folioOf);
    const after = withParts && entry.block === null && entry.depth < (entries[index - 1]?.depth ?? 0);
    return solid(section.id, rows, items, {
      before: part || after ? 1 : 0,
      keep: part && withParts ? 1 : 0,
    });
  });
}

const isPart = ({ section, block }: ContentsEntry): boolean => section.kind === 'part' && block === null;

/** Style of an entry by its level; parts over chapters stand in small capitals where the level says nothing itself. */
function mannerOfEntry(s: Setter, entry: ContentsEntry, part: boolean): { manner: Manner; indent: Mp } {
  const { first, second, third } = s.interior.contents;
  // Captions are listed in plain text, whatever chapters are set in.
  if (entry.block !== null && entry.depth === 0) return { manner: { size: s.interior.text.size }, indent: 0 };
  const { indent, cut, letters } = entry.depth === 0 ? first : entry.depth === 1 ? second : third;
  const plain = cut === 'roman' && letters === 'typed';
  const style: LineStyle = {
    face: 'text',
    size: s.interior.text.size,
    cut,
    letters: part && plain ? 'small-capitals' : letters,
    spacing: 0,
    align: 'left',
  };
  const { tracking: _none, ...manner } = mannerOf(style);
  return { manner, indent };
}

const levelOf = ({ depth }: ContentsEntry): LinePart =>
  depth === 0 ? 'contents.first' : depth === 1 ? 'contents.second' : 'contents.third';

/** An entry's number by itself; '' where its title shows it, and where entries show none. */
function numberOf(s: Setter, { heading, block }: ContentsEntry, part: boolean): string {
  // Figures and tables are listed with theirs in any case.
  const shown = block !== null || s.interior.contents.numbers;
  return shown && !part && heading.title !== '' ? heading.bare : '';
}

/** How far titles stand in, so that the widest number has an en after it. */
function roomForNumbers(s: Setter, entries: readonly ContentsEntry[]): Mp {
  let widest = 0;
  for (const e of entries) {
    const part = isPart(e);
    const number = numberOf(s, e, part);
    if (number) widest = Math.max(widest, s.style(mannerOfEntry(s, e, part).manner).word(number).width);
  }
  return widest === 0 ? 0 : widest + Math.round(s.interior.text.size * 0.6);
}

function labelOf({ heading }: ContentsEntry, part: boolean, manner: Manner): string {
  const label = part
    ? [heading.number, heading.title].filter(Boolean).join(': ')
    : heading.title || heading.number;
  return manner.smallCaps ? label.toLowerCase() : label;
}

function centred(
  s: Setter,
  entry: ContentsEntry,
  part: boolean,
  folioOf: FolioOf,
): { items: Item[]; rows: number } {
  const { manner } = mannerOfEntry(s, entry, part);
  const form = s.alone(manner, 'centre');
  const style = s.style(manner);
  const b = s.builder(entry.section.id, form);
  const number = numberOf(s, entry, part);
  if (number) b.text(number, style).gap(s.interior.text.size >> 1, style);
  b.text(labelOf(entry, part, manner), style);
  if (!part || entry.section.content.textContent !== '')
    b.gap(s.interior.text.size, style).text(folioOf(entry), s.style({ size: manner.size }));
  const p = b.done();
  p.part = partNumber(levelOf(entry));
  const items = s.items(p, s.break(p, form), form);
  return { items, rows: items.length };
}

/** Folios ranged right; dots of the leaders stand under one another. */
function ranged(
  s: Setter,
  entry: ContentsEntry,
  part: boolean,
  /** Room for numbers before titles; 0 for none. */
  numbers: Mp,
  folioOf: FolioOf,
): { items: Item[]; rows: number } {
  const { text, contents } = s.interior;
  const plain: Manner = { size: text.size };
  const room = Math.round(text.size * 2.4);
  const { manner, indent: x } = mannerOfEntry(s, entry, part);
  const number = numberOf(s, entry, part);
  // Lines after the first stand below the title where a number stands before it.
  const hang = number ? numbers : text.size;
  const form: ParagraphForm = {
    manner,
    indent: -hang,
    measure: s.measure - x - hang - room,
    x: x + hang,
    align: 'left',
    hyphenate: false,
  };
  const style = s.style(manner);
  const b = s.builder(entry.section.id, form);
  if (number) b.text(number, style).gap(numbers - style.word(number).width, style);
  const p = b.text(labelOf(entry, part, manner), style).done();
  p.part = partNumber(levelOf(entry));
  const broken = s.break(p, form);
  const items: Item[] = s.items(p, broken, form);
  const row = broken.lines.length - 1;
  const last = broken.lines[row];
  let used = row === 0 ? x : x + hang;
  if (last) for (let i = last.from; i <= last.to; i++) used += p.pieces[i]?.width ?? 0;
  const wide = s.alone(plain, 'right');
  const f = s.plain(folioOf(entry), wide, entry.section.id, levelOf(entry));
  items.push(...lines(s, f, wide).map((i) => i.atRow(row)));
  if (contents.leader === 'dots') items.push(...dots(s, used, s.measure - room, row));
  if (contents.leader === 'rule') {
    const from = used + Math.round(text.size / 2);
    const width = s.measure - room - from;
    if (width > text.size) items.push({ kind: 'rule', x: from, row, dy: 0, width, thickness: 350 });
  }
  return { items, rows: row + 1 };
}

const lines = (s: Setter, p: Paragraph, form: ParagraphForm): LineItem[] =>
  s.items(p, s.break(p, form), form);

/** Dots stand on a grid counted from the right, so that those of all lines agree. */
function dots(s: Setter, used: Mp, end: Mp, row: number): LineItem[] {
  const { size } = s.interior.text;
  const style = s.style({ size });
  const dot = style.word('.');
  const step = Math.round(size * 0.55);
  const from = Math.ceil((used + Math.round(size / 2)) / step);
  const to = Math.floor(end / step);
  if (to <= from) return [];
  const form = { ...s.alone({ size }, 'left'), x: from * step };
  const b = s.builder('', form);
  for (let k = from; k < to; k++) b.text('.', style).gap(step - dot.width, style);
  const p = b.done();
  p.part = partNumber('contents.leader');
  return lines(s, p, form)
    .slice(0, 1)
    .map((i) => i.atRow(row));
}
