/**
 * The one ProseMirror schema. A section's content is a document of it, in the editor, in intake and in composition.
 *
 * Every block carries a stable `id`; a *place* is section + block id + character offset. A note stands in the text
 * as an inline atom whose `ref` names a `noteBody` at the end of the same section.
 */
import { Schema, type Node, type NodeSpec } from 'prosemirror-model';
import type { ListNumbers } from '../base';
import { given, marks, styleOf } from './marks';
import { pictureNodes } from './picturepage';

const id = { id: { default: '' } };

/** Whether a list is one of terms and what they mean. */
export const isTerms = ({ attrs }: Node): boolean => attrs.terms === true && attrs.ordered !== true;
/** Types of lists in HTML (§4.4.5) and what they are called here. */
const LIST_NUMBERS: Record<string, ListNumbers> = { '1': 'figures', a: 'letters', i: 'roman' };
/** The attribute of an `ol` for these numbers; nothing for figures, which are its own. */
export const listType = (numbers: unknown): { type?: string } =>
  numbers === 'letters' ? { type: 'a' } : numbers === 'roman' ? { type: 'i' } : {};

const CELL_ALIGN: Record<string, string> = { center: 'centre', right: 'right', end: 'right' };
function cellAttrs(el: HTMLElement): Record<string, unknown> {
  const span = (name: string): number => Math.max(1, Math.min(100, Number(el.getAttribute(name)) || 1));
  const widths = given(el, 'colwidth').split(',').map(Number);
  return {
    colspan: span('colspan'),
    rowspan: span('rowspan'),
    colwidth: widths.length === span('colspan') && widths.every((w) => w > 0) ? widths : null,
    align: CELL_ALIGN[styleOf(el, 'text-align')] ?? 'left',
  };
}

