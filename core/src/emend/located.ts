/**
 * XML with the place of everything in its source, so that a part of it can be changed and all else kept as it was written.
 * The tree comes from a parser that goes on after faults; whether the text is well-formed is for `parseXml` to say.
 */
import type { SyntaxNodeRef } from '@lezer/common';
import { parser } from '@lezer/xml';
import { characterEntities } from 'character-entities';

export interface Span {
  from: number;
  to: number;
}
export interface LocatedAttribute extends Span {
  /** As written, with its prefix. */
  name: string;
  /** With its characters resolved. */
  value: string;
  /** Between the quotation marks. */
  inner: Span;
}
export interface Located extends Span {
  /** Its number in document order, from 0. */
  index: number;
  /** As written, with its prefix. */
  name: string;
  attributes: LocatedAttribute[];
  children: Located[];
  parent: Located | null;
  /** From `<` to `>`, of an empty element the whole. */
  open: Span;
  /** Between the tags; empty at the end of an element without content. */
  inner: Span;
}

/** All elements, in document order; the first is the root. */
export function locate(source: string): Located[] {
  const all: Located[] = [];
  let at: Located | null = null;
  let attribute: LocatedAttribute | null = null;
  const text = (n: SyntaxNodeRef): string => source.slice(n.from, n.to);
  parser.parse(source).iterate({
    enter(n) {
      switch (n.name) {
        case 'Element': {
          const span = { from: n.from, to: n.to };
          const element: Located = {
            ...span,
            index: all.length,
            name: '',
            attributes: [],
            children: [],
            parent: at,
            open: span,
            inner: { from: n.to, to: n.to },
          };
          at?.children.push(element);
          all.push(element);
          at = element;
          break;
        }
        case 'OpenTag':
          if (at) {
            at.open = { from: n.from, to: n.to };
            at.inner = { from: n.to, to: at.to };
          }
          break;
        case 'CloseTag':
          if (at) at.inner = { from: at.inner.from, to: n.from };
          break;
        case 'TagName':
          if (at && at.name === '') at.name = text(n);
          break;
        case 'Attribute':
          attribute = { from: n.from, to: n.to, name: '', value: '', inner: { from: n.to, to: n.to } };
          at?.attributes.push(attribute);
          break;
        case 'AttributeName':
          if (attribute) attribute.name = text(n);
          break;
        case 'AttributeValue':
          if (attribute) {
            attribute.inner = { from: n.from + 1, to: Math.max(n.from + 1, n.to - 1) };
            attribute.value = unescapeXml(source.slice(attribute.inner.from, attribute.inner.to));
          }
          break;
      }
    },
    leave(n) {
      if (n.name === 'Element') at = at?.parent ?? null;
    },
  });
  return all;
}

/** Local name, without prefix. */
export const localName = (name: string): string => name.slice(name.indexOf(':') + 1);
export const attributeOf = (e: Located, name: string): LocatedAttribute | undefined =>
  e.attributes.find((a) => a.name === name);
export const valueOf = (e: Located, name: string): string | undefined => attributeOf(e, name)?.value;
export const elementsNamed = (all: readonly Located[], local: string): Located[] =>
  all.filter((e) => localName(e.name) === local);
export const childNamed = (e: Located | undefined, local: string): Located | undefined =>
  e?.children.find((c) => localName(c.name) === local);
/** The element and all in it. */
export const within = (all: readonly Located[], e: Located): Located[] =>
  all.filter((x) => x.from >= e.from && x.to <= e.to);

/** The text of an element: its source without tags, comments and instructions, its characters resolved. */
export const textWithin = (source: string, { inner }: Located): string =>
  unescapeXml(
    source
      .slice(inner.from, inner.to)
      .replace(/<!--[\s\S]*?-->|<\?[\s\S]*?\?>|<[^>]*>/g, '')
      .replace(/\s+/g, ' '),
  ).trim();

/** Characters written as references (XML 1.0 §4.1), those of HTML's names too; what is none stays as it is. */
export const unescapeXml = (text: string): string =>
  text.replace(
    /&(?:#x([0-9a-f]+)|#(\d+)|([a-z][a-z0-9]*));/gi,
    (whole, hex, decimal, name: string | undefined) => {
      if (name) return characterEntities[name] ?? whole;
      const code = hex ? parseInt(String(hex), 16) : Number(decimal);
      return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
    },
  );

/** The line end that a source is written with. */
export const lineEndOf = (text: string): string => (text.includes('\r\n') ? '\r\n' : '\n');
