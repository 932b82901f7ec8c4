/**
 * The one ProseMirror schema. A section's content is a document of it, in the editor, in intake and in composition.
 *
 * Every block carries a stable `id`; a *place* is section + block id + character offset. A note stands in the text
 * as an inline atom whose `ref` names a `noteBody` at the end of the same section.
 */
import { Schema, type MarkSpec, type NodeSpec } from 'prosemirror-model';

const id = { id: { default: '' } };

const nodes: Record<string, NodeSpec> = {
  doc: { content: 'block+ noteBody*' },
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
    parseDOM: [{ tag: 'hr' }],
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
    parseDOM: [{ tag: 'p.line', priority: 60 }],
    toDOM: (n) => [
      'p',
      { class: 'line', 'data-id': n.attrs.id as string, 'data-indent': String(n.attrs.indent) },
      0,
    ],
  },
  list: {
    group: 'block',
    content: 'item+',
    attrs: { ...id, ordered: { default: false }, start: { default: 1 } },
    parseDOM: [{ tag: 'ul' }, { tag: 'ol', attrs: { ordered: true } }],
    toDOM: (n) => [n.attrs.ordered ? 'ol' : 'ul', { 'data-id': n.attrs.id as string }, 0],
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
      credit: { default: '' },
      width: { default: 100 },
    },
    parseDOM: [{ tag: 'figure' }],
    toDOM: (n) => [
      'figure',
      { 'data-id': n.attrs.id as string, 'data-picture': n.attrs.picture as string },
      ['figcaption', 0],
    ],
  },
  /** A displayed passage: centred, ranged right, or indented on both sides. */
  passage: {
    group: 'block',
    content: 'paragraph+',
    attrs: { ...id, align: { default: 'centre' } },
    parseDOM: [{ tag: 'div.passage' }],
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
  table: {
    group: 'block',
    content: 'row+',
    attrs: id,
    parseDOM: [{ tag: 'table' }],
    toDOM: (n) => ['table', { 'data-id': n.attrs.id as string }, ['tbody', 0]],
  },
  row: { content: 'cell+', attrs: id, parseDOM: [{ tag: 'tr' }], toDOM: () => ['tr', 0] },
  cell: {
    content: 'paragraph+',
    attrs: { ...id, head: { default: false } },
    parseDOM: [{ tag: 'td' }, { tag: 'th', attrs: { head: true } }],
    toDOM: (n) => [n.attrs.head ? 'th' : 'td', 0],
  },
  noteBody: {
    content: 'paragraph+',
    attrs: id,
    parseDOM: [{ tag: 'aside.note' }],
    toDOM: (n) => ['aside', { class: 'note', 'data-id': n.attrs.id as string }, 0],
  },
  text: { group: 'inline' },
  lineBreak: {
    group: 'inline',
    inline: true,
    selectable: false,
    parseDOM: [{ tag: 'br' }],
    toDOM: () => ['br'],
  },
  note: {
    group: 'inline',
    inline: true,
    atom: true,
    attrs: { ref: { default: '' } },
    parseDOM: [{ tag: 'sup.note-mark' }],
    toDOM: (n) => ['sup', { class: 'note-mark', 'data-ref': n.attrs.ref as string }, '*'],
  },
};

const marks: Record<string, MarkSpec> = {
  link: {
    attrs: { kind: { default: 'web' }, target: { default: '' } },
    inclusive: false,
    parseDOM: [
      { tag: 'a[href]', getAttrs: (el) => ({ kind: 'web', target: el.getAttribute('href') ?? '' }) },
    ],
    toDOM: (m) => ['a', { 'data-kind': m.attrs.kind as string, title: m.attrs.target as string }, 0],
  },
  emphasis: { parseDOM: [{ tag: 'em' }, { tag: 'i' }], toDOM: () => ['em', 0] },
  strong: { parseDOM: [{ tag: 'strong' }, { tag: 'b' }], toDOM: () => ['strong', 0] },
  smallCaps: { parseDOM: [{ tag: 'span.small-caps' }], toDOM: () => ['span', { class: 'small-caps' }, 0] },
  super: { excludes: 'sub', parseDOM: [{ tag: 'sup' }], toDOM: () => ['sup', 0] },
  sub: { excludes: 'super', parseDOM: [{ tag: 'sub' }], toDOM: () => ['sub', 0] },
  strike: { parseDOM: [{ tag: 's' }], toDOM: () => ['s', 0] },
  monospaced: { parseDOM: [{ tag: 'code' }], toDOM: () => ['code', 0] },
  language: { attrs: { tag: {} }, parseDOM: [], toDOM: (m) => ['span', { lang: m.attrs.tag as string }, 0] },
  indexed: {
    attrs: { term: {} },
    excludes: '',
    inclusive: false,
    toDOM: () => ['span', { class: 'indexed' }, 0],
  },
};

export const schema = new Schema({ nodes, marks });
