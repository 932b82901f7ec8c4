/** What every stand-in shop has, and what those have in common that are called over HTTP. */
import { eventsOf, heldFor, isListed, type Book, type Review, type ShopFile } from './books';
import type { EbookFacts } from './ebook';
import { factsOf, type Facts } from './facts';
import type { House } from './house';
import type { ShopId } from './names';
import type { Call, Reply } from './http';

export interface Shop {
  id: ShopId;
  name: string;
  review: Review;
  /** Whether a call comes from the holder of the account. */
  allows(call: Call, key: string): boolean;
  handle(call: Call, house: House): Promise<Reply> | Reply;
}

export const bearsKey = ({ headers }: Call, key: string): boolean =>
  headers.authorization === `Bearer ${key}`;

export interface Announced {
  part: string;
  name: string;
  sha256: string;
  size: number;
}

/** Files that have all come to a shop's tray, as far as it can read them; else what is missing. */
export async function filesFrom(
  house: House,
  shop: ShopId,
  announced: readonly Announced[],
): Promise<{ files: ShopFile[] } | { missing: string }> {
  const files: ShopFile[] = [];
  for (const a of announced) {
    const bytes = house.tray.take(shop, a.sha256, a.size);
    if (!bytes) return { missing: `${a.name} hasn’t come yet.` };
    files.push({ ...a, facts: await factsOf(a.part, bytes) });
  }
  return { files };
}

export const ebookIn = (files: readonly ShopFile[]): EbookFacts | null =>
  (files.find((f) => (f.facts as Facts | null)?.kind === 'ebook' && f.part !== 'sample')?.facts as
    EbookFacts | undefined) ?? null;

/** Reads what was announced of files; null for what doesn't say it. */
export function announcedIn(value: unknown): Announced[] | null {
  if (!Array.isArray(value) || value.length === 0) return null;
  const files = value.map((f: Record<string, unknown>) => ({
    part: String(f.part),
    name: String(f.name),
    sha256: String(f.sha256),
    size: Number(f.size),
  }));
  return files.every((f) => /^[0-9a-f]{64}$/.test(f.sha256) && Number.isInteger(f.size) && f.name !== '')
    ? files
    : null;
}

/** What a shop tells of a book's state, in words of its own that the protocols share. */
export function standing(house: House, { id, review }: Shop, book: Book) {
  const { day } = house;
  const ebook = ebookIn(book.files);
  const events = eventsOf(book, day, review);
  const looked = events.some((e) => e.state === 'with the shop');
  return {
    reference: book.reference,
    state: events.at(-1)?.state ?? 'received',
    events,
    listed: isListed(book, day, review),
    reasons: heldFor(book, day, review),
    files: book.files.map((f) => ({
      part: f.part,
      name: f.name,
      sha256: f.sha256,
      state: !looked ? 'received' : f.facts?.fault ? 'refused' : 'in order',
      words: looked ? (f.facts?.fault ?? '') : '',
    })),
    contents: looked ? (ebook?.contents ?? []) : [],
    doubts: looked ? (ebook?.doubts ?? []) : [],
    barriers: looked ? (ebook?.barriers ?? []) : [],
    assigned: book.assigned && day >= book.assigned.from ? book.assigned.isbn : '',
    shop: id,
  };
}
