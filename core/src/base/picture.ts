/** Reads kind and size out of a picture's first bytes, without decoding it (PNG: W3C PNG §11.2.2; JPEG: ITU T.81 §B.2.2; GIF89a §18). */
export interface PictureInfo {
  type: 'image/png' | 'image/jpeg' | 'image/gif';
  /** Pixels. */
  width: number;
  height: number;
}

/** Pixels of the largest picture that is decoded: 12,000 × 12,000 is the most a book can want. */
export const MOST_PIXELS = 160_000_000;

const be16 = (b: Uint8Array, i: number): number => ((b[i] ?? 0) << 8) | (b[i + 1] ?? 0);

export function pictureInfo(b: Uint8Array): PictureInfo | null {
  if (b[0] === 0x89 && b[1] === 0x50 && b[2] === 0x4e && b[3] === 0x47)
    return {
      type: 'image/png',
      width: be16(b, 16) * 65536 + be16(b, 18),
      height: be16(b, 20) * 65536 + be16(b, 22),
    };
  if (b[0] === 0x47 && b[1] === 0x49 && b[2] === 0x46)
    return {
      type: 'image/gif',
      width: (b[6] ?? 0) | ((b[7] ?? 0) << 8),
      height: (b[8] ?? 0) | ((b[9] ?? 0) << 8),
    };
  if (b[0] === 0xff && b[1] === 0xd8) {
    let i = 2;
    while (i + 9 < b.length) {
      if (b[i] !== 0xff) return null;
      const marker = b[i + 1] ?? 0;
      if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
        return { type: 'image/jpeg', width: be16(b, i + 7), height: be16(b, i + 5) };
      i += 2 + be16(b, i + 2);
    }
  }
  return null;
}

/** Kinds of pictures that no book carries but a picture library turns into one that it does. */
export type ForeignPicture = 'webp' | 'tiff' | 'avif';

/** WebP: RIFF container, RFC 9649 §2.3. TIFF 6.0 §2. AVIF: ISO/IEC 14496-12 §4.3, its brand by AV1 Image File Format §3. */
export function foreignPicture(b: Uint8Array): ForeignPicture | null {
  const at = (i: number, text: string): boolean => [...text].every((c, k) => b[i + k] === c.charCodeAt(0));
  if (at(0, 'RIFF') && at(8, 'WEBP')) return 'webp';
  if (at(0, 'II*\0') || at(0, 'MM\0*')) return 'tiff';
  if (at(4, 'ftypavif') || at(4, 'ftypavis')) return 'avif';
  return null;
}
