/** Documents of the reading order: moved, added, divided, joined, removed. Links and the navigation follow. */
import { escapeXml, refused, type Outcome } from '../base';
import { reference, type EpubPackage } from '../package';
import type { Emended } from './container';
import { entriesOf, inReadingOrder, without, writeList, type ListName } from './contents';
import { Draft, withIndent, type Emendation, type Replacement } from './draft';
import { elementsNamed, localName, textWithin, valueOf, type Located } from './located';
import { nameFrom, openTag, rewritten, unused } from './markup';
import {
  addItem,
  addItemref,
  attributeEdit,
  packageSource,
  removeItem,
  seenProperties,
  setProperties,
} from './opf';
import { referencesIn, referencesOf, type Reference } from './references';

const XHTML = 'application/xhtml+xml';
const LISTS: ListName[] = ['contents', 'landmarks', 'pages'];

const gone = refused('emend/gone', 'That document is no longer in the reading order.');
const pathsOf = (p: EpubPackage): string[] =>
  p.spine.map((s) => p.manifest.find((i) => i.id === s.idref)?.path ?? '');
const itemAt = (p: EpubPackage, path: string) => p.manifest.find((i) => i.path === path);

/** Moves a document before another, or to the end of the spine. The navigation follows where it was in reading order. */
export function moveDocument(e: Emended, path: string, next: string | null): Outcome<Emendation> {
  const d = new Draft(e);
  const before = pathsOf(d.package);
  const s = packageSource(d);
  const ref = s.itemrefs[before.indexOf(path)];
  const other = next === null ? undefined : s.itemrefs[before.indexOf(next)];
  if (!ref || (next !== null && !other)) return gone;
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
  if (at < 0 || !ref) return gone;
  d.edit(s.path, attributeEdit(s.text, ref, 'linear', linear ? null : 'no'));
  return d.done(
    linear ? 'Put a document in the reading order' : 'Take a document out of the reading order',
    path,
  );
}

/** A path beside another that no part has. */
function freshPath(d: Draft, beside: string, name: string): string {
  const folder = beside.slice(0, beside.lastIndexOf('/') + 1);
  const taken = new Set([...d.now.parts.keys()].map((p) => p.toLowerCase()));
  return unused(folder + name, (p) => taken.has(p.toLowerCase()));
}
/** Adds a document to container, manifest and spine. */
function enter(d: Draft, path: string, text: string, behind: string): void {
  const p = d.package;
  const before = itemAt(p, behind);
  d.add(path, { text }, behind);
  const item = packageSource(d).items.get(behind);
  const stem = (path.split('/').at(-1) ?? '').replace(/\.[^.]*$/, '');
  const seen = Object.entries(seenProperties(d.elements(path))).flatMap(([name, has]) => (has ? [name] : []));
  const properties = p.version.startsWith('2') ? '' : seen.join(' ');
  const id = addItem(d, { href: reference(p.path, { path }), type: XHTML, properties, wanted: stem }, item);
  addItemref(d, id, before?.id);
}

/** A new document behind another, with the same styles, a heading, and a place in the contents. */
export function addDocument(e: Emended, after: string, title: string): Outcome<Emendation> {
  const d = new Draft(e);
  const paths = pathsOf(d.package);
  if (!paths.includes(after)) return gone;
  const words = title.trim();
  if (!words) return refused('emend/name', 'Give the new document a title.');
  const text = d.text(after);
  const elements = d.elements(after);
  const head = elementsNamed(elements, 'head')[0];
  const body = elementsNamed(elements, 'body')[0];
  if (!head || !body)
    return refused('emend/no-body', 'The document before it has no head and body to begin from.');
  const titleElement = head.children.find((c) => localName(c.name) === 'title');
  const kept = head.children.filter((c) => /^(title|link|style|meta)$/.test(localName(c.name)));
  let top =
    text.slice(0, head.inner.from) + kept.map((c) => text.slice(...spanOf(withIndent(text, c)))).join('');
  if (titleElement)
    top = top.replace(text.slice(titleElement.from, titleElement.to), `<title>${escapeXml(words)}</title>`);
  const bodyTag = openTag(text, body, (n) => n === 'id');
  const made = `${top}\n</head>\n${bodyTag}\n<h1>${escapeXml(words)}</h1>\n<p></p>\n</body>\n</html>\n`;
  const path = freshPath(d, after, `${nameFrom(words) || 'new'}.xhtml`);
  enter(d, path, made, after);
  listBehind(d, paths, after, { label: words, path, fragment: '' });
  return d.done('Add a document', path);
}
const spanOf = (s: { from: number; to: number }): [number, number] => [s.from, s.to];

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
  const depth = Math.max(entries[at]?.depth ?? 0, Math.min(entries[at - 1]?.depth ?? 0, 0));
  writeList(d, 'contents', [...entries.slice(0, at), { from: null, depth, ...entry }, ...entries.slice(at)]);
}

