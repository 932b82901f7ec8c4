/** Parts of HTML that are read by themselves: formulas, rows and spans of tables, kinds of lists, places with a name. */
import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { ListNumbers } from '../../base';
import type { MathNode } from '../../book';
import { attribute, isElement, type ChildNode, type Element } from './html-notes';
import type { RawListPlace } from '../raw';

export const idOf = (e: Element): string =>
  attribute(e, 'id') || (e.tagName === 'a' ? attribute(e, 'name') : '');
export const anchorName = (path: string, id: string): string => `${path}#${id}`;

export const mathNode = (e: Element): MathNode => ({
  name: e.tagName,
  attrs: Object.fromEntries(e.attrs.map((a) => [a.name, a.value])),
  children: e.childNodes.flatMap((c): (MathNode | string)[] =>
    c.nodeName === '#text' ? [(c as Tree.TextNode).value] : isElement(c) ? [mathNode(c)] : [],
  ),
});
export const spanOf = (cell: Element, name: string): number =>
  Math.max(1, Math.min(100, Math.round(Number(attribute(cell, name))) || 1));

/** Rows of a table, without those of tables within it. */
export function* ownRows(table: Element): Generator<Element> {
  for (const n of table.childNodes) {
    if (!isElement(n)) continue;
    if (n.tagName === 'tr') yield n;
    else if (/^t(head|body|foot)$/.test(n.tagName)) yield* ownRows(n);
  }
}

export function trimmed(nodes: readonly ChildNode[]): ChildNode[] {
  const last = nodes.at(-1);
  if (last?.nodeName !== '#text') return [...nodes];
  return [
    ...nodes.slice(0, -1),
    { ...(last as Tree.TextNode), value: (last as Tree.TextNode).value.replace(/\n$/, '') },
  ];
}

/** What an `ol` or `ul` says of its items (HTML, §4.4.5). */
export function listOf(e: Element, ordered: boolean, level: number): RawListPlace {
  const numbers = { a: 'letters', i: 'roman' }[attribute(e, 'type').toLowerCase()] as ListNumbers | undefined;
  const start = Number(attribute(e, 'start'));
  return { level, ordered, ...(numbers ? { numbers } : {}), ...(start > 1 ? { start } : {}) };
}
