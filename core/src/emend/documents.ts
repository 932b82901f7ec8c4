/** Documents of the reading order: moved, added, removed, skipped. Links and the navigation follow. */
import { escapeXml, refused, type Outcome } from '../base';
import type { Emended } from './container';
import { inReadingOrder, without } from './contents';
import { Draft, withIndent, type Emendation } from './draft';
import { entriesOf, writeList, type ListName } from './lists';
import { elementsNamed, lineEndOf, localName, textWithin, valueOf } from './located';
import { nameFrom, openTag } from './markup';
import { attributeEdit, packageSource, removeItem } from './opf';
import { enter, isNavigation, keepInLine, notInOrder, pathsOf } from './spine';

const LISTS: ListName[] = ['contents', 'landmarks', 'pages'];

/** Moves a document before another, or to the end of the spine. The navigation follows where it was in reading order. */
export function moveDocument(e: Emended, path: string, next: string | null): Outcome<Emendation> {
  const d = new Draft(e);
  const before = pathsOf(d.package);
  const s = packageSource(d);
  const ref = s.itemrefs[before.indexOf(path)];
  const other = next === null ? undefined : s.itemrefs[before.indexOf(next)];
  if (!ref || (next !== null && !other)) return notInOrder;
  const last = s.itemrefs.at(-1) ?? ref;
  if (other === ref || (!other && last === ref) || s.itemrefs[s.itemrefs.indexOf(ref) + 1] === other)
    return d.done('Move a document', path);
  const from = withIndent(s.text, ref);
  const piece = s.text.slice(from.from, from.to);
  const place = other ? withIndent(s.text, other).from : last.to;
  d.edit(s.path, [
    { ...from, with: '' },
    { from: place, to: place, with: piece },
  ]);
  follow(d, before);
  return d.done('Move a document', path);
}
/** Puts the contents in the order of the spine (EPUB 3.3 §7.4.2.2), where they were so before. */
function follow(d: Draft, before: readonly string[]): void {
  const now = pathsOf(d.package);
  const entries = entriesOf(d, 'contents');
  const wanted = inReadingOrder(
    entries,
    (p) => before.indexOf(p),
    (p) => now.indexOf(p),
  );
  if (wanted.some((w, i) => w.from !== i)) writeList(d, 'contents', wanted);
}

/** Whether one comes to a document by turning pages, or by links alone (EPUB 3.3 §5.7.4). */
export function setLinear(e: Emended, path: string, linear: boolean): Outcome<Emendation> {
  const d = new Draft(e);
  const at = pathsOf(d.package).indexOf(path);
  const s = packageSource(d);
  const ref = s.itemrefs[at];
  if (at < 0 || !ref) return notInOrder;
  if (!linear && s.itemrefs.every((r) => r === ref || valueOf(r, 'linear') === 'no'))
    return refused('emend/last', 'It is the only document that readers come to by turning pages.');
  d.edit(s.path, attributeEdit(s.text, ref, 'linear', linear ? null : 'no'));
  return d.done(
    linear ? 'Put a document in the reading order' : 'Take a document out of the reading order',
    path,
  );
}

/** A new document behind another, with the same styles, a heading, and a place in the contents. */
export function addDocument(e: Emended, after: string, title: string): Outcome<Emendation> {
  const d = new Draft(e);
  const paths = pathsOf(d.package);
  if (!paths.includes(after)) return notInOrder;
  const words = title.trim();
  if (!words) return refused('emend/name', 'Give the new document a title.');
  const text = d.text(after);
  const elements = d.elements(after);
  const head = elementsNamed(elements, 'head')[0];
  const body = elementsNamed(elements, 'body')[0];
  if (!head || !body)
    return refused('emend/no-body', 'The document before it has no head and body to begin from.');
  const line = lineEndOf(text);
  const kept = head.children.filter((c) => /^(link|style|meta)$/.test(localName(c.name)));
  const pieces = kept.map((c) => withIndent(text, c)).map(({ from, to }) => text.slice(from, to));
  const made = [
    `${text.slice(0, head.inner.from)}${line}<title>${escapeXml(words)}</title>${pieces.join('')}`,
    '</head>',
    openTag(text, body, (n) => n === 'id'),
    `<h1>${escapeXml(words)}</h1>`,
    '<p></p>',
    '</body>',
    '</html>',
    '',
  ].join(line);
  const path = enter(d, `${nameFrom(words) || 'new'}.xhtml`, made, after);
  listBehind(d, paths, after, { label: words, path, fragment: '' });
  return d.done('Add a document', path);
}

/** Lists something in the contents behind the last entry that leads to `after` or a document before it. */
function listBehind(
  d: Draft,
  paths: readonly string[],
  after: string,
  entry: { label: string; path: string; fragment: string },
): void {
  const entries = entriesOf(d, 'contents');
  const place = paths.indexOf(after);
  let at = 0;
  entries.forEach((x, i) => {
    const own = paths.indexOf(x.path);
    if (own >= 0 && own <= place) at = i + 1;
  });
  const depth = entries[at]?.depth ?? 0;
  writeList(d, 'contents', [...entries.slice(0, at), { from: null, depth, ...entry }, ...entries.slice(at)]);
}

/** Takes a document out of the ebook. Entries that lead to it go; links to it become plain words. */
export function removeDocument(e: Emended, path: string): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  const paths = pathsOf(p);
  if (!paths.includes(path)) return notInOrder;
  if (isNavigation(p, path))
    return refused(
      'emend/nav',
      'This is the navigation, by which readers find their way. It can be taken out of the reading order, but not out of the ebook.',
    );
  if (paths.length === 1) return refused('emend/last', 'It is the only document of the ebook.');
  for (const list of LISTS) {
    const entries = entriesOf(d, list);
    const left = without(entries, (x) => x.path === path);
    if (left.length === entries.length) continue;
    // Contents that list nothing would be none.
    const other = paths.find((x) => x !== path) ?? '';
    if (list === 'contents' && left.length === 0)
      left.push({ from: null, label: titleOf(d, other), path: other, fragment: '', depth: 0 });
    writeList(d, list, left);
  }
  d.remove(path);
  removeItem(d, path);
  keepInLine(d);
  let links = 0;
  d.editReferences(({ in: where, path: to, element, attribute }) => {
    if (to !== path || !element) return [];
    const text = d.text(where);
    if (localName(element.name) === 'reference') return [{ ...withIndent(text, element), with: '' }];
    if (localName(element.name) !== 'a') return [];
    links++;
    return attributeEdit(text, element, attribute, null);
  });
  if (links > 0)
    d.notes.push(
      links === 1 ? '1 link to it became plain words.' : `${links} links to it became plain words.`,
    );
  return d.done('Remove a document', paths[paths.indexOf(path) + 1] ?? paths[paths.indexOf(path) - 1]);
}

/** What a document calls itself. */
const titleOf = (d: Draft, path: string): string => {
  const title = elementsNamed(d.elements(path), 'title')[0];
  return (title && textWithin(d.text(path), title)) || (path.split('/').at(-1) ?? path);
};
