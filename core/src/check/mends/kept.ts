/** What a mended ebook has kept: the words of each page, and every file that is no text, to the byte. */
import { textOf, type XmlElement } from '../../base';
import { epubSubject, XHTML, type EpubSubject } from '../epub/subject';

export interface Kept {
  /** Pages whose words are other than they were. */
  words: string[];
  /** Pictures, typefaces and sounds that are other, or gone. */
  files: string[];
}

const plain = (e: XmlElement): string => textOf(e).replace(/\s+/g, ' ').trim();
/** Words of each page; the navigation is made of them, and may be made anew. */
const wordsOf = (s: EpubSubject): Map<string, string> =>
  new Map(
    s.documents
      .filter((d) => d.root && d.item.type === XHTML && !d.item.properties.includes('nav'))
      .map((d) => [d.path, plain((d.byName.get('body')?.[0] ?? d.root) as XmlElement)]),
  );
const MEDIA = /^(image\/(?!svg)|font\/|audio\/|video\/)|font|opentype/;

/** Pages and files of `before` that `after` has not kept. Both are whole EPUBs. */
export function keptBetween(before: Uint8Array, after: Uint8Array): Kept {
  const [was, now] = [epubSubject(before), epubSubject(after)];
  if (!was.ok || !now.ok) return { words: [], files: [] };
  const words = wordsOf(now.value);
  const kept: Kept = { words: [], files: [] };
  for (const [path, text] of wordsOf(was.value))
    if (words.has(path) && words.get(path) !== text) kept.words.push(path);
  for (const i of was.value.manifest) {
    if (!i.path || !MEDIA.test(i.type)) continue;
    const [a, b] = [was.value.part(i.path), now.value.part(i.path)];
    if (a && (!b || a.length !== b.length || a.some((x, k) => x !== b[k]))) kept.files.push(i.path);
  }
  return kept;
}
