/** The package document in its source: items of the manifest and references of the spine, added, removed and moved. */
import { resolve } from '../package';
import { indentOf, withIndent, type Draft } from './draft';
import { attributeOf, elementsNamed, localName, valueOf, type Located } from './located';
import { attribute, idFrom, type Replacement } from './markup';

export interface PackageSource {
  path: string;
  text: string;
  elements: Located[];
  manifest: Located | undefined;
  spine: Located | undefined;
  /** Items by the path of their part. */
  items: Map<string, Located>;
  itemrefs: Located[];
}

export function packageSource(d: Draft): PackageSource {
  const { path } = d.package;
  const elements = d.elements(path);
  const manifest = elementsNamed(elements, 'manifest')[0];
  const spine = elementsNamed(elements, 'spine')[0];
  const items = new Map<string, Located>();
  for (const item of manifest?.children ?? []) {
    const to = resolve(path, valueOf(item, 'href') ?? '');
    if (localName(item.name) === 'item' && to) items.set(to.path, item);
  }
  const itemrefs = (spine?.children ?? []).filter((c) => localName(c.name) === 'itemref');
  return { path, text: d.text(path), elements, manifest, spine, items, itemrefs };
}

/** The prefix that elements of the package are written with, usually none. */
const prefixOf = ({ name }: Located): string => name.slice(0, name.length - localName(name).length);

/** Puts a line behind the last child of an element, or behind one of its children, indented as they are. */
export function lineWithin(text: string, parent: Located, line: string, behind?: Located): Replacement {
  const last = behind ?? parent.children.at(-1);
  if (last) return { from: last.to, to: last.to, with: `${indentOf(text, last)}${line}` };
  if (parent.inner.from === parent.open.from || text.slice(parent.open.from, parent.open.to).endsWith('/>')) {
    const open = text.slice(parent.open.from, parent.open.to).replace(/\s*\/>$/, '>');
    return { ...parent.open, with: `${open}\n${line}\n</${parent.name}>` };
  }
  return { from: parent.inner.to, to: parent.inner.to, with: `${indentOf(text, parent)}  ${line}` };
}

/** An id that nothing in the package has. */
export const freshId = ({ elements }: PackageSource, wanted: string): string => {
  const taken = new Set(elements.map((e) => valueOf(e, 'id')));
  return idFrom(wanted, 'part', (id) => taken.has(id));
};

/** Adds an item; answers its id. Nothing is done where there is no manifest. */
export function addItem(
  d: Draft,
  item: { href: string; type: string; properties?: string; wanted: string },
  behind?: Located,
): string {
  const s = packageSource(d);
  const id = freshId(s, item.wanted);
  if (!s.manifest) return id;
  const props = item.properties ? attribute('properties', item.properties) : '';
  const line = `<${prefixOf(s.manifest)}item${attribute('id', id)}${attribute('href', item.href)}${attribute('media-type', item.type)}${props}/>`;
  d.edit(s.path, [lineWithin(s.text, s.manifest, line, behind)]);
  return id;
}
/** Puts a document into the spine behind another, or at its end. */
export function addItemref(d: Draft, idref: string, behind?: string): void {
  const s = packageSource(d);
  if (!s.spine) return;
  const after = behind === undefined ? undefined : s.itemrefs.find((r) => valueOf(r, 'idref') === behind);
  const line = `<${prefixOf(s.spine)}itemref${attribute('idref', idref)}/>`;
  d.edit(s.path, [lineWithin(s.text, s.spine, line, after)]);
}
/** Takes a part out of manifest and spine, with what is said about it. */
export function removeItem(d: Draft, path: string): void {
  const s = packageSource(d);
  const item = s.items.get(path);
  if (!item) return;
  const id = valueOf(item, 'id') ?? '';
  const gone = [
    item,
    ...s.itemrefs.filter((r) => valueOf(r, 'idref') === id),
    ...s.elements.filter(
      (e) => localName(e.name) === 'meta' && id !== '' && valueOf(e, 'refines') === `#${id}`,
    ),
    ...s.elements.filter(
      (e) => localName(e.name) === 'meta' && valueOf(e, 'name') === 'cover' && valueOf(e, 'content') === id,
    ),
  ];
  d.edit(
    s.path,
    gone.map((e) => ({ ...withIndent(s.text, e), with: '' })),
  );
}

/** Sets an attribute of an element, adds it, or takes it away. */
export function attributeEdit(text: string, e: Located, name: string, value: string | null): Replacement[] {
  const a = attributeOf(e, name);
  if (value === null) return a ? [{ from: text.slice(0, a.from).trimEnd().length, to: a.to, with: '' }] : [];
  if (a) return [{ from: a.from, to: a.to, with: attribute(name, value).trim() }];
  const end = e.open.from + 1 + e.name.length;
  const last = e.attributes.at(-1)?.to ?? end;
  return [{ from: last, to: last, with: attribute(name, value) }];
}

/** Sets which of some properties an item has; others stay. */
export function setProperties(d: Draft, path: string, properties: Readonly<Record<string, boolean>>): void {
  const s = packageSource(d);
  const item = s.items.get(path);
  if (!item) return;
  const was = (valueOf(item, 'properties') ?? '').split(/\s+/).filter(Boolean);
  const now = [
    ...was.filter((p) => properties[p] ?? true),
    ...Object.keys(properties).filter((p) => properties[p] && !was.includes(p)),
  ];
  if (now.join(' ') !== was.join(' '))
    d.edit(s.path, attributeEdit(s.text, item, 'properties', now.length > 0 ? now.join(' ') : null));
}

/** What of EPUB 3.3 §5.6.2.2 can be seen in a document: `svg`, `mathml`, `scripted`. */
export function seenProperties(elements: readonly Located[]): Record<string, boolean> {
  const has = (name: string): boolean => elements.some((e) => localName(e.name) === name);
  return { svg: has('svg'), mathml: has('math'), scripted: has('script') };
}
