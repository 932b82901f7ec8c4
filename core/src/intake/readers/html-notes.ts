/**
 * Notes in HTML: a link in the text that calls one, and the element it points to. Told by what they say they are
 * (EPUB Structural Semantics, DPUB-ARIA), and failing that by a short mark that links to where a link leads back.
 */
import type { DefaultTreeAdapterTypes as Tree } from 'parse5';

export type Element = Tree.Element;
export type ChildNode = Tree.ChildNode;

export const attribute = (e: Element, name: string): string =>
  e.attrs.find((a) => (a.prefix ? `${a.prefix}:${a.name}` : a.name) === name)?.value ?? '';
export const isElement = (n: ChildNode): n is Element => 'tagName' in n;
export function textIn(n: ChildNode): string {
  if (n.nodeName === '#text') return (n as Tree.TextNode).value;
  return 'childNodes' in n ? n.childNodes.map(textIn).join('') : '';
}
export function* elementsOf(root: { childNodes: ChildNode[] }): Generator<Element> {
  for (const n of root.childNodes)
    if (isElement(n)) {
      yield n;
      yield* elementsOf(n);
    }
}

const says = (e: Element, what: RegExp): boolean =>
  what.test(attribute(e, 'epub:type')) || what.test(attribute(e, 'role'));
const isNoteBody = (e: Element): boolean =>
  says(e, /(^|\s)((doc-)?(foot|end|rear)note)(\s|$)/) ||
  /(^|\s)footnote-body(\s|$)/.test(attribute(e, 'class'));
/** A note that is said to be an endnote, or that stands among such. */
export function isEndnote(e: Element): boolean {
  for (let x: Element | null = e; x; x = above(x))
    if (says(x, /(^|\s)(doc-)?(end|rear)notes?(\s|$)/)) return true;
  return false;
}
const isCall = (e: Element): boolean => says(e, /noteref/);
const MARK = /^[\s[(]*(\d{1,4}|[*\u2020\u2021\u00a7]{1,3}|[a-z])[\s\])]*$/i;

export interface NotesFound {
  /** Links that call a note, with its id. */
  calls: Map<Element, string>;
  /** Elements that hold a note, with its id: they are not text of the page. */
  bodies: Map<Element, string>;
}

/**
 * Adds what a page calls and holds to what was found on the pages before it: a link in a note that was called on an
 * earlier page leads back, and calls nothing. `nameOf` makes a note's id from the element that holds it.
 */
export function findNotes(
  root: { childNodes: ChildNode[] },
  targetOf: (href: string) => Element | null,
  nameOf: (target: Element) => string,
  { calls, bodies }: NotesFound,
): void {
  for (const a of elementsOf(root)) {
    if (a.tagName !== 'a' || holds(a, bodies)) continue;
    const href = attribute(a, 'href');
    const target = href ? targetOf(href) : null;
    if (!target) continue;
    const body = holderOf(target);
    if (
      isCall(a) ||
      isNoteBody(body) ||
      (MARK.test(textIn(a)) && leadsBack(body, a) && !holdsHeading(body))
    ) {
      if (holds(a, new Map([[body, '']]))) continue;
      const id = nameOf(body);
      calls.set(a, id);
      bodies.set(body, id);
      for (const e of bodyBeside(body)) bodies.set(e, id);
    }
  }
}

/** The list item, aside or paragraph that a note's anchor stands in. */
function holderOf(target: Element): Element {
  let e: Element | null = target;
  while (e && !/^(li|aside|p|div|section|dd|dt|td)$/.test(e.tagName)) e = above(e);
  let holder = e ?? target;
  // What begins a list item, an aside or a box is that one's note, with all its paragraphs.
  for (let up = above(holder); up && isBox(up) && firstIn(up) === holder; up = above(holder)) holder = up;
  return holder;
}
const above = (e: Element): Element | null =>
  e.parentNode && 'tagName' in e.parentNode ? e.parentNode : null;
const firstIn = (e: Element): Element | undefined => e.childNodes.find(isElement);
/** What may hold a note of several paragraphs: not what holds one note after another, or a whole page. */
function isBox(e: Element): boolean {
  if (/^(li|aside|dd)$/.test(e.tagName)) return true;
  if (e.tagName !== 'div' || holdsHeading(e)) return false;
  let marks = 0;
  for (const x of elementsOf(e)) if (x.tagName === 'a' && MARK.test(textIn(x))) marks++;
  return marks <= 1;
}

/**
 * Elements that hold a note's text beside its own: where its label stands in an element by itself, those after it up
 * to the next label.
 */
function bodyBeside(holder: Element): Element[] {
  const own = withoutBackLinks(holder.childNodes).map(textIn).join('');
  if (own.replace(/[\s[\]().:]/g, '') !== '' || !/^(p|dt|td)$/.test(holder.tagName)) return [];
  const siblings = (holder.parentNode?.childNodes ?? []).filter(isElement);
  const beside: Element[] = [];
  for (const e of siblings.slice(siblings.indexOf(holder) + 1)) {
    const label = firstIn(e) ?? e;
    const labelled = label.tagName === 'a' && MARK.test(textIn(label));
    if (e.tagName === 'dt' || labelled || (e.tagName === 'p' && beside.length > 0)) break;
    beside.push(e);
  }
  return beside;
}

/** Whether one of these elements is around it: links in a note lead back and call nothing. */
function holds(e: Element, bodies: ReadonlyMap<Element, string>): boolean {
  for (let x: Tree.ParentNode | null = e; x; x = 'parentNode' in x ? x.parentNode : null)
    if (bodies.has(x as Element)) return true;
  return false;
}

/** What holds a heading is a chapter that a link goes to, no note. */
function holdsHeading(body: Element): boolean {
  for (const e of elementsOf(body)) if (/^h[1-6]$/.test(e.tagName)) return true;
  return false;
}

/** Whether a link in the note goes back to the call, or to the element around it. */
function leadsBack(body: Element, call: Element): boolean {
  const ids = new Set<string>();
  for (let x: Tree.ParentNode | null = call, n = 0; x && 'tagName' in x && n < 3; x = x.parentNode, n++) {
    const id = attribute(x, 'id') || attribute(x, 'name');
    if (id) ids.add(id);
  }
  for (const e of elementsOf(body))
    if (e.tagName === 'a' && ids.has(attribute(e, 'href').replace(/^[^#]*#/, ''))) return true;
  return false;
}

const isBackLink = (a: Element, text: string): boolean =>
  says(a, /backlink/) || /^[\s\u21a9\u2191^[\]()]*$/.test(text.replace(/\ufe0e/g, '')) || MARK.test(text);

/** A note's content without the links that lead back to where it is called. */
export function withoutBackLinks(nodes: readonly ChildNode[]): ChildNode[] {
  return nodes.flatMap((n): ChildNode[] => {
    if (!isElement(n)) return [n];
    if (n.tagName === 'a' && attribute(n, 'href').includes('#') && isBackLink(n, textIn(n))) return [];
    const childNodes = withoutBackLinks(n.childNodes);
    if (childNodes.length === 0 && n.childNodes.length > 0) return [];
    return [{ ...n, childNodes }];
  });
}
