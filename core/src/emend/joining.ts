/** A document divided into two, and two joined into one. Ids and links keep leading where they led. */
import { escapeXml, refused, type Outcome } from '../base';
import { reference } from '../package';
import type { Emended } from './container';
import { Draft, type Emendation } from './draft';
import { elementsNamed, lineEndOf, localName, textWithin, valueOf, type Located } from './located';
import { idFrom, openTag, rewritten, unused, type Replacement } from './markup';
import { attributeEdit, removeItem } from './opf';
import { referencesIn, type Reference } from './references';
import { enter, isFixed, isNavigation, keepInLine, notInOrder, pathsOf, restate } from './spine';

/** Attributes that name one element, and must not be on two. */
const isPersonal = (name: string): boolean => /^(id|xml:id|aria-labelledby|aria-describedby)$/.test(name);
/** Elements whose parts can’t stand in two documents. */
const WHOLE = /^(table|ul|ol|dl|tbody|tr|svg|math|p)$/;
const idsIn = (elements: readonly Located[]): Set<string> =>
  new Set(elements.flatMap((x) => valueOf(x, 'id') ?? []));

/** Divides a document before the element that begins at an offset of its source; what comes after gets a file of its own. */
export function divideDocument(e: Emended, path: string, at: number): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  if (!pathsOf(p).includes(path)) return notInOrder;
  if (isFixed(p, path)) return refused('emend/fixed', 'A page of a fixed size can’t be divided.');
  const text = d.text(path);
  const elements = d.elements(path);
  const body = elementsNamed(elements, 'body')[0];
  const first = elements.find((x) => x.from === at);
  if (!body || !first || first.from < body.inner.from || first.to > body.inner.to)
    return refused('emend/no-body', 'A document is divided before a passage of its text.');
  const around: Located[] = [];
  for (let x = first.parent; x && x !== body; x = x.parent) around.unshift(x);
  if (around.some((x) => WHOLE.test(localName(x.name))))
    return refused(
      'emend/within',
      'A document can’t be divided within a list or a table. Point at a passage before or after it.',
    );
  const before = text.slice(body.inner.from, at).replace(/<!--[\s\S]*?-->/g, '');
  if (!/\S/.test(before.replace(/<(?!img|svg|image|hr|video|audio)[^>]*>/g, '')))
    return refused('emend/first', 'Nothing comes before this passage, so there is nothing to divide.');
  const close = [...around].reverse().map((x) => `</${x.name}>`);
  const open = around.map((x) => openTag(text, x, isPersonal));
  const line = lineEndOf(text);
  const top = headFor(text, elements, body, first);
  const rest = text.slice(at, body.inner.to);
  const made = `${top}${openTag(text, body, isPersonal)}${line}${open.join('')}${rest}${text.slice(body.inner.to)}`;
  const name = (path.split('/').at(-1) ?? '').replace(
    /(-\d+)?(\.[^.]*)?$/,
    (_, __, ending: string | undefined) => `-2${ending ?? '.xhtml'}`,
  );
  const moved = idsIn(elements.filter((x) => x.from >= at));
  d.edit(path, [{ from: at, to: body.inner.to, with: `${close.join('')}${line}` }]);
  const other = enter(d, name, made, path);
  const stays = idsIn(d.elements(path));
  d.lead((r) => {
    // Within the new file, what was left behind is reached in the old one; everywhere else, what has moved in the new one.
    if (r.in === other && r.path === other)
      return !moved.has(r.fragment) && stays.has(r.fragment) ? { path, fragment: r.fragment } : null;
    return r.path === path && moved.has(r.fragment) ? { path: other, fragment: r.fragment } : null;
  });
  restate(d, path);
  return d.done('Divide a document', other);
}
/** What comes before the body of the second half: the same, but that a heading it begins with is its title. */
function headFor(text: string, elements: readonly Located[], body: Located, first: Located): string {
  const top = text.slice(0, body.open.from);
  const heading = /^h[1-6]$/.test(localName(first.name)) ? textWithin(text, first) : '';
  const title = elementsNamed(elements, 'title')[0];
  return heading && title
    ? top.slice(0, title.inner.from) + escapeXml(heading) + top.slice(title.inner.to)
    : top;
}

