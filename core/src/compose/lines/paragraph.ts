/**
 * A paragraph made ready for line breaking: shaped words and spaces in order, and where a line may end.
 *
 * Pieces are shared objects (a word is shaped once for the whole book), so a paragraph is little more than a list of
 * references. Everything is horizontal here; rows and pages come later.
 */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import { HASH, PRIME, type Style, type Word } from '../../type';

/** A word space. Its natural width is the face's; it stretches and shrinks by the interior's shares of an em. */
export interface Space {
  kind: 'space';
  width: Mp;
  stretch: Mp;
  shrink: Mp;
  breakable: boolean;
  style: Style;
}
export type Piece = Word | Space;

/** What may happen after a piece. */
export const enum After {
  nothing = 0,
  dash = 1,
  forced = 2,
  /** Forced, and the line before fills the measure. */
  fitted = 3,
  /** Within an address of the web: a line may end here, and shows no hyphen. */
  address = 4,
}

export interface NoteCall {
  piece: number;
  ref: string;
}

export interface Paragraph {
  /** Id of the block, '' for words that are not the author's (heads, folios, contents). */
  block: string;
  /** Which part of the design such words are, as a number of `LINE_PARTS`; 0 for the author's. */
  part: number;
  pieces: Piece[];
  after: After[];
  /** Offset of each piece in the block's content. */
  offsets: number[];
  notes: NoteCall[];
  /** Pieces that are never hyphenated: parts of addresses. Null where there are none. */
  whole: Set<number> | null;
  /** Width of the box that opens the first line: an indent, a list's marker room. */
  indent: Mp;
  hyphenate: boolean;
  justify: boolean;
  /** Thousandths by which a justified line's letters may be widened or narrowed. */
  scaling: number;
}

export interface SpaceShares {
  /** Its natural width; null for the face's own. */
  natural: number | null;
  stretch: number;
  shrink: number;
}

/** Spaces of a style, one breakable and one not, made once. */
export class Spaces {
  private readonly made = new Map<Style, [Space, Space]>();
  constructor(private readonly shares: SpaceShares) {}
  of(style: Style): readonly [fixed: Space, breakable: Space] {
    let pair = this.made.get(style);
    if (!pair) {
      const em = style.spec.size;
      const fixed = style.spec.fixed === true;
      const make = (b: boolean): Space => ({
        kind: 'space',
        width:
          this.shares.natural === null || fixed
            ? style.space
            : Math.round((em * this.shares.natural) / 1000) + style.spec.tracking,
        stretch: fixed ? 0 : Math.round((em * this.shares.stretch) / 1000),
        shrink: fixed ? 0 : Math.round((em * this.shares.shrink) / 1000),
        breakable: b,
        style,
      });
      pair = [make(false), make(true)];
      this.made.set(style, pair);
    }
    return pair;
  }
}

