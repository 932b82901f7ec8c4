/** What a file that is added to an ebook is. */
import { mediaTypeOf } from '../base';

/** Media type of a picture, a typeface or, by its name, a style sheet; null for anything that ebooks can’t hold. */
export function addedTypeOf(bytes: Uint8Array, name: string): string | null {
  const type = mediaTypeOf(bytes);
  if (type) return /^(image\/(jpeg|png|gif|webp|svg\+xml)|font\/.*)$/.test(type) ? type : null;
  return /\.css$/i.test(name) && !bytes.subarray(0, 2_000).includes(0) ? 'text/css' : null;
}
