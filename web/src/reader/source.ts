/** Where the parts of an ebook come from, and its documents as they are read beside the one that is shown. */
import type { ReadingOrder } from '@pagina/core/package';
import { TextMap } from './texts';

export interface EbookSource {
  /** Address under which the parts stand, with a stroke at its end. */
  base: string;
  order: ReadingOrder;
}

export const addressOf = (base: string, path: string): string =>
  base + path.split('/').map(encodeURIComponent).join('/');

/** The path of the part that an address of the frame stands for; null for one outside the ebook. */
export function pathOf(base: string, address: string): { path: string; id: string } | null {
  const url = new URL(address, location.href);
  const root = new URL(base, location.href);
  if (url.origin !== root.origin || !url.pathname.startsWith(root.pathname)) return null;
  const decoded = (s: string): string => {
    try {
      return decodeURIComponent(s);
    } catch {
      return s;
    }
  };
  return { path: decoded(url.pathname.slice(root.pathname.length)), id: decoded(url.hash.slice(1)) };
}

export async function openSource(base: string): Promise<EbookSource> {
  const answer = await fetch(base.replace(/\/$/, ''));
  const read = (await answer.json()) as ReadingOrder & { message?: string };
  if (!answer.ok) throw new Error(read.message ?? 'The ebook can’t be read.');
  return { base, order: read };
}

export async function fetchDocument({ base }: EbookSource, path: string): Promise<Document> {
  const answer = await fetch(addressOf(base, path));
  const text = await answer.text();
  const type = answer.headers.get('Content-Type') === 'text/html' ? 'text/html' : 'application/xhtml+xml';
  return new DOMParser().parseFromString(answer.ok ? text : '<html/>', type);
}

/** The text of a document, and where its ids stand in it. */
export interface DocumentText {
  path: string;
  text: string;
  ids: ReadonlyMap<string, number>;
  /** Characters of the documents before it. */
  before: number;
}

/** The texts of all documents that one comes to by turning pages, one after the other, so that nothing stands still. */
export async function textsOf(source: EbookSource, gone: () => boolean): Promise<DocumentText[]> {
  const texts: DocumentText[] = [];
  let before = 0;
  for (const { path, linear } of source.order.documents) {
    if (gone()) return [];
    const map = new TextMap(await fetchDocument(source, path));
    const text = map.text();
    texts.push({ path, text, ids: map.ids, before });
    if (linear) before += text.length;
  }
  return texts;
}