/** Attributes that name one element, and must not be on two. */
const isPersonal = (name: string): boolean => /^(id|xml:id|aria-labelledby|aria-describedby)$/.test(name);

/** Divides a document before the element that begins at an offset of its source; what comes after gets a file of its own. */
export function divideDocument(e: Emended, path: string, at: number): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  if (!pathsOf(p).includes(path)) return gone;
  const text = d.text(path);
  const elements = d.elements(path);
  const body = elementsNamed(elements, 'body')[0];
  const first = elements.find((x) => x.from === at);
  if (!body || !first || first.from < body.inner.from || first.to > body.inner.to)
    return refused('emend/no-body', 'A document is divided before a passage of its text.');
  const around: Located[] = [];
  for (let x = first.parent; x && x !== body; x = x.parent) around.unshift(x);
  if (around.some((x) => /^(table|ul|ol|dl|tbody|tr|svg|math|p)$/.test(localName(x.name))))
    return refused(
      'emend/within',
      'A document can’t be divided within a list or a table. Point at a passage before or after it.',
    );
  if (
    !/\S/.test(
      text.slice(body.inner.from, at).replace(/<!--[\s\S]*?-->|<(?!img|svg|image|hr|video|audio)[^>]*>/g, ''),
    )
  )
    return refused('emend/first', 'Nothing comes before this passage, so there is nothing to divide.');
  const close = [...around]
    .reverse()
    .map((x) => `</${x.name}>`)
    .join('');
  const open = around.map((x) => openTag(text, x, isPersonal)).join('');
  const bodyTag = openTag(text, body, isPersonal);
  const rest = text.slice(at, body.inner.to);
  const heading = /^h[1-6]$/.test(localName(first.name)) ? textWithin(text, first) : '';
  let top = text.slice(0, body.open.from);
  const title = elementsNamed(elements, 'title')[0];
  if (heading && title) top = top.slice(0, title.inner.from) + escapeXml(heading) + top.slice(title.inner.to);
  const line = text.includes('\r\n') ? '\r\n' : '\n';
  const made = `${top}${bodyTag}${line}${open}${rest}${text.slice(body.inner.to)}`;
  const name = (path.split('/').at(-1) ?? '').replace(
    /(-\d+)?(\.[^.]*)?$/,
    (_, __, ending: string | undefined) => `-2${ending ?? '.xhtml'}`,
  );
  const other = freshPath(d, path, name);
  const moved = new Set(elements.filter((x) => x.from >= at).flatMap((x) => valueOf(x, 'id') ?? []));
  d.edit(path, [{ from: at, to: body.inner.to, with: `${close}${line}` }]);
  enter(d, other, made, path);
  const stays = new Set(d.elements(path).flatMap((x) => valueOf(x, 'id') ?? []));
  leadTo(d, (r) => {
    // Within the new file, what was left behind is reached in the old one; everywhere else, what has moved in the new one.
    if (r.in === other && r.path === other)
      return r.fragment !== '' && !moved.has(r.fragment) && stays.has(r.fragment)
        ? { path, fragment: r.fragment }
        : null;
    return r.path === path && moved.has(r.fragment) ? { path: other, fragment: r.fragment } : null;
  });
  restate(d, path);
  return d.done('Divide a document', other);
}
/** Says again what of the package’s properties can be seen in a document. */
function restate(d: Draft, path: string): void {
  if (!d.package.version.startsWith('2')) setProperties(d, path, seenProperties(d.elements(path)));
}

