/** A section's document as flow: every block of the schema in its form on the printed page. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../base';
import type { Picture, Section } from '../book';
import type { Flow, FlowBlock, Item, LineItem, SetNote, Variant } from './flow';
import { figureBlock } from './figure';
import { displayed, dropCap, solid } from './opening';
import { addInline, type Paragraph } from './paragraph';
import type { Manner, ParagraphForm, Setter } from './setter';

/** Notes are numbered through a section, 1 up. */
function noteNumbers(doc: Node): Map<string, string> {
  const numbers = new Map<string, string>();
  doc.descendants((n) => {
    if (n.type.name === 'note' && !numbers.has(n.attrs.ref as string))
      numbers.set(n.attrs.ref as string, String(numbers.size + 1));
  });
  return numbers;
}

export class FlowBuilder {
  private readonly blocks: FlowBlock[] = [];
  private readonly marks: Map<string, string>;
  /** Blank rows that the block before wants below it. */
  private after = 0;
  /** The next paragraph begins flush: after a heading, a break, a displayed block. */
  private flush = true;

  constructor(
    private readonly s: Setter,
    private readonly section: Section,
    private readonly pictures: ReadonlyMap<string, Picture>,
    private readonly opens: boolean,
    private readonly small = false,
  ) {
    this.marks = noteNumbers(section.content);
  }

  build(opening: FlowBlock | null): Flow {
    if (opening) this.blocks.push(opening);
    let first = this.opens;
    this.section.content.forEach((node) => {
      if (node.type.name === 'noteBody') return;
      this.block(node, first && node.type.name === 'paragraph');
      if (node.type.name === 'paragraph') first = false;
    });
    return { section: this.section.id, blocks: this.blocks, notes: this.notes() };
  }

  private get manner(): Manner {
    return { size: this.small ? this.s.interior.note.size : this.s.interior.text.size };
  }
  private get em(): Mp {
    return this.s.interior.text.size;
  }

  private form(more: Partial<ParagraphForm> = {}): ParagraphForm {
    const inset = more.x ?? 0;
    return {
      manner: this.manner,
      indent: 0,
      measure: this.s.measure - inset,
      x: inset,
      align: 'justify',
      hyphenate: true,
      ...more,
    };
  }

  private block(node: Node, first: boolean): void {
    const indent = this.s.interior.text.indent;
    switch (node.type.name) {
      case 'paragraph':
        if (first) return this.firstParagraph(node);
        return this.text(node, this.form({ indent: this.flush || this.small ? 0 : indent }), {
          before: this.small ? 1 : 0,
        });
      case 'subhead':
        return this.subhead(node);
      case 'break':
        return this.breakBlock(Boolean(node.attrs.ornament), node.attrs.id as string);
      case 'pageBreak':
        this.blocks.push(solid(this.section.id, 0, [], { kind: 'new-page', place: this.place(node) }));
        this.flush = true;
        return;
      case 'quotation':
      case 'letter': {
        const form = this.form({ x: indent, measure: this.s.measure - 2 * indent });
        this.children(node, (child, i) =>
          child.type.name === 'attribution'
            ? this.attribution(child, form)
            : this.text(child, { ...form, indent: i === 0 ? 0 : indent }, { before: i === 0 ? 1 : 0 }),
        );
        return this.below(1);
      }
      case 'passage':
        return this.passage(node);
      case 'verse':
        return this.verse(node);
      case 'list':
        this.list(node, 0);
        return this.below(1);
      case 'figure':
        return this.figure(node);
      case 'monospace':
        return this.monospace(node);
      case 'table':
        return this.table(node);
    }
  }

  private children(node: Node, f: (child: Node, index: number) => void): void {
    node.forEach((child, _o, i) => f(child, i));
  }
  private place(node: Node): FlowBlock['place'] {
    return { section: this.section.id, block: node.attrs.id as string };
  }
  private below(rows: number): void {
    this.after = rows;
    this.flush = true;
  }

  /** Adds a block of lines. */
  private text(
    node: Node,
    form: ParagraphForm,
    more: { before?: number; keep?: number; minRows?: number; extra?: LineItem } = {},
  ): void {
    const p = this.s.paragraph(node, form, (ref) => this.marks.get(ref) ?? '*');
    this.lines(p, form, this.place(node), more);
  }

