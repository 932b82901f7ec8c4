/** What the shop reads out of an ebook, by its own means: it shares no code with the program that made the file. */
import { unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';

export interface EpubFacts {
  title: string;
  authors: string[];
  identifier: string;
  cover: boolean;
  pages: number;
  /** Why the file cannot be sold, '' when it can. */
  fault: string;
}

const MOST_UNPACKED = 600_000_000;

/** Elements of an XML text as flat events; throws on XML that is not well-formed. */
function elements(xml: string): { name: string; attrs: Record<string, string>; text: string }[] {
  const found: { name: string; attrs: Record<string, string>; text: string }[] = [];
  const open: (typeof found)[number][] = [];
  const parser = new SaxesParser();
  parser.on('error', (e) => {
    throw e;
  });
  parser.on('opentag', (t) => {
    const el = { name: t.name.replace(/^.*:/, ''), attrs: t.attributes as Record<string, string>, text: '' };
    found.push(el);
    open.push(el);
  });
  parser.on('text', (t) => {
    const el = open.at(-1);
    if (el) el.text += t;
  });
  parser.on('closetag', () => void open.pop());
  parser.write(xml).close();
  return found;
}

export function readEpub(bytes: Uint8Array): EpubFacts {
  const facts: EpubFacts = { title: '', authors: [], identifier: '', cover: false, pages: 0, fault: '' };
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
      elements(text('META-INF/container.xml')).find((e) => e.name === 'rootfile')?.attrs['full-path'] ?? '';
    const parts = elements(text(opf));
    const folder = opf.replace(/[^/]*$/, '');
    facts.title = parts.find((e) => e.name === 'title')?.text.trim() ?? '';
    facts.authors = parts.filter((e) => e.name === 'creator').map((e) => e.text.trim());
    facts.identifier = parts.find((e) => e.name === 'identifier')?.text.trim() ?? '';
    const items = parts.filter((e) => e.name === 'item');
    facts.cover = items.some((e) => (e.attrs.properties ?? '').split(' ').includes('cover-image'));
    for (const ref of parts.filter((e) => e.name === 'itemref')) {
      const item = items.find((i) => i.attrs.id === ref.attrs.idref);
      elements(text(folder + decodeURIComponent(item?.attrs.href ?? '')));
      facts.pages++;
    }
    if (facts.pages === 0) throw new Error('there is nothing to read in it');
  } catch (e) {
    facts.fault = (e as Error).message;
  }
  return facts;
}