/** Writes references anew where `to` says that they lead elsewhere. */
function leadTo(d: Draft, to: (r: Reference) => { path: string; fragment: string } | null): void {
  const edits = new Map<string, Replacement[]>();
  for (const r of referencesOf(d.now, (p) => d.elements(p))) {
    const target = to(r);
    if (!target) continue;
    const from = r.in.startsWith('META-INF/') ? '' : r.in;
    edits.set(r.in, [...(edits.get(r.in) ?? []), rewritten(r, reference(from, target))]);
  }
  for (const [path, list] of edits) d.edit(path, list);
}

/** Joins the document that comes next to this one. Ids that both have are told apart, and links follow. */
export function joinDocuments(e: Emended, path: string): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  const paths = pathsOf(p);
  const next = paths[paths.indexOf(path) + 1];
  if (!paths.includes(path)) return gone;
  if (next === undefined) return refused('emend/last', 'No document comes after this one.');
  if (itemAt(p, next)?.properties.includes('nav'))
    return refused(
      'emend/nav',
      'The next document is the navigation, by which readers find their way. It stays on its own.',
    );
  const parts = [path, next].map((x) => ({ text: d.text(x), elements: d.elements(x) }));
  const [first, second] = parts as [(typeof parts)[0], (typeof parts)[0]];
  const bodies = parts.map((x) => elementsNamed(x.elements, 'body')[0]);
  const [body, nextBody] = bodies;
  if (!body || !nextBody || first.text.slice(body.open.from, body.open.to).endsWith('/>'))
    return refused('emend/no-body', 'Only documents of text can be joined.');
  const own = new Set(first.elements.flatMap((x) => valueOf(x, 'id') ?? []));
  const renamed = new Map<string, string>();
  const all = new Set([...own, ...second.elements.flatMap((x) => valueOf(x, 'id') ?? [])]);
  for (const x of second.elements) {
    const id = valueOf(x, 'id');
    if (id === undefined || !own.has(id) || x.from < nextBody.from) continue;
    const fresh = unused(id, (n) => all.has(n));
    all.add(fresh);
    renamed.set(id, fresh);
  }
  const start = unused(nameFrom((next.split('/').at(-1) ?? '').replace(/\.[^.]*$/, '')) || 'joined', (n) =>
    all.has(n),
  );
  const startId = /^[a-z]/.test(start) ? start : `d-${start}`;
  // Within the second document first, while it still has its own address.
  d.edit(next, [
    ...second.elements.flatMap((x) => {
      const fresh = renamed.get(valueOf(x, 'id') ?? '');
      return fresh && x.from >= nextBody.from ? attributeEdit(second.text, x, 'id', fresh) : [];
    }),
  ]);
  labelsFollow(d, next, renamed);
  const refs = referencesIn(next, d.text(next), () => d.elements(next));
  d.edit(
    next,
    refs.flatMap((r) => {
      const fragment = r.path === next ? (renamed.get(r.fragment) ?? (r.fragment || startId)) : r.fragment;
      const target = { path: r.path === next ? path : r.path, fragment };
      const now = reference(path, target);
      return now === reference(next, r) ? [] : [rewritten(r, now)];
    }),
  );
  leadTo(d, (r) =>
    r.path === next && r.in !== next && !isItem(r)
      ? { path, fragment: renamed.get(r.fragment) ?? (r.fragment || startId) }
      : null,
  );
  const text = d.text(next);
  const elements = d.elements(next);
  const from = elementsNamed(elements, 'body')[0] ?? nextBody;
  const html = elements[0];
  const rootNames = new Set(d.elements(path)[0]?.attributes.map((a) => a.name));
  const carried = (html?.attributes ?? [])
    .filter((a) =>
      a.name.startsWith('xmlns:')
        ? !rootNames.has(a.name)
        : /^(xml:)?lang$/.test(a.name) && a.value !== valueOf(first.elements[0] as Located, a.name),
    )
    .map((a) => ` ${text.slice(a.from, a.to)}`)
    .join('');
  const bodyAttributes = from.attributes
    .filter((a) => a.name !== 'id')
    .map((a) => ` ${text.slice(a.from, a.to)}`)
    .join('');
  const wrapper = p.version.startsWith('2') ? 'div' : 'section';
  const piece = `<${wrapper} id="${startId}"${bodyAttributes}${carried}>${text.slice(from.inner.from, from.inner.to)}</${wrapper}>\n`;
  const now = elementsNamed(d.elements(path), 'body')[0] ?? body;
  const head = elementsNamed(d.elements(path), 'head')[0];
  d.edit(path, [
    { from: now.inner.to, to: now.inner.to, with: piece },
    ...(head ? stylesMissing(d, path, next, head) : []),
  ]);
  const bodyId = valueOf(from, 'id');
  d.remove(next);
  removeItem(d, next);
  if (bodyId)
    leadTo(d, (r) =>
      r.path === path && r.fragment === bodyId && !own.has(bodyId) ? { path, fragment: startId } : null,
    );
  restate(d, path);
  return d.done('Join two documents', path);
}
/** The manifest lists a part; it does not lead to it. */
const isItem = ({ element }: Reference): boolean => element !== null && localName(element.name) === 'item';
/** Attributes by which one element names others of its document (WAI-ARIA 1.2, HTML). */
function labelsFollow(d: Draft, path: string, renamed: ReadonlyMap<string, string>): void {
  d.edit(
    path,
    d.elements(path).flatMap((x) =>
      x.attributes.flatMap((a) =>
        /^(aria-labelledby|aria-describedby|aria-details|aria-controls|aria-owns|for|headers)$/.test(
          a.name,
        ) && a.value.split(/\s+/).some((id) => renamed.has(id))
          ? [
              {
                ...a.inner,
                with: a.value
                  .split(/\s+/)
                  .map((id) => renamed.get(id) ?? id)
                  .join(' '),
              },
            ]
          : [],
      ),
    ),
  );
}
/** Style sheets of the second document’s head that the first lacks. */
function stylesMissing(d: Draft, path: string, next: string, head: Located): Replacement[] {
  const sheets = (of: string): Map<string, string> =>
    new Map(
      d.elements(of).flatMap((x) => {
        const name = localName(x.name);
        const source = d.text(of).slice(x.from, x.to);
        if (name === 'link') return [[valueOf(x, 'href') ?? '', source] as const];
        return name === 'style' ? [[source, source] as const] : [];
      }),
    );
  const own = sheets(path);
  const missing = [...sheets(next)].filter(([key]) => !own.has(key)).map(([, source]) => `${source}\n`);
  return missing.length > 0 ? [{ from: head.inner.to, to: head.inner.to, with: missing.join('') }] : [];
}