  private lines(
    p: Paragraph,
    form: ParagraphForm,
    place: FlowBlock['place'],
    more: { before?: number; keep?: number; minRows?: number; extra?: LineItem } = {},
  ): void {
    const before = Math.max(this.blocks.length === 0 ? 0 : this.after, more.before ?? 0);
    this.after = 0;
    this.flush = false;
    if (p.pieces.length === 0) {
      // An empty paragraph in the manuscript keeps its line, so that what is typed is what is seen.
      this.blocks.push(solid(this.section.id, 1, [], { place, before }));
      return;
    }
    const broken = this.s.break(p, form);
    const finish = (v: Variant): Variant => ({
      ...v,
      rows: Math.max(v.rows, more.minRows ?? 0),
      items: more.extra ? [more.extra, ...v.items] : v.items,
    });
    const long = broken.lines.length >= 3 && form.align === 'justify';
    this.blocks.push({
      place,
      kind: 'text',
      before,
      keep: more.keep ?? 0,
      best: finish(this.s.variant(p, broken, form)),
      others: long ? () => this.s.others(p, broken, form).map(finish) : null,
      atEdge: null,
      heading: false,
    });
  }

  private firstParagraph(node: Node): void {
    const o = this.s.interior.opening;
    const cap = node.textContent.length > 60 ? dropCap(this.s, node, o.dropCapLines) : null;
    const form = this.form({ smallCapWords: o.smallCapWords });
    if (!cap) return this.text(node, form);
    this.text(
      node,
      { ...form, skip: cap.taken, widths: { measure: form.measure, first: cap.widths } },
      { minRows: o.dropCapLines, extra: cap.item },
    );
  }

  private subhead(node: Node): void {
    const level = Number(node.attrs.level);
    const manner: Manner =
      level === 1
        ? { size: this.em, smallCaps: true, tracking: Math.round(this.em * 0.06) }
        : level === 2
          ? { size: this.em, italic: true }
          : { size: this.em, bold: true };
    const align = level === 1 ? 'centre' : 'left';
    const form = this.form({ manner, align, hyphenate: false });
    const p = this.s.paragraph(node, form, (ref) => this.marks.get(ref) ?? '*');
    const broken = this.s.break(p, form);
    const variant = this.s.variant(p, broken, form);
    const before = this.blocks.length === 0 ? 0 : Math.max(this.after, level === 1 ? 2 : 1);
    const rows = variant.rows + (level === 1 ? 1 : 0);
    this.blocks.push({
      ...solid(this.section.id, rows, variant.items),
      best: { ...variant, rows },
      place: this.place(node),
      before,
      keep: 2,
      heading: true,
    });
    this.after = 0;
    this.flush = true;
  }

  private ornament(): LineItem[] {
    return displayed(this.s, this.s.interior.ornament, { size: this.em }, 0).items;
  }

  private breakBlock(ornament: boolean, id: string): void {
    const items = this.ornament();
    this.blocks.push({
      ...solid(this.section.id, 1, ornament ? items : []),
      kind: 'break',
      place: { section: this.section.id, block: id },
      before: ornament ? 1 : 0,
      atEdge: items,
    });
    this.after = ornament ? 1 : 0;
    this.flush = true;
  }

  private attribution(node: Node, around: ParagraphForm): void {
    this.text(node, { ...around, indent: 0, align: 'right', hyphenate: false, manner: { ...this.manner } });
  }

  private passage(node: Node): void {
    const align = node.attrs.align as string;
    const inset = this.s.interior.text.indent;
    const form =
      align === 'inset'
        ? this.form({ x: inset, measure: this.s.measure - 2 * inset })
        : this.form({ align: align === 'right' ? 'right' : 'centre', hyphenate: false });
    this.children(node, (child, i) => this.text(child, form, { before: i === 0 ? 1 : 0 }));
    this.below(1);
  }

  private verse(node: Node): void {
    const left = this.s.interior.text.indent * 2;
    this.children(node, (stanza) => {
      if (stanza.type.name === 'attribution')
        return this.attribution(stanza, this.form({ measure: this.s.measure - left }));
      const count = stanza.childCount;
      this.children(stanza, (line, i) => {
        const x = left + Number(line.attrs.indent) * this.em;
        // A line too long for the measure turns over, further in than it began.
        const turn = 2 * this.em;
        const form = this.form({
          x: x + turn,
          indent: -turn,
          measure: this.s.measure - x - turn,
          align: 'left',
          hyphenate: false,
        });
        const inner = i > 0 && i < count - 2;
        this.text(line, form, { before: i === 0 ? 1 : 0, keep: inner ? 0 : i === count - 1 ? 0 : 1 });
      });
    });
    this.below(1);
  }

