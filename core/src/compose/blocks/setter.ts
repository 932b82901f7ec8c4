/** Sets paragraphs in an interior's styles: marks to faces, notes to marks, widths to lines. */
import { Fragment, type Mark, type Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import { measureOf, type Interior } from '../../design';
import type { FamilyFiles, Hyphenator, Style, TypeCase, Variant as FaceVariant } from '../../type';
import { LineItem } from '../lines';
import { breakLines, otherLengths, type Broken, type LineWidths } from '../lines';
import { Kind } from '../lines';
import { Divider } from '../lines';
import {
  addInline,
  ParagraphBuilder,
  Spaces,
  type InlineSetter,
  type MadeWords,
  type Paragraph,
} from '../lines';
import type { Variant } from '../lines';
import { partNumber, type LinePart } from '../lines';

/** What a passage's text looks like before its marks. */
export interface Manner {
  size: Mp;
  italic?: boolean;
  bold?: boolean;
  smallCaps?: boolean;
  capitals?: boolean;
  monospace?: boolean;
  tracking?: Mp;
  /** In the family of headings rather than of the text. */
  display?: boolean;
  /** Figures as high as capitals, whatever the text has. */
  lining?: boolean;
  /** A typeface of its own, neither the text's nor that of headings. */
  family?: FamilyFiles;
  /** Where it is not the book's. */
  language?: string;
}

export interface ParagraphForm {
  manner: Manner;
  indent: Mp;
  measure: Mp;
  /** From the left of the type area. */
  x: Mp;
  align: LineItem['align'];
  hyphenate: boolean;
  widths?: LineWidths;
  /** Words at the paragraph's start that stand in small capitals. */
  smallCapWords?: number;
  /** Characters at the start that are drawn elsewhere. */
  skip?: number;
}

/** Superior figures: size and height as shares of the text's size (common practice). */
const SUPERIOR = { size: 0.64, rise: 0.34 };
const INFERIOR = { size: 0.64, rise: -0.14 };

export class Setter {
  readonly spaces: Spaces;
  readonly measure: Mp;
  /** Setters with the same key set alike. */
  readonly key: string;
  private readonly figures: string;
  private readonly divider: Divider;
  private readonly styles = new Map<string, Style>();
  /** Of text without marks, by the very manner that asks again and again. */
  private readonly plainStyles = new WeakMap<Manner, Style>();

  constructor(
    readonly interior: Interior,
    readonly faces: TypeCase,
    private readonly families: { text: FamilyFiles; display: FamilyFiles },
    readonly language: string,
    hyphenate: Hyphenator,
  ) {
    this.key = JSON.stringify([interior, language]);
    this.figures = interior.text.figures === 'lining' ? 'lnum' : 'onum';
    this.divider = new Divider(hyphenate);
    const { wordSpace, stretch, shrink } = interior.text;
    this.spaces = new Spaces({ natural: wordSpace, stretch, shrink });
    this.measure = measureOf(interior);
  }

  style(manner: Manner, marks: readonly Mark[] = []): Style {
    if (marks.length > 0) return this.marked(manner, marks);
    let style = this.plainStyles.get(manner);
    if (!style) this.plainStyles.set(manner, (style = this.marked(manner, marks)));
    return style;
  }

  private marked(manner: Manner, marks: readonly Mark[]): Style {
    let key = `${manner.size}|${manner.italic ? 'i' : ''}${manner.bold ? 'b' : ''}${manner.smallCaps ? 's' : ''}${manner.capitals ? 'c' : ''}${manner.monospace ? 'm' : ''}${manner.display ? 'd' : ''}${manner.lining ? 'l' : ''}|${manner.tracking ?? 0}|${manner.family?.name ?? ''}|${manner.language ?? ''}`;
    for (const m of marks) key += `/${m.type.name === 'language' ? (m.attrs.tag as string) : m.type.name}`;
    const known = this.styles.get(key);
    if (known) return known;
    const names = new Set(marks.map((m) => m.type.name));
    // Emphasis inside an italic passage is set upright.
    const italic = Boolean(manner.italic) !== names.has('emphasis');
    const bold = Boolean(manner.bold) || names.has('strong');
    const mono = Boolean(manner.monospace) || names.has('monospaced');
    const smallCaps = Boolean(manner.smallCaps) || names.has('smallCaps');
    const figures = manner.capitals || manner.lining ? 'lnum' : this.figures;
    const family = manner.family ?? (manner.display ? this.families.display : this.families.text);
    const cut = (slanted: boolean): FaceVariant =>
      bold ? (slanted ? 'boldItalic' : 'bold') : slanted ? 'italic' : 'regular';
    // An italic without small capitals lends them from its roman.
    const slanted = italic && !(smallCaps && !this.faces.hasSmallCapitals(family, cut(true)));
    const variant: FaceVariant = mono ? 'monospace' : cut(slanted);
    const script = names.has('super') ? SUPERIOR : names.has('sub') ? INFERIOR : null;
    const tag = marks.find((m) => m.type.name === 'language')?.attrs.tag as string | undefined;
    const style = this.faces.style(family, variant, {
      size: script
        ? Math.round(manner.size * script.size)
        : mono
          ? Math.round(manner.size * 0.86)
          : manner.size,
      features: mono ? '' : smallCaps ? `smcp,${figures}` : figures,
      language: tag ?? manner.language ?? this.language,
      rise: script ? Math.round(manner.size * script.rise) : 0,
      tracking: manner.tracking ?? (smallCaps ? Math.round(manner.size * 0.03) : 0),
      struck: names.has('strike'),
      underlined: names.has('underline'),
      fixed: mono,
    });
    this.styles.set(key, style);
    return style;
  }

  superior(manner: Manner): Style {
    return this.faces.style(this.families.text, 'regular', {
      size: Math.round(manner.size * SUPERIOR.size),
      features: 'lnum',
      language: this.language,
      rise: Math.round(manner.size * SUPERIOR.rise),
      tracking: 0,
    });
  }

  /** The text's roman at a size, its baseline raised. */
  raised(size: Mp, rise: Mp): Style {
    return this.faces.style(this.families.text, 'regular', {
      size,
      features: this.figures,
      language: this.language,
      rise,
      tracking: 0,
    });
  }

  builder(block: string, form: ParagraphForm): ParagraphBuilder {
    return new ParagraphBuilder(this.spaces, block, {
      indent: form.indent,
      hyphenate: form.hyphenate,
      justify: form.align === 'justify',
      scaling: form.align === 'justify' ? this.interior.text.glyphScaling : 0,
    });
  }

  /** How a block's inline content is set in a manner. */
  inline(manner: Manner, made: MadeWords): InlineSetter {
    return {
      styleFor: (n) => this.style(manner, n.marks),
      noteMark: (ref) => ({ mark: made.noteMark(ref), style: this.superior(manner) }),
      reference: (n) => (manner.capitals ? made.reference(n).toUpperCase() : made.reference(n)),
    };
  }

  /** A block's inline content as a paragraph. */
  paragraph(written: Node, form: ParagraphForm, made: MadeWords): Paragraph {
    const block = form.manner.capitals ? inCapitals(written) : written;
    const builder = this.builder(block.attrs.id as string, form);
    const skip = form.skip ?? 0;
    if (skip) builder.skip(skip);
    const opening = form.smallCapWords ? openingLength(block, skip, form.smallCapWords) : 0;
    if (opening > skip) {
      const head = block.cut(0, opening);
      addInline(builder, head, this.inline({ ...form.manner, smallCaps: true }, made), skip);
      addInline(builder, block.cut(opening), this.inline(form.manner, made));
    } else addInline(builder, block, this.inline(form.manner, made), skip);
    return builder.done();
  }

  /** The form of lines that stand alone in the whole measure: headings, heads, folios, contents. */
  alone(manner: Manner, align: LineItem['align']): ParagraphForm {
    return { manner, indent: 0, measure: this.measure, x: 0, align, hyphenate: false };
  }

  plain(text: string, form: ParagraphForm, block = '', part: LinePart = ''): Paragraph {
    const p = this.builder(block, form)
      .text(form.manner.capitals ? text.toUpperCase() : text, this.style(form.manner))
      .done();
    p.part = partNumber(part);
    return p;
  }

  break(p: Paragraph, form: ParagraphForm): Broken {
    const widths = form.widths ?? { measure: form.measure };
    return breakLines(p, widths, form.hyphenate ? this.divider : null);
  }

  items(p: Paragraph, broken: Broken, form: ParagraphForm): LineItem[] {
    return broken.lines.map((line, row) => new LineItem(p, line, row, form));
  }

  variant(p: Paragraph, broken: Broken, form: ParagraphForm, cost = 0): Variant {
    const hyphenAt = new Set<number>();
    broken.lines.forEach((l, i) => {
      if (l.kind === Kind.hyphen || l.kind === Kind.dash) hyphenAt.add(i);
    });
    const notes = new Map<number, string[]>();
    for (const call of p.notes) {
      const row = broken.lines.findIndex((l) => call.piece <= l.to);
      notes.set(row, [...(notes.get(row) ?? []), call.ref]);
    }
    return { rows: broken.lines.length, cost, items: this.items(p, broken, form), hyphenAt, notes };
  }

  /** The paragraph's other lengths as variants, dearer than its best by what their spaces cost. */
  others(p: Paragraph, best: Broken, form: ParagraphForm): Variant[] {
    const widths = form.widths ?? { measure: form.measure };
    return otherLengths(p, widths, form.hyphenate ? this.divider : null, best.lines.length).map((b) =>
      this.variant(p, b, form, 120 + Math.max(0, b.demerits - best.demerits) / 200),
    );
  }
}

/** A block with its letters as capitals; one that would become two, such as ß, stays, so that offsets hold. */
function inCapitals(block: Node): Node {
  const capital = (c: string): string => {
    const up = c.toUpperCase();
    return up.length === c.length ? up : c;
  };
  const children: Node[] = [];
  block.forEach((n) => {
    children.push(n.isText ? n.type.schema.text([...(n.text as string)].map(capital).join(''), n.marks) : n);
  });
  return block.copy(Fragment.fromArray(children));
}

/** Characters of a block's first words, not counting those skipped; stops at anything that is not text. */
function openingLength(block: Node, skip: number, words: number): number {
  const text = block.textBetween(0, block.content.size, undefined, '\ufffc');
  let at = skip;
  for (let n = 0; n < words; n++) {
    const m = /^\s*[^\s\ufffc]+/.exec(text.slice(at));
    if (!m) break;
    at += m[0].length;
    if (/[.!?;:,\u2014][\u2019\u201d]?$/.test(m[0])) break;
  }
  return at >= text.length ? 0 : at;
}
