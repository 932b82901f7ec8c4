/** Marks of the schema: what stretches of text are, and how they look. */
import type { MarkSpec } from 'prosemirror-model';

/** Attributes an element of ours bears, so that what is copied inside a book is pasted as it was. */
export const given = (el: HTMLElement, name: string): string => el.getAttribute(`data-${name}`) ?? '';
export const styleOf = (el: HTMLElement, name: string): string => el.style.getPropertyValue(name);

const weight = (value: string): false | null => (/^(bold(er)?|[6-9]\d{2})$/.test(value) ? null : false);

export const marks: Record<string, MarkSpec> = {
  /** To the web, to a place ("section" or "section#block"), or to a book in a shop by its ISBN. */
  link: {
    attrs: { kind: { default: 'web' }, target: { default: '' } },
    inclusive: false,
    parseDOM: [
      {
        tag: 'a[data-kind]',
        priority: 60,
        getAttrs: (el) => ({ kind: given(el, 'kind'), target: given(el, 'target') }),
      },
      {
        tag: 'a[href]',
        getAttrs: (el) => {
          const target = el.getAttribute('href') ?? '';
          return /^(https?|mailto):/i.test(target) && { kind: 'web', target };
        },
      },
    ],
    toDOM: (m) => [
      'a',
      {
        'data-kind': m.attrs.kind as string,
        'data-target': m.attrs.target as string,
        title: m.attrs.target as string,
      },
      0,
    ],
  },
  emphasis: {
    parseDOM: [
      { tag: 'em' },
      { tag: 'i', getAttrs: (el) => styleOf(el, 'font-style') !== 'normal' && null },
      { style: 'font-style=italic' },
      { style: 'font-style=oblique' },
    ],
    toDOM: () => ['em', 0],
  },
  strong: {
    parseDOM: [
      { tag: 'strong' },
      { tag: 'b', getAttrs: (el) => !/^(normal|[1-5]\d{2})$/.test(styleOf(el, 'font-weight')) && null },
      { style: 'font-weight', getAttrs: weight },
    ],
    toDOM: () => ['strong', 0],
  },
  smallCaps: {
    parseDOM: [
      { tag: 'span.small-caps' },
      { style: 'font-variant=small-caps' },
      { style: 'font-variant-caps=small-caps' },
    ],
    toDOM: () => ['span', { class: 'small-caps' }, 0],
  },
  super: {
    excludes: 'sub',
    parseDOM: [{ tag: 'sup' }, { style: 'vertical-align=super' }],
    toDOM: () => ['sup', 0],
  },
  sub: {
    excludes: 'super',
    parseDOM: [{ tag: 'sub' }, { style: 'vertical-align=sub' }],
    toDOM: () => ['sub', 0],
  },
  /** Kept as the manuscript has it; books mark emphasis with italics, which Tidy offers in its place. */
  underline: { parseDOM: [{ tag: 'u' }, { style: 'text-decoration=underline' }], toDOM: () => ['u', 0] },
  strike: { parseDOM: [{ tag: 's' }, { tag: 'strike' }, { tag: 'del' }], toDOM: () => ['s', 0] },
  monospaced: { parseDOM: [{ tag: 'code' }, { tag: 'tt' }, { tag: 'kbd' }], toDOM: () => ['code', 0] },
  language: {
    attrs: { tag: {} },
    parseDOM: [{ tag: 'span[lang]', getAttrs: (el) => ({ tag: el.getAttribute('lang') ?? '' }) }],
    toDOM: (m) => ['span', { lang: m.attrs.tag as string }, 0],
  },
  /** A formula's line of signs; ebooks show `mathml` in its place as long as the text is `words`. */
  formula: {
    attrs: { mathml: {}, words: {} },
    inclusive: false,
    parseDOM: [
      {
        tag: 'span.formula',
        getAttrs: (el) => ({ mathml: given(el, 'mathml'), words: given(el, 'words') }),
      },
    ],
    toDOM: (m) => [
      'span',
      { class: 'formula', 'data-mathml': m.attrs.mathml as string, 'data-words': m.attrs.words as string },
      0,
    ],
  },
  /** Text that the index points to; "tides: neap" is a sub-entry. */
  indexed: {
    attrs: { term: {} },
    excludes: '',
    inclusive: false,
    parseDOM: [{ tag: 'span.indexed', getAttrs: (el) => ({ term: given(el, 'term') }) }],
    toDOM: (m) => [
      'span',
      { class: 'indexed', 'data-term': m.attrs.term as string, title: m.attrs.term as string },
      0,
    ],
  },
};
