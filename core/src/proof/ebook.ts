/** The impression of an ebook, ours or another’s: its documents in reading order, with all that each of them shows. */
import { done, parseXml, Sum, textOf, type Outcome, type XmlElement, type Zip } from '../base';
import { readPackage, resolve, textPart, openEpub, navigationOf } from '../package';
import { ENGINE } from '../compose';
import type { Impression, View } from './impression';

/** Elements whose words stand by themselves (HTML §3.2.5.2.2, flow content that holds phrasing content). */
const BLOCKS = new Set(
  'p h1 h2 h3 h4 h5 h6 li dt dd td th caption figcaption pre blockquote div section aside header footer address'.split(
    ' ',
  ),
);
/** Attributes that name another part of the ebook. */
const LEADING = new Set(['src', 'href', 'xlink:href', 'poster', 'data', 'srcset']);

/** Errors: those of `readPackage`. */
export function impressionOfEbook(bytes: Uint8Array): Outcome<Impression> {
  const [zip, read] = [openEpub(bytes), readPackage(bytes)];
  if (!zip.ok) return zip;
  if (!read.ok) return read;
  const items = new Map(read.value.manifest.map((i) => [i.id, i]));
  const headings = new Map<string, string>();
  for (const { path, label } of navigationOf(read.value).contents)
    if (!headings.has(path)) headings.set(path, label);
  const sums = new Map<string, string>();
  const views = read.value.spine.flatMap(({ idref }): View[] => {
    const path = items.get(idref)?.path ?? '';
    const text = path === '' ? null : textPart(zip.value, path);
    return text === null ? [] : [viewOf(zip.value, path, text, headings.get(path) ?? '', sums)];
  });
  return done({ version: 1, engine: ENGINE, width: 0, height: 0, views });
}

function viewOf(zip: Zip, path: string, text: string, heading: string, sums: Map<string, string>): View {
  const [sum, matter] = [new Sum(), new Sum()];
  for (const s of [sum, matter]) s.text(text);
  const { root } = parseXml(text);
  const words: string[] = [];
  if (root) {
    for (const part of [...partsOf(root, path), ...namedInStyles(text, path)]) {
      const of = sumOfPart(zip, part, sums);
      sum.text(of);
      if (!/\.css$/i.test(part)) matter.text(of);
    }
    collect(root, words);
  } else words.push(text);
  const label = heading || words[0]?.slice(0, 60) || path;
  return { mark: sum.digits(), matter: matter.digits(), label, path, words, places: [] };
}

/** Other parts that are seen in a document: pictures, styles, media. Links to other documents are not. */
function* partsOf(e: XmlElement, path: string): Generator<string> {
  if (e.name !== 'a')
    for (const [key, value] of Object.entries(e.attrs)) {
      if (!LEADING.has(key)) continue;
      const part = resolve(path, value.split(/\s/)[0] ?? '')?.path;
      if (part && part !== path) yield part;
    }
  for (const c of e.children) if (typeof c !== 'string') yield* partsOf(c, path);
}

/** Parts that styles name, in a sheet or within a document (CSS Values 4 §4.5, CSS Cascade 5 §2). */
function* namedInStyles(styles: string, path: string): Generator<string> {
  for (const [, url, imported] of styles.matchAll(/url\(\s*["']?([^"')]+)|@import\s+["']([^"']+)/g)) {
    const part = resolve(path, (url ?? imported ?? '').trim())?.path;
    if (part && part !== path) yield part;
  }
}

/** Of a part, and of those a style sheet names. */
function sumOfPart(zip: Zip, path: string, sums: Map<string, string>): string {
  const known = sums.get(path);
  if (known !== undefined) return known;
  sums.set(path, '');
  const sum = new Sum();
  try {
    const bytes = zip.read(path);
    sum.add(bytes?.length ?? -1);
    if (bytes) sum.each(bytes, 0, bytes.length);
    if (bytes && /\.css$/i.test(path))
      for (const part of namedInStyles(new TextDecoder().decode(bytes), path))
        sum.text(sumOfPart(zip, part, sums));
  } catch {
    sum.add(-2);
  }
  sums.set(path, sum.digits());
  return sum.digits();
}

const shown = (s: string): string => s.replace(/\s+/g, ' ').trim();

/** Words block by block; pictures by their alternative text. */
function collect(e: XmlElement, out: string[]): void {
  if (e.name === 'head') return;
  let line = '';
  const end = (): void => {
    if (shown(line)) out.push(shown(line));
    line = '';
  };
  const walk = (x: XmlElement): void => {
    for (const c of x.children) {
      if (typeof c === 'string') line += c;
      else if (BLOCKS.has(c.name)) {
        end();
        collect(c, out);
      } else if (c.name === 'img' || c.name === 'image') line += ` ▣ ${c.attrs.alt ?? ''} `;
      else if (c.name === 'br') line += ' ';
      else if (c.name === 'math') line += textOf(c);
      else walk(c);
    }
  };
  walk(e);
  end();
}
