/** What a shop reads out of an ebook, by its own means: it shares no code with the program that made the file. */
import { unzipSync } from 'fflate';
import type { FileFacts } from './filefacts';
import { elementsOf, textOf } from './xml';

const MOST_UNPACKED = 600_000_000;
/** Letters of text that are looked through for words. */
const MOST_TEXT = 3_000_000;

export interface EbookFacts extends FileFacts {
  kind: 'ebook';
  title: string;
  authors: string[];
  identifier: string;
  language: string;
  version: string;
  cover: boolean;
  pages: number;
  contents: string[];
  /** Thirteen figures that the text gives as its ISBNs. */
  isbns: string[];
  /** What a reader who can't see would miss. */
  barriers: string[];
  /** Words that aren’t in the dictionary. */
  doubts: string[];
}

export function readEpub(bytes: Uint8Array): EbookFacts {
  const facts: EbookFacts = {
    kind: 'ebook',
    title: '',
    authors: [],
    identifier: '',
    language: '',
    version: '',
    cover: false,
    pages: 0,
    contents: [],
    isbns: [],
    barriers: [],
    doubts: [],
    text: '',
    fault: '',
  };
  try {
    let total = 0;
    const files = unzipSync(bytes, {
      filter: (f) => {
        total += f.originalSize;
        if (total > MOST_UNPACKED) throw new Error('it unpacks to more than we take');
        return true;
      },
    });
    const text = (name: string): string => {
      const f = files[name];
      if (!f) throw new Error(`${name} is missing`);
      return new TextDecoder().decode(f);
    };
    if (text('mimetype') !== 'application/epub+zip') throw new Error('the mimetype is wrong');
    const opf =
      elementsOf(text('META-INF/container.xml')).find((e) => e.name === 'rootfile')?.attrs['full-path'] ?? '';
    const parts = elementsOf(text(opf));
    const folder = opf.replace(/[^/]*$/, '');
    facts.version = parts[0]?.attrs.version ?? '';
    facts.title = parts.find((e) => e.name === 'title')?.text.trim() ?? '';
    facts.authors = parts.filter((e) => e.name === 'creator').map((e) => e.text.trim());
    facts.identifier = parts.find((e) => e.name === 'identifier')?.text.trim() ?? '';
    facts.language = parts.find((e) => e.name === 'language')?.text.trim() ?? '';
    const items = parts.filter((e) => e.name === 'item');
    const metas = parts.filter((e) => e.name === 'meta');
    facts.cover =
      items.some((e) => (e.attrs.properties ?? '').split(' ').includes('cover-image')) ||
      metas.some((e) => e.attrs.name === 'cover');
    const path = (href: string): string => folder + decodeURIComponent(href);
    const nav = items.find((e) => (e.attrs.properties ?? '').split(' ').includes('nav'));
    const ncx = items.find((e) => e.attrs['media-type'] === 'application/x-dtbncx+xml');
    if (nav) facts.contents = contentsOfNav(text(path(nav.attrs.href ?? '')));
    else if (ncx) facts.contents = contentsOfNcx(text(path(ncx.attrs.href ?? '')));
    const read: string[] = [];
    let unseen = 0;
    for (const ref of parts.filter((e) => e.name === 'itemref')) {
      const item = items.find((i) => i.attrs.id === ref.attrs.idref);
      const page = elementsOf(text(path(item?.attrs.href ?? '')));
      unseen += page.filter((e) => e.name === 'img' && e.attrs.alt === undefined).length;
      read.push(textOf(page));
      facts.pages++;
    }
    if (facts.pages === 0) throw new Error('there is nothing to read in it');
    facts.text = read.join('\n').slice(0, MOST_TEXT);
    facts.isbns = isbnsIn(facts.text);
    if (unseen > 0)
      facts.barriers.push(
        `${unseen} ${unseen === 1 ? 'picture has' : 'pictures have'} no text for those who can’t see ${unseen === 1 ? 'it' : 'them'}.`,
      );
    if (facts.language === '') facts.barriers.push('The ebook doesn’t say its language.');
    if (facts.version.startsWith('3') && !metas.some((e) => /accessMode$/.test(e.attrs.property ?? '')))
      facts.barriers.push('The ebook says nothing of how it can be read.');
  } catch (e) {
    facts.fault = (e as Error).message;
  }
  return facts;
}

/** Entries of the first `nav` that is a table of contents. */
function contentsOfNav(xml: string): string[] {
  const all = elementsOf(xml);
  const toc = all.find((e) => e.name === 'nav' && /\btoc\b/.test(e.attrs['epub:type'] ?? ''));
  return all
    .filter((e) => e.name === 'a' && toc !== undefined && e.within.includes(toc))
    .map((e) => e.all.trim());
}
const contentsOfNcx = (xml: string): string[] => {
  const all = elementsOf(xml);
  const map = all.find((e) => e.name === 'navMap');
  return all
    .filter((e) => e.name === 'text' && map !== undefined && e.within.includes(map))
    .map((e) => e.all.trim());
};

export const isbnsIn = (text: string): string[] => [
  ...new Set([...text.matchAll(/97[89](?:[-\s]?\d){10}/g)].map((m) => m[0].replace(/\D/g, ''))),
];
