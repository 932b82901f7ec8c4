/**
 * What a manuscript file says, paragraph by paragraph, before anything is made of it: text with its marks, and what the
 * paragraph looks like. Every reader of a format ends here; recognition starts here and knows no format.
 */
import type { Mark, Node } from 'prosemirror-model';
import type { ListNumbers } from '../../base';
import { schema, type IndexSee, type NoteKind, type SectionKind } from '../../book';

/** A paragraph's place in a list: how deep, and how the list counts and from where, as far as the file says. */
export interface RawListPlace {
  level: number;
  ordered: boolean;
  numbers?: ListNumbers;
  start?: number;
  /** A list of terms, each with paragraphs that go on in its item and say what it means. */
  terms?: boolean;
  /** Goes on in the item of the paragraph before it. */
  goesOn?: boolean;
}
/** The place in a list of terms that a word processor's style of that name says; null for others. */
export function termsPlace(style: string): RawListPlace | null {
  if (/^(?:definition term|list heading)$/i.test(style)) return { level: 0, ordered: false, terms: true };
  return /^(?:definition|list contents)$/i.test(style)
    ? { level: 0, ordered: false, terms: true, goesOn: true }
    : null;
}

export interface RawParagraph {
  kind: 'paragraph';
  /** Inline content by the book's schema; empty for a paragraph that holds only pictures or nothing. */
  inline: Node[];
  text: string;
  pictures: RawPicture[];
  style: string;
  /** Outline level, 1 up, from the heading style or set directly; 0 for body text. */
  outline: number;
  breakBefore: boolean;
  align: 'left' | 'centre' | 'right' | 'justify';
  /** Points; 0 when not said. */
  size: number;
  bold: boolean;
  italic: boolean;
  /** Indented on the left by a twentieth of a point's count, as word processors store it. */
  indented: boolean;
  list: RawListPlace | null;
  monospace: boolean;
  language: string;
  /** The kind of section that the file itself says begins here; '' where it says nothing. */
  opens: SectionKind | '';
  /** Names by which links of the file point here. */
  anchors: string[];
}
/** How a cell lies in its table. */
export interface RawCell {
  colspan?: number;
  rowspan?: number;
  head?: boolean;
}
export interface RawTable {
  kind: 'table';
  rows: RawParagraph[][][];
  /** For each cell of each row how it lies; for none where the file says nothing. */
  cells?: RawCell[][];
}
export interface RawPicture {
  id: string;
  alt: string;
}
export type RawBlock = RawParagraph | RawTable;

/** A block's paragraphs; a table within a cell or a note gives those of its cells, in order. */
export const paragraphsOf = (b: RawBlock): RawParagraph[] => (b.kind === 'paragraph' ? [b] : b.rows.flat(2));

export const isText = (b: RawBlock | undefined): b is RawParagraph => b?.kind === 'paragraph';
/** A paragraph that shows nothing. */
export const isEmpty = (b: RawBlock | undefined): boolean =>
  isText(b) &&
  b.text.trim() === '' &&
  b.pictures.length === 0 &&
  !b.inline.some((n) => n.type.name === 'note');

export interface RawFile {
  id: string;
  name: string;
  bytes: Uint8Array;
}
export interface RawNote {
  id: string;
  /** `end` where the file says so, or has the note after all the text. */
  kind?: NoteKind;
  paragraphs: RawParagraph[];
}
/** A remark in the margin of the file. */
export interface RawComment {
  by: string;
  text: string;
  /** The words before which it stands. */
  at: string;
}
export interface RawManuscript {
  blocks: RawBlock[];
  notes: RawNote[];
  /** Of the kinds that a book carries, and of foreign ones that are still to be turned into such. */
  pictures: RawFile[];
  /** Id of the picture that the file names as its cover; '' for none. */
  cover: string;
  /** Document properties: title, author. */
  title: string;
  author: string;
  language: string;
  comments: RawComment[];
  /** Entries of the file's index that lead to others. */
  indexSee: IndexSee[];
  /** What was left out while reading: of which sort, and how often. */
  dropped: Record<string, number>;
  cautions: { rule: string; message: string }[];
}

