/** The page about a book for its readers, as it stands now. */
import { setsFront, type Book } from '@pagina/core/book';
import { bookPage, shopLinks } from '@pagina/core/outlets';
import { accountsOf, coverJpeg, imprintOf, listingsOf, readTitle, type Store } from '@pagina/data';

const COVER_HEIGHT = 1_200;
const USUAL_RATIO = 0.64;

/** Pixels of the cover beside the page; null where the book has none. */
function coverSize(book: Book): { width: number; height: number } | null {
  const picture = book.pictures.find((p) => p.id === book.record.cover);
  if (!picture && !setsFront(book)) return null;
  const ratio = picture && !setsFront(book) ? picture.width / picture.height : USUAL_RATIO;
  return { width: Math.round(COVER_HEIGHT * ratio), height: COVER_HEIGHT };
}

/** `cover` is the address of the picture. Null where there is no such title. */
export async function pageOf(s: Store, title: string, cover: string): Promise<string | null> {
  const [loaded, listings, imprint, accounts] = await Promise.all([
    readTitle(s, title),
    listingsOf(s, title),
    imprintOf(s),
    accountsOf(s),
  ]);
  if (!loaded) return null;
  const { book } = loaded;
  const size = coverSize(book);
  const edition = book.editions.find((e) => e.form === 'reflow') ?? book.editions[0];
  return bookPage(book, {
    shops: shopLinks(book, listings, imprint, accounts),
    cover: size && { address: cover, ...size },
    edition: edition?.id ?? null,
  });
}

/** Null where there is no title, or no cover of which one could be made. */
export async function pageCover(s: Store, title: string): Promise<Uint8Array | null> {
  const loaded = await readTitle(s, title);
  const size = loaded && coverSize(loaded.book);
  if (!loaded || !size) return null;
  return coverJpeg(s, title, loaded.book, {
    height: size.height,
    ratio: size.width / size.height,
  }).catch(() => null);
}