/** Joins the document that comes next to this one. Ids that both have are told apart. */
export function joinDocuments(e: Emended, path: string): Outcome<Emendation> {
  const d = new Draft(e);
  const p = d.package;
  const paths = pathsOf(p);
  const next = paths[paths.indexOf(path) + 1];
  if (!paths.includes(path)) return notInOrder;
  if (next === undefined) return refused('emend/last', 'No document comes after this one.');
  if (isNavigation(p, path) || isNavigation(p, next))
    return refused(
      'emend/nav',
      'One of the two is the navigation, by which readers find their way. It stays on its own.',
    );
  if (isFixed(p, path) || isFixed(p, next))
    return refused('emend/fixed', 'Pages of a fixed size can’t be joined.');
  const body = elementsNamed(d.elements(path), 'body')[0];
  const nextBody = elementsNamed(d.elements(next), 'body')[0];
  if (!body || !nextBody || d.text(path).slice(body.open.from, body.open.to).endsWith('/>'))
    return refused('emend/no-body', 'Only documents of text can be joined.');
  const { renamed, start } = idsApart(d, path, next, nextBody);
  const led = (fragment: string): string => renamed.get(fragment) ?? (fragment || start);
  // Within the second document first, while it still has its own address.
  const refs = referencesIn(next, d.text(next), () => d.elements(next));
  d.edit(
    next,
    refs.flatMap((r) => {
      const inside = r.path === next;
      const now = reference(path, {
        path: inside ? path : r.path,
        fragment: inside ? led(r.fragment) : r.fragment,
      });
      return now === reference(next, r) ? [] : [rewritten(r, now)];
    }),
  );
  d.lead((r) =>
    r.path === next && r.in !== next && !isItem(r) ? { path, fragment: led(r.fragment) } : null,
  );
  const from = elementsNamed(d.elements(next), 'body')[0] ?? nextBody;
  const now = elementsNamed(d.elements(path), 'body')[0] ?? body;
  const head = elementsNamed(d.elements(path), 'head')[0];
  d.edit(path, [
    { from: now.inner.to, to: now.inner.to, with: wrapped(d, path, next, from, start) },
    ...(head ? stylesMissing(d, path, next, head) : []),
  ]);
  const bodyId = valueOf(from, 'id');
  d.remove(next);
  removeItem(d, next);
  keepInLine(d);
  if (bodyId !== undefined)
    d.lead((r) => (r.path === path && r.fragment === bodyId ? { path, fragment: start } : null));
  restate(d, path);
  return d.done('Join two documents', path);
}
/** The manifest lists a part; it does not lead to it. */
const isItem = ({ element }: Reference): boolean => element !== null && localName(element.name) === 'item';

/** Gives ids of the second document that the first has too another name; and a name to the place where it begins. */
function idsApart(
  d: Draft,
  path: string,
  next: string,
  nextBody: Located,
): { renamed: Map<string, string>; start: string } {
  const own = idsIn(d.elements(path));
  const second = d.elements(next);
  const all = new Set([...own, ...idsIn(second)]);
  const taken = (id: string): boolean => all.has(id);
  const renamed = new Map<string, string>();
  for (const x of second) {
    const id = valueOf(x, 'id');
    if (id === undefined || !own.has(id) || x.from < nextBody.from) continue;
    const fresh = unused(id, taken);
    all.add(fresh);
    renamed.set(id, fresh);
  }
  const text = d.text(next);
  d.edit(
    next,
    second.flatMap((x) => {
      const fresh = renamed.get(valueOf(x, 'id') ?? '');
      return fresh !== undefined && x.from >= nextBody.from ? attributeEdit(text, x, 'id', fresh) : [];
    }),
  );
  d.edit(
    next,
    d.elements(next).flatMap((x) =>
      x.attributes.flatMap((a): Replacement[] => {
        const ids = NAMING_OTHERS.test(a.name) ? a.value.split(/\s+/) : [];
        return ids.some((id) => renamed.has(id))
          ? [{ ...a.inner, with: ids.map((id) => renamed.get(id) ?? id).join(' ') }]
          : [];
      }),
    ),
  );
  const file = (next.split('/').at(-1) ?? '').replace(/\.[^.]*$/, '');
  return { renamed, start: idFrom(file, 'joined', taken) };
}
/** Attributes by which one element names others of its document (WAI-ARIA 1.2, HTML). */
const NAMING_OTHERS = /^(aria-(labelledby|describedby|details|controls|owns)|for|headers)$/;

/** The body of the second document as an element of the first, with what was said of it on its body and its root. */
function wrapped(d: Draft, path: string, next: string, body: Located, start: string): string {
  const text = d.text(next);
  const [root] = d.elements(path);
  const own = body.attributes.filter((a) => a.name !== 'id');
  const carried = (d.elements(next)[0]?.attributes ?? []).filter((a) => {
    if (own.some((b) => b.name === a.name)) return false;
    const same = root && valueOf(root, a.name) === a.value;
    return /^(xmlns:.*|(xml:)?lang)$/.test(a.name) && !same;
  });
  const attributes = [...own, ...carried].map((a) => ` ${text.slice(a.from, a.to)}`).join('');
  const name = d.package.version.startsWith('2') ? 'div' : 'section';
  const line = lineEndOf(d.text(path));
  return `<${name} id="${start}"${attributes}>${text.slice(body.inner.from, body.inner.to)}</${name}>${line}`;
}

/** Style sheets of the second document’s head that the first lacks. */
function stylesMissing(d: Draft, path: string, next: string, head: Located): Replacement[] {
  const sheets = (of: string): Map<string, string> =>
    new Map(
      d.elements(of).flatMap((x) => {
        const source = d.text(of).slice(x.from, x.to);
        if (localName(x.name) === 'link') return [[valueOf(x, 'href') ?? '', source] as const];
        return localName(x.name) === 'style' ? [[source, source] as const] : [];
      }),
    );
  const own = sheets(path);
  const missing = [...sheets(next)].filter(([key]) => !own.has(key)).map(([, source]) => `${source}\n`);
  return missing.length > 0 ? [{ from: head.inner.to, to: head.inner.to, with: missing.join('') }] : [];
}