const isSpace = (c: number): boolean => c === 32 || c === 9 || c === 10 || c === 13;
const NO_BREAK_SPACE = 0xa0;
const isNoBreak = (c: number): boolean => c === NO_BREAK_SPACE || c === 0x202f;
const HYPHEN = 45;
const isDash = (c: number): boolean => c === HYPHEN || c === 0x2010 || c === 0x2013 || c === 0x2014;
/** A line may end after a dash only where the text goes on with a letter, a figure or an opening quotation mark. */
const OPENS = /[\p{L}\p{N}\u2018\u201c\u00ab(]/u;
function opens(char: string): boolean {
  const c = char.charCodeAt(0);
  // Nearly always a plain letter or a quotation mark: no pattern is asked.
  return (c >= 97 && c <= 122) || (c >= 65 && c <= 90) || c === 0x201c || OPENS.test(char);
}

const SMALL_H = 104;
const SMALL_W = 119;
const beginsAddress = (text: string, at: number): boolean =>
  text.startsWith('https://', at) || text.startsWith('http://', at) || text.startsWith('www.', at);
/** Lines end after a sign, never before one (common practice). */
const ADDRESS_PARTS = /[^/.?&=#_:-]*[/.?&=#_:-]+|[^/.?&=#_:-]+$/g;

export class ParagraphBuilder {
  private readonly p: Paragraph;
  private offset = 0;

  constructor(
    private readonly spaces: Spaces,
    block: string,
    more: Partial<Pick<Paragraph, 'indent' | 'hyphenate' | 'justify' | 'scaling'>> = {},
  ) {
    this.p = {
      block,
      part: 0,
      pieces: [],
      after: [],
      offsets: [],
      notes: [],
      whole: null,
      indent: more.indent ?? 0,
      hyphenate: more.hyphenate ?? true,
      justify: more.justify ?? true,
      scaling: more.scaling ?? 0,
    };
  }

  private push(piece: Piece, after: After, length: number): void {
    this.p.pieces.push(piece);
    this.p.after.push(after);
    this.p.offsets.push(this.offset);
    this.offset += length;
  }

  text(text: string, style: Style): this {
    const n = text.length;
    const [fixed, breakable] = this.spaces.of(style);
    let i = 0;
    while (i < n) {
      const c = text.charCodeAt(i);
      if (isSpace(c) || isNoBreak(c)) {
        this.push(isSpace(c) ? breakable : fixed, After.nothing, 1);
        i++;
        continue;
      }
      if ((c === SMALL_H || c === SMALL_W) && beginsAddress(text, i)) {
        i = this.address(text, i, style);
        continue;
      }
      let end = i;
      let after = After.nothing;
      let hash = HASH;
      while (end < n) {
        const d = text.charCodeAt(end);
        // Between the hyphen and the no-break space stand neither spaces nor dashes: nearly all of a text.
        const plain = d > HYPHEN && d < NO_BREAK_SPACE;
        if (!plain && (isSpace(d) || isNoBreak(d))) break;
        hash = Math.imul(hash ^ d, PRIME);
        end++;
        if (!plain && isDash(d) && end > i + 1 && end < n && opens(text.charAt(end))) {
          after = After.dash;
          break;
        }
      }
      this.push(style.wordIn(text, i, end, hash), after, end - i);
      i = end;
    }
    return this;
  }

  /** An address from `from` on, in parts after which a line may end; answers where it ends. */
  private address(text: string, from: number, style: Style): number {
    let end = from;
    while (end < text.length && !isSpace(text.charCodeAt(end)) && !isNoBreak(text.charCodeAt(end))) end++;
    const parts = text.slice(from, end).match(ADDRESS_PARTS) ?? [];
    this.p.whole ??= new Set();
    parts.forEach((part, k) => {
      this.p.whole?.add(this.p.pieces.length);
      this.push(style.word(part), k < parts.length - 1 ? After.address : After.nothing, part.length);
    });
    return end;
  }

  noteCall(mark: string, ref: string, style: Style): this {
    this.p.notes.push({ piece: this.p.pieces.length, ref });
    this.push(style.word(mark), After.nothing, 1);
    return this;
  }

  /** Words that stand for `length` of the block's own content: all of them are where that begins. */
  instead(words: string, style: Style, length: number): this {
    const { offset } = this;
    const from = this.p.offsets.length;
    this.text(words, style);
    this.p.offsets.fill(offset, from);
    this.offset = offset + length;
    return this;
  }

  lineBreak(fitted = false): this {
    const last = this.p.after.length - 1;
    if (last >= 0) this.p.after[last] = fitted ? After.fitted : After.forced;
    this.offset++;
    return this;
  }

  /** A space of fixed width that is not the author's. */
  gap(width: Mp, style: Style): this {
    this.push({ kind: 'space', width, stretch: 0, shrink: 0, breakable: false, style }, After.nothing, 0);
    return this;
  }

  /** Skips offset for something that is drawn elsewhere, such as a drop cap. */
  skip(length: number): this {
    this.offset += length;
    return this;
  }

  done(): Paragraph {
    return this.p;
  }
}

/** Words that the author did not type and that stand in the text: they depend on the edition, and some on its pages. */
export interface MadeWords {
  noteMark(ref: string): string;
  /** What a reference to a place of the book says. */
  reference(node: Node): string;
  /** What stands before a caption, such as "Figure 2.3."; '' for nothing. */
  captionLabel(block: string): string;
}

/** Resolves marks to styles and knows the mark of each note; given by the flow. */
export interface InlineSetter {
  styleFor(node: Node): Style;
  noteMark(ref: string): { mark: string; style: Style };
  reference(node: Node): string;
}

/** Adds a block's inline content from character offset `from` on. */
export function addInline(builder: ParagraphBuilder, block: Node, setter: InlineSetter, from = 0): void {
  let at = 0;
  block.forEach((node) => {
    const start = at;
    at += node.nodeSize;
    if (at <= from) return;
    if (node.isText)
      builder.text((node.text as string).slice(Math.max(0, from - start)), setter.styleFor(node));
    else if (node.type.name === 'reference')
      builder.instead(setter.reference(node), setter.styleFor(node), node.nodeSize);
    else if (node.type.name === 'note') {
      const { mark, style } = setter.noteMark(node.attrs.ref as string);
      builder.noteCall(mark, node.attrs.ref as string, style);
    } else if (node.type.name === 'lineBreak') builder.lineBreak(Boolean(node.attrs.fitted));
  });
}
