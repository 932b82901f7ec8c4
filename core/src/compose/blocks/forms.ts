/** The forms of a section's blocks by its interior: measures, indents and letters, before any text is set in them. */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import type { Manner, ParagraphForm, Setter } from './setter';
import { mannerOf } from './stack';

/** Ems that a line of displayed text has at least. */
const LEAST = 4;

export class Forms {
  readonly em: Mp;
  /** Paragraphs are told apart by a blank row instead of an indent. */
  readonly spaced: boolean;
  readonly manner: Manner;
  /** What displayed text stands in by: the paragraphs' indent, or where they have none what reads as one. */
  readonly indent: Mp;

  constructor(
    private readonly s: Setter,
    /** In the size of notes, without indents: a copyright page. */
    readonly small: boolean,
  ) {
    const { text, notes } = s.interior;
    this.em = text.size;
    this.spaced = text.paragraphs === 'space';
    this.manner = { size: small ? notes.size : text.size };
    const indent = text.indent || Math.round(text.size * 1.6);
    this.indent = Math.max(0, Math.min(indent, (s.measure - LEAST * text.size) >> 1));
  }

  text(more: Partial<ParagraphForm> = {}): ParagraphForm {
    const { set, hyphens } = this.s.interior.text;
    const inset = more.x ?? 0;
    return {
      manner: this.manner,
      indent: 0,
      measure: this.s.measure - inset,
      x: inset,
      align: set === 'ragged' ? 'left' : 'justify',
      hyphenate: hyphens,
      ...more,
    };
  }

  inset(more: Partial<ParagraphForm> = {}): ParagraphForm {
    return this.text({ x: this.indent, measure: this.s.measure - 2 * this.indent, ...more });
  }

  quotation(): ParagraphForm {
    const { inset, size, cut } = this.s.interior.quotation;
    const x = inset === 'none' ? 0 : this.indent;
    return this.text({
      x,
      measure: this.s.measure - (inset === 'both' ? 2 : 1) * x,
      manner: { size, italic: cut === 'italic' },
    });
  }

  passage(align: string): ParagraphForm {
    if (align === 'inset') return this.inset();
    return this.text({ align: align === 'right' ? 'right' : 'centre', hyphenate: false });
  }

  /** A line too long for the measure turns over, further in than it began. */
  verseLine(line: Node): ParagraphForm {
    const { inset, cut } = this.s.interior.verse;
    const turn = 2 * this.em;
    // However far a line is indented, words have room after it.
    const most = Math.max(0, this.s.measure - turn - LEAST * this.em);
    const x = Math.min(inset + Number(line.attrs.indent) * this.em, most);
    return this.text({
      manner: { ...this.manner, italic: cut === 'italic' },
      x: x + turn,
      indent: -turn,
      measure: this.s.measure - x - turn,
      align: 'left',
      hyphenate: false,
    });
  }

  subhead(level: number): ParagraphForm {
    const { first, second, third } = this.s.interior.subheads;
    const style = level === 1 ? first : level === 2 ? second : third;
    return this.text({ manner: mannerOf(style), align: style.align, hyphenate: false });
  }

  /** A line too long for the measure turns over, further in than it began. */
  monospace(): ParagraphForm {
    const turn = Math.min(2 * this.em, (this.s.measure - this.indent) >> 2);
    return this.text({
      manner: { ...this.manner, monospace: true },
      align: 'left',
      hyphenate: false,
      x: this.indent + turn,
      indent: -turn,
      measure: this.s.measure - this.indent - turn,
    });
  }
}
