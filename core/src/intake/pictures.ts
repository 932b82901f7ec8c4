/** Pictures of kinds that no book carries, turned into such by whoever reads the manuscript. */
import { foreignPicture } from '../base';
import { paragraphsOf, type ConvertPicture, type RawManuscript } from './raw';

/** The manuscript with every foreign picture turned; those that cannot be are left out, with a word about them. */
export async function withFamiliarPictures(
  m: RawManuscript,
  convert?: ConvertPicture,
): Promise<RawManuscript> {
  const lost = new Map<string, string>();
  const pictures: RawManuscript['pictures'] = [];
  for (const p of m.pictures) {
    const kind = foreignPicture(p.bytes);
    const bytes = kind ? ((await convert?.(p.bytes)) ?? null) : p.bytes;
    if (bytes) pictures.push({ id: p.id, name: p.name, bytes });
    else lost.set(p.id, kind ?? '');
  }
  if (lost.size === 0) return { ...m, pictures };
  const here = <T extends { id: string }>(all: readonly T[]): T[] => all.filter((x) => !lost.has(x.id));
  for (const b of [...m.blocks, ...m.notes.flatMap((n) => n.paragraphs)])
    for (const p of paragraphsOf(b)) p.pictures = here(p.pictures);
  const cautions = [...m.cautions];
  for (const kind of new Set(lost.values()))
    cautions.push({
      rule: 'intake/picture-kind',
      message: `A picture (${NAMES[kind] ?? kind}) could not be opened. Save it as PNG or JPEG and add it in the manuscript.`,
    });
  return { ...m, pictures, cautions, cover: lost.has(m.cover) ? '' : m.cover };
}

const NAMES: Record<string, string> = { webp: 'WebP', tiff: 'TIFF', avif: 'AVIF' };
