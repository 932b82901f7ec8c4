/**
 * Everything in a container that leads from one part to another: links, pictures, style sheets, the manifest, the
 * navigation, overlays, and addresses in CSS.
 */
import * as csstree from 'css-tree';
import { resolve } from '../package';
import { textOfPart, type Emended } from './container';
import { localName, type Located, type LocatedAttribute, type Span } from './located';

export interface Reference extends Span {
  /** The part that it stands in. */
  in: string;
  /** Where it leads. */
  path: string;
  fragment: string;
  /** How it is written anew: an attribute’s value, or an address in CSS. */
  sort: 'attribute' | 'css';
  /** The element that it stands in; null in a style sheet. */
  element: Located | null;
  attribute: string;
}

/** Attributes whose value is one address (HTML, SVG 1.1, EPUB 3.3, SMIL 3.0, OPF, NCX). */
const ADDRESSES = new Set([
  'href',
  'xlink:href',
  'src',
  'poster',
  'data',
  'altimg',
  'longdesc',
  'textref',
  'epub:textref',
]);

const isXml = (path: string, text: string): boolean =>
  !/\.(css|js|json|txt)$/i.test(path) && /^\s*<[!?a-z]/i.test(text.slice(0, 200));
const isCss = (path: string): boolean => /\.css$/i.test(path);

/** What addresses in a part are seen from: those about the container itself from its root (OCF §4.2.6). */
export const baseOf = (path: string): string => (path.startsWith('META-INF/') ? '' : path);

/** References of one part. */
export function referencesIn(path: string, text: string, elements: () => readonly Located[]): Reference[] {
  if (isCss(path)) return inCss(path, text, 0);
  if (!isXml(path, text)) return [];
  const found: Reference[] = [];
  const from = baseOf(path);
  for (const e of elements()) {
    for (const a of e.attributes) {
      const put = (value: string, span: Span): void => {
        const to = resolve(from, value);
        if (to?.path)
          found.push({ in: path, ...span, ...to, sort: 'attribute', element: e, attribute: a.name });
      };
      if (a.name === 'srcset') for (const c of candidates(a, text)) put(c.value, c.span);
      else if (a.name === 'style')
        found.push(
          ...inCss(path, text.slice(a.inner.from, a.inner.to), a.inner.from, 'declarationList').map((r) => ({
            ...r,
            element: e,
          })),
        );
      else if (isAddress(e, a)) put(a.value.trim(), a.inner);
    }
    if (localName(e.name) === 'style')
      found.push(
        ...inCss(path, text.slice(e.inner.from, e.inner.to), e.inner.from).map((r) => ({ ...r, element: e })),
      );
  }
  return found;
}
const isAddress = (e: Located, a: LocatedAttribute): boolean =>
  ADDRESSES.has(a.name) ||
  (a.name === 'full-path' && localName(e.name) === 'rootfile') ||
  (a.name === 'URI' && localName(e.name) === 'CipherReference');

/** Addresses of a `srcset` (HTML §4.8.4.2.1). */
function candidates({ inner }: LocatedAttribute, text: string): { value: string; span: Span }[] {
  const value = text.slice(inner.from, inner.to);
  return [...value.matchAll(/(?:^|,)\s*([^\s,]+)/g)].map((m) => {
    const address = m[1] ?? '';
    const from = inner.from + m.index + m[0].length - address.length;
    return { value: address, span: { from, to: from + address.length } };
  });
}

/** `url()` and `@import` (CSS Syntax 3). A sheet that cannot be read has none. */
function inCss(
  path: string,
  css: string,
  offset: number,
  context: 'stylesheet' | 'declarationList' = 'stylesheet',
): Reference[] {
  const found: Reference[] = [];
  const put = (value: string, node: csstree.CssNode): void => {
    const to = resolve(path, value);
    if (!to || !node.loc) return;
    const span = { from: offset + node.loc.start.offset, to: offset + node.loc.end.offset };
    found.push({ in: path, ...span, ...to, sort: 'css', element: null, attribute: '' });
  };
  try {
    const tree = csstree.parse(css, { context, positions: true, parseCustomProperty: true });
    csstree.walk(tree, (node) => {
      if (node.type === 'Url') put(node.value, node);
      if (
        node.type === 'Atrule' &&
        node.name.toLowerCase() === 'import' &&
        node.prelude?.type === 'AtrulePrelude'
      ) {
        const first = node.prelude.children.first;
        if (first?.type === 'String') put(first.value, first);
      }
    });
  } catch {
    return [];
  }
  return found;
}

/** All references of the container. `elements`: those of a part as it is now. */
export function referencesOf(e: Emended, elements: (path: string) => readonly Located[]): Reference[] {
  return [...e.parts.keys()].flatMap((path) => {
    if (REFERS_TO_NOTHING.test(path)) return [];
    const text = textOfPart(e, path);
    return text === null ? [] : referencesIn(path, text, () => elements(path));
  });
}
const REFERS_TO_NOTHING = /^mimetype$|\.(png|jpe?g|gif|webp|ttf|otf|woff2?|mp[34]|m4[av]|ogg|opus|js|txt)$/i;