/** Takes a document out of the ebook. Entries that lead to it go; links to it become plain words. */
export function removeDocument(e: Emended, path: string): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  const paths = pathsOf(p);
  if (!paths.includes(path)) return gone;
  if (itemAt(p, path)?.properties.includes('nav'))
    return refused(
      'emend/nav',
      'This is the navigation, by which readers find their way. It can be taken out of the reading order, but not out of the ebook.',
    );
  if (paths.length === 1) return refused('emend/last', 'It is the only document of the ebook.');
  for (const list of LISTS) {
    const entries = entriesOf(d, list);
    const left = without(entries, (x) => x.path === path);
    // Contents that list nothing would be none.
    const other = paths.find((x) => x !== path) ?? '';
    if (list === 'contents' && left.length === 0)
      left.push({ from: null, label: titleOf(d, other), path: other, fragment: '', depth: 0 });
    if (left.length < entries.length || list === 'contents') writeList(d, list, left);
  }
  d.remove(path);
  removeItem(d, path);
  let links = 0;
  const edits = new Map<string, Replacement[]>();
  for (const r of referencesOf(d.now, (x) => d.elements(x))) {
    if (r.path !== path || !r.element) continue;
    const text = d.text(r.in);
    const name = localName(r.element.name);
    const list = edits.get(r.in) ?? [];
    if (name === 'a') {
      links++;
      list.push(...attributeEdit(text, r.element, r.attribute, null));
    } else if (name === 'reference') list.push({ ...withIndent(text, r.element), with: '' });
    edits.set(r.in, list);
  }
  for (const [where, list] of edits) d.edit(where, list);
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
