/** What a file is by its first bytes, as a media type. */
import { foreignPicture, pictureInfo } from './picture';

const ascii = (b: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...b.subarray(from, to));

/** Typefaces (OpenType 1.9; WOFF; RFC 8081). */
const FACES: Record<string, string> = {
  OTTO: 'font/otf',
  '\0\x01\0\0': 'font/ttf',
  true: 'font/ttf',
  wOFF: 'font/woff',
  wOF2: 'font/woff2',
};

/** Null where nobody can tell. */
export function mediaTypeOf(b: Uint8Array): string | null {
  const known = pictureInfo(b)?.type;
  if (known) return known;
  const foreign = foreignPicture(b);
  if (foreign) return `image/${foreign}`;
  const first = ascii(b, 0, 4);
  if (FACES[first]) return FACES[first];
  // JPEG without a frame that could be found (ITU-T T.81 §B.1.1.3).
  if (b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff) return 'image/jpeg';
  if (first.startsWith('BM')) return 'image/bmp';
  if (first === '%PDF') return 'application/pdf';
  if (first === 'OggS') return 'audio/ogg';
  if (ascii(b, 4, 8) === 'ftyp') return ascii(b, 8, 11) === 'M4A' ? 'audio/mp4' : 'video/mp4';
  // A tag in front, or the mark of a frame (ISO/IEC 11172-3 §2.4.2.3).
  if (first.startsWith('ID3') || (b[0] === 0xff && ((b[1] ?? 0) & 0xe6) > 0xe0)) return 'audio/mpeg';
  return markupOf(new TextDecoder().decode(b.subarray(0, 2_000)));
}

function markupOf(text: string): string | null {
  const root = /^\s*(?:<\?xml[^>]*>\s*)?(?:<!--[^]*?-->\s*)*(?:<!DOCTYPE[^>]*>\s*)?<([\w-]+:)?([\w-]+)/i.exec(
    text,
  )?.[2];
  if (root?.toLowerCase() === 'svg') return 'image/svg+xml';
  return root?.toLowerCase() === 'html' ? 'application/xhtml+xml' : null;
}
