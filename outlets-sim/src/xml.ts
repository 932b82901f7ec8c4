/** XML as a flat list of elements; throws on what isn't well-formed. */
import { SaxesParser } from 'saxes';

export interface Element {
  /** Without its prefix. */
  name: string;
  attrs: Readonly<Record<string, string>>;
  /** Its own text, without that of elements in it. */
  text: string;
  /** With it. */
  all: string;
  /** Elements that it stands in, outermost first. */
  within: readonly Element[];
}

export function elementsOf(xml: string): Element[] {
  const found: Element[] = [];
  const open: Element[] = [];
  const parser = new SaxesParser();
  parser.on('error', (e) => {
    throw e;
  });
  parser.on('opentag', (t) => {
    const el: Element = {
      name: t.name.replace(/^.*:/, ''),
      attrs: t.attributes as Record<string, string>,
      text: '',
      all: '',
      within: [...open],
    };
    found.push(el);
    open.push(el);
  });
  const text = (words: string): void => {
    const el = open.at(-1);
    if (el) el.text += words;
    for (const o of open) o.all += words;
  };
  parser.on('text', text);
  parser.on('cdata', text);
  parser.on('closetag', () => void open.pop());
  parser.write(xml).close();
  return found;
}

/** Inside an element, those of a name. */
export const inside = (all: readonly Element[], el: Element, name: string): Element[] =>
  all.filter((e) => e.name === name && e.within.includes(el));

const BLOCKS = new Set([
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'li',
  'td',
  'div',
  'blockquote',
  'figcaption',
]);
/** What a page says, a line for each of its paragraphs. */
export const textOf = (page: readonly Element[]): string =>
  page
    .filter(
      (e) =>
        BLOCKS.has(e.name) &&
        e.all.trim() !== '' &&
        !page.some((o) => BLOCKS.has(o.name) && o.within.includes(e)),
    )
    .map((e) => e.all.replace(/\s+/g, ' ').trim())
    .join('\n');

export const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
