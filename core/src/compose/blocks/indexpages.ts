/** The index: terms with their folios in two columns, level at the foot of its last page. */
import { capitalised, seeWord } from '../../base';
import { rowsOf } from '../../design';
import type { IndexEntry, Indexed, IndexTerm } from '../../order';
import type { Section } from '../../book';
import type { FlowBlock, Item } from '../lines';
import type { Broken } from '../lines';
import { solid } from './opening';
import type { Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';
import { textLines, type Sheet } from '../sheets';

/** Where the folios of a term are kept among the labels of a book. */
const keyOf = (term: string, under = ''): string => `index/${term}/${under}`;

/** Collects on which pages blocks go on, and answers the folios of marked passages. */
export class IndexFinder {
  /** Pages of a block, each with the offset of its first line there. */
  private readonly pages = new Map<string, { label: string; offset: number }[]>();

  /** Labels of the pages, in their order. */
  private readonly order: string[] = [];

  page(body: Sheet, label: string): void {
    this.order.push(label);
    for (const { block, offset } of textLines(body)) {
      const pages = this.pages.get(block);
      if (!pages) this.pages.set(block, [{ label, offset }]);
      else if (pages.at(-1)?.label !== label) pages.push({ label, offset });
    }
  }

  /** Labels of every term, by its key: "3, 7–8". */
  *labels(entries: readonly IndexEntry[]): Generator<[key: string, folios: string]> {
    for (const e of entries) {
      yield [keyOf(e.term), this.folios(e)];
      for (const u of e.under) yield [keyOf(e.term, u.term), this.folios(u)];
    }
  }

  private folios({ places }: IndexTerm): string {
    const folios: string[] = [];
    let before: string[] = [];
    for (const place of places) {
      const on = this.labelsOf(place);
      // A page within the range before says nothing new.
      if (on.length === 0 || on.every((label) => before.includes(label))) continue;
      folios.push(on.length > 1 ? `${on[0]}\u2013${on.at(-1)}` : (on[0] as string));
      before = on;
    }
    return folios.join(', ');
  }

  /** Folios of a passage, from the first to the last. */
  private labelsOf({ block, from, to, until }: Indexed): string[] {
    if (until === block) return this.labelsIn(block, from, to);
    const first = this.labelsIn(block, from, Infinity)[0];
    const last = this.labelsIn(until, 0, to).at(-1);
    if (first === undefined || last === undefined) return [first ?? last ?? []].flat();
    const labels = this.order;
    const [a, b] = [labels.indexOf(first), labels.indexOf(last)];
    return a <= b ? labels.slice(a, b + 1) : [first, last];
  }

  private labelsIn(block: string, from: number, to: number): string[] {
    const pages = this.pages.get(block) ?? [];
    return pages
      .filter((p, i) => p.offset < to && (pages[i + 1]?.offset ?? Infinity) > from)
      .map((p) => p.label);
  }
}

/** Lines that stand together in one column; none for the blank row between letters. */
interface Unit {
  rows: number;
  /** 1 for a term under another, -1 for a letter. */
  depth: number;
  p: Paragraph | null;
  broken: Broken | null;
  form: ParagraphForm | null;
}
const BLANK: Unit = { rows: 1, depth: 0, p: null, broken: null, form: null };

/** Blocks of an index; `head` is the number of rows that its heading takes on the first page. */
export function indexBlocks(
  s: Setter,
  section: Section,
  entries: readonly IndexEntry[],
  folios: (key: string) => string,
  head: number,
): FlowBlock[] {
  const { columns } = s.interior.index;
  const gutter = s.interior.text.size * 2;
  const width = Math.floor((s.measure - gutter * (columns - 1)) / columns);
  const queue = unitsOf(s, entries, folios, width);
  const rows = rowsOf(s.interior);
  const blocks: FlowBlock[] = [];
  for (let first = true; queue.length > 0; first = false) {
    if (!first) blocks.push(solid(section.id, 0, [], { kind: 'new-page' }));
    const most = Math.max(4, first ? rows - head : rows);
    const left = queue.reduce((n, u) => n + u.rows, 0);
    const high = left >= most * columns ? most : Math.min(most, Math.ceil(left / columns) + 1);
    const items: Item[] = [];
    let used = 0;
    for (let k = 0; k < columns; k++) {
      const x = k * (width + gutter);
      const column = taken(queue, high, k === columns - 1 && left < most * columns ? most : high);
      let row = 0;
      for (const u of column) {
        if (u.p && u.broken && u.form) {
          const form = { ...u.form, x: u.form.x + x };
          items.push(...s.items(u.p, u.broken, form).map((i) => i.atRow(i.row + row)));
        }
        row += u.rows;
      }
      used = Math.max(used, row);
    }
    blocks.push(solid(section.id, Math.min(most, used), items));
  }
  return blocks;
}

/** Takes what a column of so many rows holds off the queue: whole units, and no blank row at its head or foot. */
function taken(queue: Unit[], high: number, most: number): Unit[] {
  while (queue[0] === BLANK) queue.shift();
  const column: Unit[] = [];
  let rows = 0;
  const limit = Math.max(high, most);
  while (queue.length > 0) {
    const next = queue[0] as Unit;
    if (column.length > 0 && rows + next.rows > limit) break;
    column.push(queue.shift() as Unit);
    rows += next.rows;
  }
  // A letter's first term does not stand alone at the foot, nor a term without those under it.
  const next = queue[0];
  const last = column.at(-1);
  if (next && last && last !== BLANK && column.length > 2)
    if ((next !== BLANK && column.at(-2) === BLANK) || next.depth > last.depth)
      queue.unshift(column.pop() as Unit);
  while (column.at(-1) === BLANK) column.pop();
  return column;
}

function unitsOf(
  s: Setter,
  entries: readonly IndexEntry[],
  folios: (key: string) => string,
  width: number,
): Unit[] {
  const { size } = s.interior.notes;
  const { letters } = s.interior.index;
  const plain = s.style({ size });
  const italic = s.style({ size, italic: true });
  const units: Unit[] = [];
  let letter: string | null = null;
  const line = (t: IndexTerm, at: string, depth: number, has: boolean): Unit => {
    const form: ParagraphForm = {
      manner: { size },
      indent: -size,
      x: size * (depth + 1),
      measure: width - size * (depth + 1),
      align: 'left',
      hyphenate: true,
    };
    const b = s.builder('', form).text(at ? `${t.term}, ${at}` : t.term, plain);
    if (t.see.length > 0) {
      const also = has || at !== '';
      const word = seeWord(also, s.language);
      b.text(also ? '. ' : ', ', plain)
        .text(also ? capitalised(word) : word, italic)
        .text(` ${t.see.join('; ')}`, plain);
    }
    const p = b.done();
    const broken = s.break(p, form);
    return { rows: broken.lines.length, depth, p, broken, form };
  };
  const head = (words: string): Unit => {
    const form = { ...s.alone({ size: s.interior.text.size, smallCaps: true }, 'left'), measure: width };
    const p = s.plain(words.toLowerCase(), form);
    return { rows: 1, depth: -1, p, broken: s.break(p, form), form };
  };
  for (const e of entries) {
    if (letter !== null && e.letter !== letter) units.push(BLANK);
    if (letters && e.letter !== '' && e.letter !== letter) units.push(head(e.letter));
    letter = e.letter;
    units.push(line(e, folios(keyOf(e.term)), 0, e.under.length > 0));
    for (const u of e.under) units.push(line(u, folios(keyOf(e.term, u.term)), 1, false));
  }
  return units;
}