/** A link to a place of the same file, by the name of its anchor; assembly turns it into a place of the book. */
export const linkToAnchor = (name: string): Mark =>
  schema.mark('link', { kind: 'place', target: `${ANCHOR}${name}` });
/** What begins the target of such a link. */
export const ANCHOR = '^';

export const rawParagraph = (more: Partial<RawParagraph> = {}): RawParagraph => ({
  kind: 'paragraph',
  inline: [],
  text: '',
  pictures: [],
  style: '',
  outline: 0,
  breakBefore: false,
  align: 'left',
  size: 0,
  bold: false,
  italic: false,
  indented: false,
  list: null,
  monospace: false,
  language: '',
  opens: '',
  ...more,
  anchors: [...(more.anchors ?? [])],
});

export const rawManuscript = (): RawManuscript => ({
  blocks: [],
  notes: [],
  pictures: [],
  cover: '',
  title: '',
  author: '',
  language: '',
  comments: [],
  indexSee: [],
  dropped: {},
  cautions: [],
});

/** Marks that nearly all letters of a paragraph carry are its looks: bold, italic, monospace. */
export function looksOf(p: RawParagraph): Pick<RawParagraph, 'bold' | 'italic' | 'monospace'> {
  let letters = 0;
  const carried: Record<string, number> = {};
  for (const n of p.inline) {
    // Letters of formulas are in italics whatever the text around them is.
    if (n.marks.some((m) => m.type.name === 'formula')) continue;
    const length = n.isText ? (n.text as string).trim().length : 0;
    letters += length;
    for (const m of n.marks) carried[m.type.name] = (carried[m.type.name] ?? 0) + length;
  }
  const most = (mark: string): boolean => letters > 0 && (carried[mark] ?? 0) >= letters * 0.9;
  // On a typewriter what stands out is underlined.
  return {
    bold: most('strong') || most('underline'),
    italic: most('emphasis'),
    monospace: most('monospaced'),
  };
}

/** A paragraph that stands apart from running text. */
export const isDisplayed = (b: Pick<RawParagraph, 'align' | 'style'>): boolean =>
  b.align === 'centre' || b.align === 'right' || /verse|poe|quot|letter/i.test(b.style);

/** Inline content without its first letters. */
export function withoutFirst(inline: RawParagraph['inline'], length: number): RawParagraph['inline'] {
  let left = length;
  return inline.flatMap((n) => {
    const text = n.isText ? (n.text as string) : '';
    const cut = Math.min(left, text.length);
    left -= cut;
    if (!n.isText) return [n];
    return cut < text.length ? [schema.text(text.slice(cut), n.marks)] : [];
  });
}

/** An entry for the index at the end of this inline content: on the last word of it, since the book indexes words. */
export function indexedAt(inline: readonly Node[], term: string): Node[] {
  const mark = schema.mark('indexed', { term });
  const at = inline.findLastIndex((n) => n.isText && /[\p{L}\p{N}]/u.test(n.text as string));
  const node = inline[at];
  if (!node) return [...inline];
  const text = node.text as string;
  // The word without the comma behind it.
  const m = /(?<![^\s\u2014(])[^\p{L}\p{N}\s]*([\p{L}\p{N}][^\s]*?)[^\p{L}\p{N}]*$/u.exec(text);
  const from = m ? m.index + m[0].indexOf(m[1] as string) : 0;
  const to = m ? from + (m[1] as string).length : text.trimEnd().length;
  const part = (a: number, b: number, marked: boolean): Node[] =>
    a < b ? [schema.text(text.slice(a, b), marked ? mark.addToSet(node.marks) : node.marks)] : [];
  return [
    ...inline.slice(0, at),
    ...part(0, from, false),
    ...part(from, to, true),
    ...part(to, text.length, false),
    ...inline.slice(at + 1),
  ];
}
