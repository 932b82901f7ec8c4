/** Pictures of a manuscript: each kept once, and a caution for those that a book cannot use. */
import { fnvOf, foreignPicture, pictureInfo } from '../../base';
import type { RawManuscript } from '../raw';

export class PictureShelf {
  private readonly known = new Map<string, string>();
  constructor(private readonly m: RawManuscript) {}

  private caution(rule: string, message: string): void {
    this.m.cautions.push({ rule, message });
  }

  /** Id of a picture; null for anything a book can’t use as one. */
  add(bytes: Uint8Array, type = ''): string | null {
    const print = fingerprint(bytes);
    const known = this.known.get(print);
    if (known) return known;
    const info = pictureInfo(bytes);
    if (!info && !foreignPicture(bytes)) {
      this.caution(
        'intake/picture-kind',
        `A picture is in a format that books can’t use (${type || 'unknown'}). Save it as PNG or JPEG and add it in the manuscript.`,
      );
      return null;
    }
    if (info && info.width * info.height <= 1)
      this.caution('intake/picture-tiny', 'A picture is one pixel in size.');
    if (info && (info.width > 10_000 || info.height > 10_000))
      this.caution(
        'intake/picture-huge',
        `A picture measures ${info.width} × ${info.height} pixels, far more than print can show.`,
      );
    const id = `p${this.m.pictures.length + 1}`;
    this.known.set(print, id);
    this.m.pictures.push({ id, name: `picture-${this.m.pictures.length + 1}`, bytes });
    return id;
  }

  /** A picture that is not in the file. */
  linked(): void {
    this.caution(
      'intake/external-picture',
      'A picture is linked, not embedded in the file, and wasn’t downloaded. Add it in the manuscript.',
    );
  }
}

/** Equal pictures are told by length and a sum over their bytes. */
const fingerprint = (b: Uint8Array): string => `${b.length}-${fnvOf(b, 1 + (b.length >> 16))}`;
