/** Where in the book one reads, in words: chapter, screen, folio of the printed edition, and the share that is read. */
import type { Navigation, ReadingOrder } from '@pagina/core/package';
import type { Sight } from './Screen';
import type { DocumentText } from './source';

export interface ReadingPlace {
  /** Number of the last contents entry, and of the last printed page, at or before it; -1 where there is none. */
  entry: number;
  page: number;
  /** Read so far; null while it is not known. */
  share: number | null;
  words: string;
}

export function placeIn(
  order: ReadingOrder,
  texts: readonly DocumentText[] | null,
  { path, offset, screen, screens }: Sight,
): ReadingPlace {
  const linear = order.documents.filter((d) => d.linear).map((d) => d.path);
  const entry = lastReached(order.contents, linear, texts, { path, offset });
  const page = lastReached(order.pages, linear, texts, { path, offset });
  const held = texts?.find((t) => t.path === path);
  const total = (texts ?? []).reduce((n, t) => n + (linear.includes(t.path) ? t.text.length : 0), 0);
  const atEnd = path === linear.at(-1) && screen >= screens - 1;
  const share = held && total > 0 ? (atEnd ? 1 : (held.before + offset) / total) : null;
  const folio = order.pages[page]?.label;
  const words = [
    order.contents[entry]?.label ?? order.landmarks.find((l) => l.path === path)?.label,
    `screen ${screen + 1} of ${screens}`,
    folio === undefined ? undefined : `folio ${folio}`,
  ];
  return { entry, page, share, words: words.filter((w) => w !== undefined && w !== '').join(' · ') };
}

/** The last entry whose place is at or before the one given, in the order of reading. */
function lastReached(
  entries: Navigation['contents'],
  linear: readonly string[],
  texts: readonly DocumentText[] | null,
  at: { path: string; offset: number },
): number {
  const here = linear.indexOf(at.path);
  if (here < 0) return -1;
  let best = -1;
  let bestAt = [-1, -1];
  entries.forEach((e, i) => {
    const document = linear.indexOf(e.path);
    if (document < 0 || document > here) return;
    const offset = e.fragment ? (texts?.find((t) => t.path === e.path)?.ids.get(e.fragment) ?? null) : 0;
    // Until the texts are read, nobody knows where in its document an entry leads.
    if (document === here && (offset ?? Infinity) > at.offset) return;
    const [d, o] = bestAt as [number, number];
    if (document > d || (document === d && (offset ?? 0) >= o)) {
      best = i;
      bestAt = [document, offset ?? 0];
    }
  });
  return best;
}

/** The character at a share of the text. */
export function placeAtShare(
  texts: readonly DocumentText[],
  linear: readonly string[],
  share: number,
): { path: string; offset: number } | null {
  const listed = texts.filter((t) => linear.includes(t.path));
  const total = listed.reduce((n, t) => n + t.text.length, 0);
  const at = Math.min(total - 1, Math.floor(share * total));
  const held = listed.findLast((t) => t.before <= at);
  return held ? { path: held.path, offset: at - held.before } : null;
}
