/**
 * HTML into raw paragraphs: a file, a paste, the files of an EPUB, what Markdown becomes. Elements say what a text is,
 * styles say how it looks, and both are kept for recognition. Scripts, forms and frames are no text; nothing is fetched.
 */
import { parse } from 'parse5';
import { done, type Outcome } from '../../base';
import { percentDecoded } from '../../package';
import { attribute, elementsOf, findNotes, textIn, type Element, type NotesFound } from './html-notes';
import { PageReader, type HtmlPage, type HtmlPlaces } from './html-page';
import { idOf } from './html-parts';
import { StyleSheet } from './html-style';
import { PictureShelf } from './pictures';
import { rawManuscript, type RawManuscript } from '../raw';

export type { HtmlPage, HtmlPlaces };

/** Errors: none; broken markup is read as a browser reads it. Pictures are taken from data: addresses only. */
export function readHtml(html: string): Outcome<RawManuscript> {
  const m = rawManuscript();
  const page: HtmlPage = { path: '', document: parse(html), sheet: new StyleSheet() };
  for (const e of elementsOf(page.document)) if (e.tagName === 'style') page.sheet.add(textIn(e));
  for (const e of elementsOf(page.document)) {
    if (e.tagName === 'title') m.title = textIn(e).replace(/\s+/g, ' ').trim();
    if (e.tagName === 'meta' && /^(author|dc\.creator)$/i.test(attribute(e, 'name')))
      m.author = attribute(e, 'content');
    if (e.tagName === 'html') m.language = attribute(e, 'lang') || attribute(e, 'xml:lang');
  }
  readPages(m, [page], {
    picture: (_, src) => dataUrl(src),
    target: (_, href) => (href.startsWith('#') ? { path: '', id: percentDecoded(href.slice(1)) } : null),
  });
  return done(m);
}

function dataUrl(src: string): Uint8Array | null | undefined {
  const data = /^data:image\/[\w.+-]+;base64,(.+)$/s.exec(src);
  if (!data) return undefined;
  try {
    return Uint8Array.from(atob((data[1] as string).replace(/\s/g, '')), (c) => c.charCodeAt(0));
  } catch {
    return null;
  }
}

/** Reads pages in order into one manuscript; every page after the first begins a page of the manuscript. */
export function readPages(m: RawManuscript, pages: readonly HtmlPage[], places: HtmlPlaces): void {
  const shelf = new PictureShelf(m);
  const byId = new Map<string, Element>();
  const names = new Map<Element, string>();
  for (const page of pages)
    for (const e of elementsOf(page.document)) {
      const id = idOf(e);
      if (id && !byId.has(`${page.path}#${id}`)) byId.set(`${page.path}#${id}`, e);
    }
  const nameOf = (target: Element): string => {
    let name = names.get(target);
    if (!name) {
      name = `n${names.size + 1}`;
      names.set(target, name);
    }
    return name;
  };
  const found: NotesFound = { calls: new Map(), bodies: new Map() };
  for (const page of pages) {
    const targetOf = (href: string): Element | null => {
      const to = places.target(page, href);
      return (to?.id && byId.get(`${to.path}#${to.id}`)) || null;
    };
    findNotes(page.document, targetOf, nameOf, found);
  }
  pages.forEach((page, i) => {
    const reader = new PageReader(page, places, shelf, found, m);
    const blocks = reader.read(page.document.childNodes);
    const [first] = blocks;
    if (i > 0 && first?.kind === 'paragraph') first.breakBefore = true;
    m.blocks.push(...blocks);
  });
}
