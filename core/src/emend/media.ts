/** What a file is, by its first bytes. */
import { foreignPicture, pictureInfo } from '../base';

const FONTS: [string, string][] = [
  ['OTTO', 'font/otf'],
  ['\0\x01\0\0', 'font/ttf'],
  ['true', 'font/ttf'],
  ['wOFF', 'font/woff'],
  ['wOF2', 'font/woff2'],
];

/** Media type of a picture, a typeface (RFC 8081) or, by its name, a style sheet; null for anything else. */
export function mediaTypeOf(bytes: Uint8Array, name: string): string | null {
  const picture = pictureInfo(bytes);
  if (picture) return picture.type;
  if (foreignPicture(bytes) === 'webp') return 'image/webp';
  const first = String.fromCharCode(...bytes.subarray(0, 4));
  const font = FONTS.find(([mark]) => mark === first);
  if (font) return font[1];
  const text = new TextDecoder().decode(bytes.subarray(0, 2_000)).replace(/^\ufeff/, '');
  if (/^\s*(<\?xml[^>]*>\s*)?(<!--[\s\S]*?-->\s*)*(<!DOCTYPE svg[^>]*>\s*)?<svg\b/.test(text))
    return 'image/svg+xml';
  return /\.css$/i.test(name) && !text.includes('\0') ? 'text/css' : null;
}
