/** What an EPUB’s size is made of: bytes of its parts as they lie in the container, by sort. */
import type { EpubPackage } from './read';

export const PART_SORTS = ['pictures', 'faces', 'text', 'sound', 'rest'] as const;
export type PartSort = (typeof PART_SORTS)[number];

export interface PartSizes {
  /** Bytes of the whole container, its directory included. */
  whole: number;
  parts: Record<PartSort, number>;
  /** The largest pictures, their paths and bytes. */
  largest: { path: string; bytes: number }[];
}

/** Media types of typefaces (RFC 8081), and what older files call them. */
const FACE = /^font\/|font|vnd\.ms-opentype/;
const sortOf = (type: string): PartSort =>
  type.startsWith('image/')
    ? 'pictures'
    : FACE.test(type)
      ? 'faces'
      : /xhtml|css|dtbncx/.test(type)
        ? 'text'
        : /^(audio|video)\//.test(type)
          ? 'sound'
          : 'rest';

const LARGEST = 3;

/** `size`: bytes of the file. */
export function partSizes(p: EpubPackage, size: number): PartSizes {
  const types = new Map(p.manifest.map((i) => [i.path, i.type]));
  const parts: PartSizes['parts'] = { pictures: 0, faces: 0, text: 0, sound: 0, rest: 0 };
  let known = 0;
  for (const { name, compressed } of p.zip.entries) {
    parts[sortOf(types.get(name) ?? '')] += compressed;
    known += compressed;
  }
  // Names and places of the parts.
  parts.rest += Math.max(0, size - known);
  const pictures = p.zip.entries.filter((e) => sortOf(types.get(e.name) ?? '') === 'pictures');
  return {
    whole: size,
    parts,
    largest: [...pictures]
      .sort((a, b) => b.compressed - a.compressed || (a.name < b.name ? -1 : 1))
      .slice(0, LARGEST)
      .map((e) => ({ path: e.name, bytes: e.compressed })),
  };
}

/** Below this a file’s size is of no account anywhere. */
const SMALL = 1_000_000;

/**
 * What would make a file smaller, as sentences; none where it is small. `pictures`: how large the edition’s pictures are;
 * null where nobody can choose.
 */
export function sizeAdvice(
  { whole, parts }: PartSizes,
  edition: { pictures: 'as-they-are' | 'large' | 'small' | null; faces: 'reader' | 'own' | null },
): string[] {
  if (whole < SMALL) return [];
  const advice: string[] = [];
  const share = (n: number): number => Math.round((n * 100) / whole);
  if (share(parts.pictures) >= 40)
    advice.push(
      edition.pictures === 'as-they-are'
        ? `Pictures are ${share(parts.pictures)} % of it. “Pictures for large screens” makes them smaller with no loss that can be seen.`
        : edition.pictures === 'large'
          ? `Pictures are ${share(parts.pictures)} % of it. “Pictures for small screens” makes them smaller again; on a large tablet they are a little softer.`
          : `Pictures are ${share(parts.pictures)} % of it. Only fewer or simpler pictures would make it smaller.`,
    );
  if (share(parts.faces) >= 25 && edition.faces === 'own')
    advice.push(
      `Typefaces are ${share(parts.faces)} % of it. With “the reader’s typeface” the file goes without them.`,
    );
  if (advice.length > 0)
    // Common practice: such shops take a charge for each megabyte off every sale at their higher rate.
    advice.push('Some shops deduct a charge per megabyte from every sale, so a large file costs you money.');
  return advice;
}