  private list(node: Node, depth: number): void {
    const room = Math.round(this.em * 1.6);
    let n = Number(node.attrs.start);
    this.children(node, (item, index) => {
      const marker = node.attrs.ordered ? `${n++}.` : '•';
      this.children(item, (child, i) => {
        if (child.type.name === 'list') return this.list(child, depth + 1);
        const x = (depth + 1) * room;
        const form = this.form({ x, indent: i === 0 ? -room : 0, measure: this.s.measure - x });
        const before = index === 0 && i === 0 && depth === 0 ? 1 : 0;
        if (i > 0) return this.text(child, form, { before });
        const style = this.s.style(this.manner);
        const builder = this.s.builder(child.attrs.id as string, form);
        const word = style.word(marker);
        // The marker's own space is fixed, so that what follows always starts at the same place.
        builder
          .text(marker, style)
          .gap(room - word.width, style)
          .skip(-marker.length);
        addInline(builder, child, {
          styleFor: (t) => this.s.style(this.manner, t.marks),
          noteMark: (ref) => ({ mark: this.marks.get(ref) ?? '*', style: this.s.superior(this.manner) }),
        });
        this.lines(builder.done(), form, this.place(child), { before });
      });
    });
  }

  private figure(node: Node): void {
    const block = figureBlock(
      this.s,
      this.place(node),
      node,
      this.pictures.get(node.attrs.picture as string),
    );
    if (!block) return;
    const apart = (): FlowBlock =>
      solid(this.section.id, 0, [], { kind: 'new-page', place: this.place(node) });
    const alone = node.attrs.place === 'page';
    if (alone && this.blocks.length > 0) this.blocks.push(apart());
    this.blocks.push({ ...block, before: alone || this.blocks.length === 0 ? 0 : 1 });
    if (alone) {
      this.blocks.push(apart());
      this.flush = true;
    } else this.below(1);
  }

  private monospace(node: Node): void {
    const manner: Manner = { ...this.manner, monospace: true };
    const form = this.form({ manner, align: 'left', hyphenate: false, x: this.s.interior.text.indent });
    node.textContent.split('\n').forEach((row, i) => {
      const builder = this.s.builder(node.attrs.id as string, form);
      builder.text(row.replace(/ /g, '\u00a0'), this.s.style(manner));
      this.lines(builder.done(), form, this.place(node), { before: i === 0 ? 1 : 0 });
    });
    this.below(1);
  }

  private table(node: Node): void {
    const columns = Math.max(1, ...rowsIn(node).map((r) => r.childCount));
    const gutter = this.em;
    const width = Math.floor((this.s.measure - gutter * (columns - 1)) / columns);
    this.children(node, (row, index) => {
      const items: Item[] = [];
      let rows = 1;
      this.children(row, (cell, c) => {
        let at = 0;
        this.children(cell, (para) => {
          const form = this.form({
            x: c * (width + gutter),
            measure: width,
            align: 'left',
            manner: { size: this.s.interior.note.size, bold: Boolean(cell.attrs.head) },
          });
          const p = this.s.paragraph(para, form, (ref) => this.marks.get(ref) ?? '*');
          if (p.pieces.length === 0) return;
          const lines = this.s.items(p, this.s.break(p, form), form);
          items.push(...lines.map((l) => l.atRow(l.row + at)));
          at += lines.length;
        });
        rows = Math.max(rows, at);
      });
      this.blocks.push(
        solid(this.section.id, rows, items, { place: this.place(row), before: index === 0 ? 1 : 0 }),
      );
    });
    this.below(1);
  }

  private notes(): Map<string, SetNote> {
    const notes = new Map<string, SetNote>();
    const { size } = this.s.interior.note;
    this.section.content.forEach((node) => {
      if (node.type.name !== 'noteBody') return;
      const id = node.attrs.id as string;
      const items: LineItem[] = [];
      this.children(node, (para, i) => {
        const manner: Manner = { size };
        const form = this.form({ manner, indent: i === 0 ? 0 : size });
        const builder = this.s.builder(para.attrs.id as string, form);
        if (i === 0)
          builder
            .text(`${this.marks.get(id) ?? '*'}`, this.s.superior(manner))
            .gap(Math.round(size / 3), this.s.style(manner))
            .skip(-(this.marks.get(id) ?? '*').length);
        addInline(builder, para, {
          styleFor: (t) => this.s.style(manner, t.marks),
          noteMark: () => ({ mark: '', style: this.s.superior(manner) }),
        });
        const p = builder.done();
        items.push(...this.s.items(p, this.s.break(p, form), form));
      });
      notes.set(id, { id, items });
    });
    return notes;
  }
}

const rowsIn = (table: Node): Node[] => {
  const rows: Node[] = [];
  table.forEach((r) => void rows.push(r));
  return rows;
};
