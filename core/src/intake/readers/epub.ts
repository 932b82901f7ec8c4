/** An EPUB (2 or 3) as a manuscript: its text files in reading order, each with the headings its navigation knows. */
import { parse, defaultTreeAdapter, html, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { done, parseXml, refused, type Outcome, type XmlElement } from '../../base';
import { navigationOf, readPackage, resolve, textPart, type EpubPackage, type NavEntry } from '../../package';
import { readPages, type HtmlPage } from './html';
import { attribute, elementsOf, textIn } from './html-notes';
import { StyleSheet } from './html-style';
import { PictureShelf } from './pictures';
import { rawManuscript, type RawManuscript, type RawParagraph } from '../raw';

const TEXT = /xhtml|html|x-dtbook/;

/** Errors: `epub/not-zip`, `intake/epub-locked`, `intake/epub-empty` and what `openZip` refuses. */
export function readEpub(bytes: Uint8Array): Outcome<RawManuscript> {
  const opened = readPackage(bytes);
  if (!opened.ok) return opened;
  const p = opened.value;
  const locked = textPart(p.zip, 'META-INF/encryption.xml') ?? '';
  // Faces may be obfuscated (EPUB OCF 3.3 §4.2.6.3.4); text never is, unless the book is locked.
  if (/EncryptedData/.test(locked) && !/obfuscation|RC"/.test(locked))
    return refused('intake/epub-locked', 'This ebook is locked by its shop: its text cannot be read.');
  const cover = coverPath(p);
  const pages = p.spine.flatMap(({ idref }) => {
    const item = p.manifest.find((i) => i.id === idref);
    if (!item || !TEXT.test(item.type) || item.properties.includes('nav')) return [];
    const page = pageOf(p, item.path);
    return page && !showsOnly(page, cover) ? [page] : [];
  });
  if (pages.length === 0) return refused('intake/epub-empty', 'This EPUB contains no readable text.');
  const m = rawManuscript();
  const of = (name: string): string => p.metadata.find((x) => x.name === name)?.value ?? '';
  m.title = of('title');
  m.author = of('creator');
  m.language = of('language');
  const front = cover ? p.zip.read(cover) : null;
  if (front) m.cover = new PictureShelf(m).add(front) ?? '';
  readPages(m, pages, {
    picture(page, src) {
      const to = resolve(page.path, src);
      return to ? p.zip.read(to.path) : undefined;
    },
    target(page, href) {
      const to = resolve(page.path, href);
      return to && { path: to.path, id: to.fragment };
    },
  });
  markHeadings(m, navigationOf(p).contents);
  return done(m);
}

/** Path of the picture that the package names as its cover: EPUB 3.3 §5.5.3.1, and the older way of a `meta`. */
function coverPath(p: EpubPackage): string {
  const said = p.metadata.find((x) => x.name === 'meta' && x.attrs.name === 'cover')?.attrs.content;
  const item =
    p.manifest.find((i) => i.properties.includes('cover-image')) ?? p.manifest.find((i) => i.id === said);
  return item && /^image\/(?!svg)/.test(item.type) ? item.path : '';
}

/** Whether a page shows that picture and nothing else. */
function showsOnly(page: HtmlPage, picture: string): boolean {
  const body = [...elementsOf(page.document)].find((e) => e.tagName === 'body');
  if (!picture || !body || textIn(body).trim() !== '') return false;
  const shown = [...elementsOf(body)].filter((e) => /^(?:img|image)$/.test(e.tagName));
  const src = shown[0]
    ? attribute(shown[0], 'src') || attribute(shown[0], 'xlink:href') || attribute(shown[0], 'href')
    : '';
  return shown.length === 1 && resolve(page.path, src)?.path === picture;
}

function pageOf(p: EpubPackage, path: string): HtmlPage | null {
  const text = textPart(p.zip, path);
  if (text === null) return null;
  const xml = parseXml(text);
  const document = xml.root ? fromXml(xml.root) : parse(text);
  const sheet = new StyleSheet();
  for (const e of elementsOf(document)) {
    if (e.tagName === 'style') sheet.add(textIn(e));
    if (e.tagName !== 'link' || !/stylesheet/.test(attribute(e, 'rel'))) continue;
    const to = resolve(path, attribute(e, 'href'));
    sheet.add((to && textPart(p.zip, to.path)) ?? '');
  }
  return { path, document, sheet };
}

/** Well-formed XHTML in the tree that the HTML reader walks: an empty element stays empty. */
function fromXml(root: XmlElement): Tree.Document {
  const document = defaultTreeAdapter.createDocument();
  const put = (parent: Tree.ParentNode, e: XmlElement): void => {
    const attrs = Object.entries(e.attrs).map(([name, value]) => ({ name, value }));
    const made = defaultTreeAdapter.createElement(e.name.toLowerCase(), html.NS.HTML, attrs);
    defaultTreeAdapter.appendChild(parent, made);
    for (const c of e.children)
      if (typeof c === 'string') defaultTreeAdapter.insertText(made, c);
      else put(made, c);
  };
  put(document, root);
  return document;
}

/**
 * A paragraph that reads like an entry of the navigation is a heading, however it is marked up. Where only some entries
 * are headings in the text, the navigation's levels hold for all of them, and other headings stand below.
 */
function markHeadings(m: RawManuscript, toc: readonly NavEntry[]): void {
  const levels = new Map(toc.map((e) => [plain(e.label), e.depth + 1]));
  levels.delete('');
  const listed = new Map<RawParagraph, number>();
  let unmarked = false;
  for (const b of m.blocks) {
    if (b.kind !== 'paragraph' || b.text.length > 200) continue;
    const level = levels.get(plain(b.text));
    // Only looks can tell a heading from a sentence that says the same.
    if (!level || !(b.outline > 0 || b.breakBefore || b.bold || b.align === 'centre')) continue;
    listed.set(b, level);
    unmarked ||= b.outline === 0;
  }
  if (!unmarked) return;
  const deepest = Math.max(...listed.values());
  const marked = Math.max(0, ...[...listed.keys()].map((b) => b.outline));
  for (const b of m.blocks) {
    if (b.kind !== 'paragraph') continue;
    const level = listed.get(b);
    if (level) b.outline = level;
    else if (b.outline > 0) b.outline = deepest + Math.max(1, b.outline - marked);
  }
}
const plain = (t: string): string => t.replace(/\s+/g, ' ').trim().toLowerCase();
