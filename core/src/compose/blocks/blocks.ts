/** A section's document as flow: every block of the schema in its form on the printed page. */
import type { Node } from 'prosemirror-model';
import {
  headingWord,
  kindRule,
  noteMarks,
  notesIn,
  type NoteKind,
  type Picture,
  type Section,
} from '../../book';
import type { NotePlace } from '../../order';
import type { LineStyle } from '../../design';
import type { Around, Flow, FlowBlock, Variant } from '../lines';
import type { FlowManners, GatheredNotes } from './manners';
import { breakOf } from './break';
import { figureBlock, picturesOver } from './figure';
import { Forms } from './forms';
import type { LinePart } from '../lines';
import { monospaceLines } from './monospace';
import { footNotes, noteParagraphs, withCallsOf } from './notes';
import { itemParagraph, itemParts } from './list';
import { dropCap, solid } from './opening';
import { displayed, mannerOf } from './stack';
import { tableBlocks } from './table';
import { besideOf, type Beside } from './beside';
import { linesOf, type SetParagraph } from './kept';
import { addInline, type MadeWords, type Paragraph } from '../lines';
import { labelled } from './caption';
import type { ParagraphForm, Setter } from './setter';

export class FlowBuilder {
  private readonly blocks: FlowBlock[] = [];
  private readonly marks: Map<string, string>;
  private readonly made: MadeWords;
  private readonly forms: Forms;
  /** Blank rows that the block before wants below it. */
  private after = 0;
  /** The next paragraph begins flush: after a heading, a break, a displayed block. */
  private flush = true;
  /** A heading stands directly above: no blank row comes between. */
  private headed = false;
  /** A picture that text stands beside, until the text has passed it. */
  private beside: { picture: Beside; before: number } | null = null;
  /** Pictures wait for their pages. */
  private floats = false;
  /** The next paragraph goes on after a break with its first words in small capitals. */
  private resumed = false;

  constructor(
    private readonly s: Setter,
    private readonly section: Section,
    private readonly pictures: ReadonlyMap<string, Picture>,
    private readonly manners: FlowManners,
  ) {
    this.marks = noteMarks(section.content, manners.notes.signs);
    this.made = { ...manners.words, noteMark: (ref) => this.marks.get(ref) ?? '*' };
    this.forms = new Forms(s, manners.small);
  }

  /** `above`: the pictures at the section's start that stand above its opening. */
  build(opening: FlowBlock | null, above: readonly Node[] = []): Flow {
    if (opening)
      this.blocks.push(
        ...picturesOver(this.s, this.section.id, above, opening, this.pictures, this.made),
        opening,
      );
    let first = this.manners.opens;
    this.section.content.forEach((node, _offset, i) => {
      if (node.type.name === 'noteBody' || i < above.length) return;
      if (node.type.name !== 'paragraph') this.passBeside();
      this.block(node, first && node.type.name === 'paragraph');
      if (node.type.name === 'paragraph') first = false;
    });
    this.passBeside();
    if (this.floats) this.blocks.push(solid(this.section.id, 0, [], { kind: 'flush' }));
    const { gathered } = this.manners;
    const { first: head, second } = this.s.interior.subheads;
    const after = this.notesAt('after');
    if (after.some((n) => this.marks.has(n.attrs.id as string))) {
      this.madeSubhead(headingWord('notes', this.s.language), head, 'subheads.first', 2);
      this.endNotes(after.map((note) => ({ note, mark: this.made.noteMark(note.attrs.id as string) })));
    }
    for (const { label, notes } of gathered) {
      this.madeSubhead(label, second, 'subheads.second', 1);
      this.endNotes(notes);
    }
    const foot = footNotes(
      this.s,
      this.notesAt('foot'),
      this.made,
      this.forms.text({ manner: { size: this.s.interior.notes.size } }),
    );
    const blocks = this.blocks.map((b) => withCallsOf(b, foot));
    return { section: this.section.id, blocks, notes: foot, called: new Set(this.marks.keys()) };
  }

  /** Notes of the section that stand there. */
  private notesAt(place: NotePlace): Node[] {
    const { notes } = this.manners;
    return notesIn(this.section.content).filter((n) => notes[n.attrs.kind as NoteKind] === place);
  }