const nodes: Record<string, NodeSpec> = {
  doc: { content: '(block+ noteBody*) | picturePage+' },
  paragraph: {
    group: 'block',
    content: 'inline*',
    attrs: id,
    parseDOM: [{ tag: 'p' }],
    toDOM: (n) => ['p', { 'data-id': n.attrs.id as string }, 0],
  },
  subhead: {
    group: 'block',
    content: 'inline*',
    attrs: { ...id, level: { default: 1 } },
    defining: true,
    parseDOM: [1, 2, 3].map((level) => ({ tag: `h${level + 1}`, attrs: { level } })),
    toDOM: (n) => [`h${Number(n.attrs.level) + 1}`, { 'data-id': n.attrs.id as string }, 0],
  },
  /** A break between passages: a blank line or the interior's ornament. */
  break: {
    group: 'block',
    attrs: { ...id, ornament: { default: true } },
    parseDOM: [{ tag: 'hr', getAttrs: (el) => ({ ornament: given(el, 'ornament') !== 'false' }) }],
    toDOM: (n) => ['hr', { 'data-id': n.attrs.id as string, 'data-ornament': String(n.attrs.ornament) }],
  },
  pageBreak: {
    group: 'block',
    attrs: id,
    parseDOM: [{ tag: 'div.page-break' }],
    toDOM: (n) => ['div', { class: 'page-break', 'data-id': n.attrs.id as string }],
  },
  quotation: {
    group: 'block',
    content: 'paragraph+ attribution?',
    attrs: id,
    parseDOM: [{ tag: 'blockquote' }],
    toDOM: (n) => ['blockquote', { 'data-id': n.attrs.id as string }, 0],
  },
  attribution: {
    content: 'inline*',
    attrs: id,
    parseDOM: [{ tag: 'p.attribution', priority: 60 }],
    toDOM: (n) => ['p', { class: 'attribution', 'data-id': n.attrs.id as string }, 0],
  },
  verse: {
    group: 'block',
    content: 'stanza+ attribution?',
    attrs: id,
    parseDOM: [{ tag: 'div.verse' }],
    toDOM: (n) => ['div', { class: 'verse', 'data-id': n.attrs.id as string }, 0],
  },
  stanza: {
    content: 'verseLine+',
    attrs: id,
    parseDOM: [{ tag: 'div.stanza' }],
    toDOM: (n) => ['div', { class: 'stanza', 'data-id': n.attrs.id as string }, 0],
  },
  verseLine: {
    content: 'inline*',
    attrs: { ...id, indent: { default: 0 } },
    parseDOM: [
      { tag: 'p.line', priority: 60, getAttrs: (el) => ({ indent: Number(given(el, 'indent')) || 0 }) },
    ],
    toDOM: (n) => [
      'p',
      { class: 'line', 'data-id': n.attrs.id as string, 'data-indent': String(n.attrs.indent) },
      0,
    ],
  },
  list: {
    group: 'block',
    content: 'item+',
    /**
     * `numbers` are those of an ordered list: figures, letters or roman. `terms`: each item's first paragraph is a term, and
     * those after it say what it means.
     */
    attrs: {
      ...id,
      ordered: { default: false },
      start: { default: 1 },
      numbers: { default: 'figures' },
      terms: { default: false },
    },
    parseDOM: [
      { tag: 'ul.terms', priority: 60, getAttrs: () => ({ terms: true }) },
      { tag: 'ul' },
      {
        tag: 'ol',
        getAttrs: (el) => ({
          ordered: true,
          start: Number(el.getAttribute('start')) || 1,
          numbers: LIST_NUMBERS[el.getAttribute('type')?.toLowerCase() ?? ''] ?? 'figures',
        }),
      },
    ],
    toDOM: (n) => [
      n.attrs.ordered ? 'ol' : 'ul',
      {
        'data-id': n.attrs.id as string,
        ...(n.attrs.ordered ? { start: n.attrs.start as number, ...listType(n.attrs.numbers) } : {}),
        ...(isTerms(n) ? { class: 'terms' } : {}),
      },
      0,
    ],
  },
  item: {
    content: 'paragraph (paragraph | list)*',
    attrs: id,
    parseDOM: [{ tag: 'li' }],
    toDOM: (n) => ['li', { 'data-id': n.attrs.id as string }, 0],
  },
  /** A picture with its caption as content. `width` is a share of the measure in hundredths. */
  figure: {
    group: 'block',
    content: 'inline*',
    attrs: {
      ...id,
      picture: { default: '' },
      alt: { default: '' },
      /** It says nothing that the text does not: readers who listen are not stopped by it. */
      decorative: { default: false },
      credit: { default: '' },
      width: { default: 100 },
      /** Where it stands: here, above the section's title, at a page's head or foot, on a page of its own, over a page's edges, over two pages. */
      place: { default: 'here' },
      /** The side on which it stands with text beside it; for pictures that stand here and are narrow. */
      beside: { default: 'none' },
      /** The outline it is cut to. */
      mask: { default: 'none' },
      /** A web address that it leads to. */
      link: { default: '' },
    },
    parseDOM: [
      {
        tag: 'figure',
        contentElement: 'figcaption',
        getAttrs: (el) => ({
          picture: given(el, 'picture'),
          alt: given(el, 'alt') || (el.querySelector('img')?.getAttribute('alt') ?? ''),
          decorative: given(el, 'decorative') === 'true',
          credit: given(el, 'credit'),
          width: Number(given(el, 'width')) || 100,
          place: given(el, 'place') || 'here',
          beside: given(el, 'beside') || 'none',
          mask: given(el, 'mask') || 'none',
          link: given(el, 'link'),
        }),
      },
    ],
    toDOM: ({ attrs: { id: own, ...more } }) => [
      'figure',
      {
        'data-id': own as string,
        ...Object.fromEntries(Object.entries(more).map(([name, v]) => [`data-${name}`, String(v)])),
      },
      ['figcaption', 0],
    ],
  },
  /** A displayed passage: centred, ranged right, or indented on both sides. */
  passage: {
    group: 'block',
    content: 'paragraph+',
    attrs: { ...id, align: { default: 'centre' } },
    parseDOM: [
      {
        tag: 'div.passage',
        getAttrs: (el) => ({
          align: ['right', 'inset'].find((a) => el.classList.contains(a)) ?? 'centre',
        }),
      },
    ],
    toDOM: (n) => [
      'div',
      { class: `passage ${n.attrs.align as string}`, 'data-id': n.attrs.id as string },
      0,
    ],
  },
  letter: {
    group: 'block',
    content: 'paragraph+',
    attrs: id,
    parseDOM: [{ tag: 'div.letter' }],
    toDOM: (n) => ['div', { class: 'letter', 'data-id': n.attrs.id as string }, 0],
  },
  monospace: {
    group: 'block',
    content: 'text*',
    marks: '',
    code: true,
    attrs: id,
    parseDOM: [{ tag: 'pre', preserveWhitespace: 'full' }],
    toDOM: (n) => ['pre', { 'data-id': n.attrs.id as string }, 0],
  },
  /** The caption of the table below it. */
  tableCaption: {
    group: 'block',
    content: 'inline*',
    attrs: id,
    defining: true,
    parseDOM: [{ tag: 'p.table-caption', priority: 60 }, { tag: 'caption' }],
    toDOM: (n) => ['p', { class: 'table-caption', 'data-id': n.attrs.id as string }, 0],
  },
  /** `tableRole` is what the table library knows nodes by. */
  table: {
    group: 'block',
    content: 'row+',
    attrs: id,
    tableRole: 'table',
    isolating: true,
    parseDOM: [{ tag: 'table' }],
    toDOM: (n) => ['table', { 'data-id': n.attrs.id as string }, ['tbody', 0]],
  },
  row: { content: 'cell+', attrs: id, tableRole: 'row', parseDOM: [{ tag: 'tr' }], toDOM: () => ['tr', 0] },
  cell: {
    content: '(paragraph | list | figure)+',
    attrs: {
      ...id,
      head: { default: false },
      colspan: { default: 1 },
      rowspan: { default: 1 },
      /** Widths of its columns against those of the others; null where none were set. */
      colwidth: { default: null },
      align: { default: 'left' },
    },
    tableRole: 'cell',
    isolating: true,
    parseDOM: [
      { tag: 'td', getAttrs: cellAttrs },
      { tag: 'th', getAttrs: (el) => ({ ...cellAttrs(el), head: true }) },
    ],
    toDOM: ({ attrs: { head, colspan, rowspan, colwidth, align } }) => [
      head ? 'th' : 'td',
      {
        ...(colspan === 1 ? {} : { colspan: colspan as number }),
        ...(rowspan === 1 ? {} : { rowspan: rowspan as number }),
        ...(colwidth ? { 'data-colwidth': (colwidth as number[]).join(',') } : {}),
        ...(align === 'left'
          ? {}
          : { style: `text-align: ${align === 'centre' ? 'center' : (align as string)}` }),
      },
      0,
    ],
  },
  ...pictureNodes,
  noteBody: {
    content: 'paragraph+',
    /** `foot` or `end`: where each stands is the edition's to say. */
    attrs: { ...id, kind: { default: 'foot' } },
    parseDOM: [
      {
        tag: 'aside.note',
        getAttrs: (el) => ({ id: given(el, 'id'), kind: given(el, 'kind') === 'end' ? 'end' : 'foot' }),
      },
    ],
    toDOM: (n) => [
      'aside',
      { class: 'note', 'data-id': n.attrs.id as string, 'data-kind': n.attrs.kind as string },
      0,
    ],
  },
  text: { group: 'inline' },
  /** A forced end of a line; a fitted one fills the measure, as the last line of a paragraph does not. */
  lineBreak: {
    group: 'inline',
    inline: true,
    selectable: false,
    attrs: { fitted: { default: false } },
    parseDOM: [{ tag: 'br', getAttrs: (el) => ({ fitted: given(el, 'fitted') === 'true' }) }],
    toDOM: (n) => ['br', n.attrs.fitted ? { 'data-fitted': 'true' } : {}],
  },
  note: {
    group: 'inline',
    inline: true,
    atom: true,
    attrs: { ref: { default: '' } },
    parseDOM: [{ tag: 'sup.note-mark', getAttrs: (el) => ({ ref: given(el, 'ref') }), priority: 60 }],
    toDOM: (n) => ['sup', { class: 'note-mark', 'data-ref': n.attrs.ref as string }, '*'],
  },
  /**
   * A reference to a place of the book ("section" or "section#block"). What it prints is worked out for each edition; its
   * `words` are what it said when it was put in, and what it says where its place is not carried.
   */
  reference: {
    group: 'inline',
    inline: true,
    atom: true,
    attrs: {
      target: { default: '' },
      shows: { default: 'label' },
      capital: { default: false },
      words: { default: '' },
    },
    leafText: (n) => n.attrs.words as string,
    parseDOM: [
      {
        tag: 'span.reference',
        priority: 60,
        getAttrs: (el) => ({
          target: given(el, 'target'),
          shows: given(el, 'shows') || 'label',
          capital: given(el, 'capital') === 'true',
          words: given(el, 'words'),
        }),
      },
    ],
    toDOM: ({ attrs }) => [
      'span',
      {
        class: 'reference',
        ...Object.fromEntries(Object.entries(attrs).map(([name, v]) => [`data-${name}`, String(v)])),
      },
      attrs.words as string,
    ],
  },
};

export const schema = new Schema({ nodes, marks });