  private block(node: Node, first: boolean): void {
    const { indent } = this.forms;
    switch (node.type.name) {
      case 'paragraph':
        if (kindRule(this.section.kind).hanging) return this.entry(node);
        if (first) return this.firstParagraph(node);
        return this.plainParagraph(node);
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
        const form = node.type.name === 'letter' ? this.forms.inset() : this.forms.quotation();
        this.children(node, (child, i) =>
          child.type.name === 'attribution'
            ? this.attribution(child, form)
            : this.text(
                child,
                { ...form, indent: i === 0 || this.forms.spaced ? 0 : indent },
                {
                  before: i === 0 || this.forms.spaced ? 1 : 0,
                  // Who said it stands on the page of what was said.
                  keep: node.maybeChild(i + 1)?.type.name === 'attribution' ? 1 : 0,
                },
              ),
        );
        return this.below(1);
      }
      case 'passage':
        return this.passage(node);
      case 'verse':
        return this.verse(node);
      case 'list':
        this.list(node);
        return this.below(1);
      case 'figure':
        return this.figure(node);
      case 'monospace':
        return this.monospace(node);
      case 'table':
        return this.table(node);
      case 'tableCaption':
        return this.tableCaption(node);
    }
  }

  /** An entry of a bibliography or a glossary: lines after the first are indented, and nothing is justified to holes. */
  private entry(node: Node): void {
    const hang = Math.round(this.forms.em * 1.5);
    const form = this.forms.text({ x: hang, indent: -hang, align: 'left' });
    this.text(node, form, { before: this.forms.spaced && !this.headed ? 1 : 0 });
  }

  private plainParagraph(node: Node): void {
    const apart = this.forms.small || this.forms.spaced;
    const before = apart && !this.headed ? 1 : 0;
    const indent = this.flush || apart ? 0 : this.s.interior.text.indent;
    const words = this.resumed && !this.forms.small ? this.s.interior.opening.openingWords || 3 : 0;
    this.resumed = false;
    this.text(node, this.forms.text({ indent, ...(words > 0 ? { smallCapWords: words } : {}) }), {
      before,
    });
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
  private text(node: Node, form: ParagraphForm, more: Around = {}): void {
    const { kept } = this.manners;
    const place = this.place(node);
    if (kept && !this.beside) this.put(kept.set(node, form, this.made), form, place, more);
    else this.lines(this.s.paragraph(node, form, this.made), form, place, more);
  }

  private lines(p: Paragraph, form: ParagraphForm, place: FlowBlock['place'], more: Around = {}): void {
    const beside = this.beside;
    if (beside && form.x === 0 && !form.widths && p.pieces.length > 0) {
      const before = this.above(more.before);
      const narrowed = { ...form, widths: beside.picture.widths(form.measure, before) };
      beside.picture.add(this.s.variant(p, this.s.break(p, narrowed), narrowed), before);
      if (beside.picture.passed) this.passBeside();
      return;
    }
    this.passBeside();
    this.put(linesOf(this.s, p, form), form, place, more);
  }

  /** Blank rows above a block of lines, which takes what was open before it. */
  private above(wanted = 0): number {
    // A heading has its own white below it.
    const before = Math.max(this.blocks.length === 0 ? 0 : this.after, this.headed ? 0 : wanted);
    this.after = 0;
    this.flush = false;
    this.headed = false;
    return before;
  }

  private put(set: SetParagraph, form: ParagraphForm, place: FlowBlock['place'], more: Around): void {
    const before = this.above(more.before);
    const { paragraph: p, broken } = set;
    if (p.pieces.length === 0) {
      // An empty paragraph in the manuscript keeps its line, so that what is typed is what is seen.
      this.blocks.push(solid(this.section.id, 1, [], { place, before }));
      return;
    }
    const finish = (v: Variant): Variant => ({
      ...v,
      rows: Math.max(v.rows, more.minRows ?? 0),
      items: more.extra ? [more.extra, ...v.items] : v.items,
      // A drop capital and the lines beside it stand on one page.
      ...(more.extra ? { hold: Math.max(v.hold ?? 0, more.minRows ?? 0) } : {}),
    });
    const long = broken.lines.length >= 3 && form.align === 'justify';
    this.blocks.push({
      place,
      kind: 'text',
      before,
      keep: more.keep ?? 0,
      best: finish(set.best),
      others: long ? () => (set.others ??= this.s.others(p, broken, form)).map(finish) : null,
      atEdge: null,
      heading: false,
    });
  }

  private firstParagraph(node: Node): void {
    const o = this.s.interior.opening;
    const drops = o.words === 'drop-capital' && node.textContent.length > 60;
    const cap = drops ? dropCap(this.s, node, o.dropLines) : null;
    const form = this.forms.text({ smallCapWords: o.words === 'plain' ? 0 : o.openingWords });
    if (!cap) return this.text(node, form);
    this.text(
      node,
      { ...form, skip: cap.taken, widths: { measure: form.measure, first: cap.widths } },
      { minRows: o.dropLines, extra: cap.item },
    );
  }

  private subhead(node: Node): void {
    const level = Number(node.attrs.level);
    const { p, broken, form } = this.subheadLines(node, this.forms.subhead(level));
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
    this.headed = true;
    this.flush = true;
  }

  /** A subhead with a word wider than the measure is hyphenated. */
  private subheadLines(node: Node, plain: ParagraphForm) {
    for (const hyphenate of [false, true]) {
      const form = { ...plain, hyphenate };
      const p = this.s.paragraph(node, form, this.made);
      const broken = this.s.break(p, form);
      if (hyphenate || broken.lines.every((l) => l.toCut === 0)) return { p, broken, form };
    }
    throw new Error('a subhead has lines');
  }

  private breakBlock(ornament: boolean, id: string): void {
    const { breaks } = this.s.interior;
    const { shown, visible } = breakOf(this.s, this.pictures.get(breaks.picture), ornament);
    this.blocks.push({
      ...solid(this.section.id, 1, visible ? shown : []),
      kind: 'break',
      place: { section: this.section.id, block: id },
      before: visible ? 1 : 0,
      atEdge: shown,
    });
    this.after = visible ? 1 : 0;
    this.flush = breaks.resume !== 'indent';
    this.resumed = breaks.resume === 'small-capitals';
  }

  private attribution(node: Node, around: ParagraphForm): void {
    this.text(node, {
      ...around,
      indent: 0,
      align: 'right',
      hyphenate: false,
      manner: { ...this.forms.manner },
    });
  }

  private passage(node: Node): void {
    const form = this.forms.passage(node.attrs.align as string);
    this.children(node, (child, i) => this.text(child, form, { before: i === 0 ? 1 : 0 }));
    this.below(1);
  }

  private verse(node: Node): void {
    this.children(node, (stanza) => {
      if (stanza.type.name === 'attribution')
        return this.attribution(
          stanza,
          this.forms.text({ measure: this.s.measure - this.s.interior.verse.inset }),
        );
      const count = stanza.childCount;
      this.children(stanza, (line, i) => {
        const inner = i > 0 && i < count - 2;
        this.text(line, this.forms.verseLine(line), {
          before: i === 0 ? 1 : 0,
          keep: inner ? 0 : i === count - 1 ? 0 : 1,
        });
      });
    });
    this.below(1);
  }

  private list(node: Node): void {
    const room = Math.round(this.forms.em * 1.6);
    itemParts(node, room).forEach(({ node: child, x, marker, keep }, i) => {
      const indent = marker === null ? 0 : -room;
      const form = this.forms.text({ x, indent, measure: this.s.measure - x });
      const around = { before: i === 0 ? 1 : 0, keep };
      if (marker === null) return this.text(child, form, around);
      const paragraph = itemParagraph(this.s, child, marker, room, form, this.made);
      this.lines(paragraph, form, this.place(child), around);
    });
  }

  /** Puts a picture with the text that stands beside it. */
  private passBeside(): void {
    if (!this.beside) return;
    this.blocks.push(this.beside.picture.block(this.beside.before));
    this.beside = null;
  }

  private figure(node: Node): void {
    const picture = besideOf(
      this.s,
      this.place(node),
      node,
      this.pictures.get(node.attrs.picture as string),
      this.made,
    );
    if (picture) {
      this.beside = { picture, before: this.blocks.length === 0 ? 0 : Math.max(this.after, 1) };
      this.after = 0;
      this.headed = true;
      return;
    }
    const block = figureBlock(
      this.s,
      this.place(node),
      node,
      this.pictures.get(node.attrs.picture as string),
      this.made,
    );
    if (!block) return;
    if (block.kind === 'float') {
      this.blocks.push(block);
      this.floats = true;
      return;
    }
    this.blocks.push({ ...block, before: this.blocks.length === 0 ? 0 : 1 });
    this.below(1);
  }

  private monospace(node: Node): void {
    const form = this.forms.monospace();
    monospaceLines(this.s, node, form).forEach((line, i) =>
      this.lines(line, form, this.place(node), { before: i === 0 ? 1 : 0 }),
    );
    this.below(1);
  }

  private tableCaption(node: Node): void {
    const { caption } = this.s.interior.pictures;
    const form = { ...this.forms.text(), manner: mannerOf(caption), align: 'left' as const };
    const builder = this.s.builder(node.attrs.id as string, form);
    labelled(this.s, builder, this.made.captionLabel(node.attrs.id as string), form.manner);
    addInline(builder, node, this.s.inline(form.manner, this.made));
    this.lines(builder.done(), form, this.place(node), { before: 1, keep: 4 });
    this.captioned = true;
  }

  /** The caption of the table that follows has been set. */
  private captioned = false;

  private table(node: Node): void {
    const set = tableBlocks(this.s, node, this.section.id, this.pictures, this.made);
    // Its caption, or a heading, stands close to it.
    if ((this.captioned || this.headed) && set[0]) set[0] = { ...set[0], before: 0 };
    this.captioned = false;
    this.headed = false;
    this.blocks.push(...set);
    this.below(1);
  }

  /** Notes as text. */
  private endNotes(notes: GatheredNotes['notes']): void {
    const form = this.forms.text({ manner: { size: this.s.interior.notes.size } });
    for (const { note, mark } of notes)
      noteParagraphs(this.s, note, mark, this.made, form, (p, own, block) =>
        this.lines(p, own, { section: this.section.id, block }),
      );
  }

  /** A heading in the text that no block of the manuscript holds: "Notes", a chapter's name above its notes. */
  private madeSubhead(text: string, style: LineStyle, part: LinePart, before: number): void {
    const set = displayed(this.s, text, mannerOf(style), 0, style.align, part);
    this.blocks.push(
      solid(this.section.id, set.rows + 1, set.items, {
        before: this.blocks.length === 0 ? 0 : Math.max(this.after, before),
        keep: 2,
        heading: true,
      }),
    );
    this.after = 0;
    this.flush = true;
  }
}
