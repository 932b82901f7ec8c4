/** Makes covers: the printer's sheet as PDF, an empty one with its guides, and the front as a picture for ebooks. */
import { readFileSync } from 'node:fs';
import { deflateSync } from 'node:zlib';
import { done, type Finding, type Outcome } from '@pagina/core/base';
import { printOf, type Book, type Edition } from '@pagina/core/book';
import { coverFront, coverSheet, coverTemplateOf, drawingSvg, type CoverSource } from '@pagina/core/cover';
import { drawingFile, type Colour, type Drawing, type PdfPicture } from '@pagina/core/pdf';
import { authorsLine } from '@pagina/core/record';
import { startSubsetter } from '@pagina/core/type';
import { typeSource } from './faces';
import { inksOf, pressPicture, type PictureBytes } from './pictures';
import { wasmPath } from './places';

export interface CoverMade {
  bytes: Uint8Array;
  findings: readonly Finding[];
}

/** The sheet of a print edition of so many pages; with `empty` the guides alone. */
export async function makeCover(
  book: Book,
  editionId: string,
  pages: number,
  { pictures, modified = '', empty = false }: { pictures: PictureBytes; modified?: string; empty?: boolean },
): Promise<Outcome<CoverMade>> {
  const source: CoverSource = await typeSource();
  const made = await (empty ? coverTemplateOf : coverSheet)(book, editionId, pages, source);
  if (!made.ok) return made;
  const { drawing, findings } = made.value;
  const edition = printOf(book, editionId);
  const bytes = await drawingFile(
    drawing,
    {
      deflate: (b) => deflateSync(b),
      subsetter: await startSubsetter(readFileSync(wasmPath('harfbuzz-subset'))),
    },
    {
      kind: empty || edition?.standard === 'plain' ? 'plain' : 'x-1a',
      title: `Cover of ${book.record.title}`,
      author: authorsLine(book.record),
      language: book.record.language,
      identity: `${book.id}/${editionId}/${empty ? 'template' : 'cover'}`,
      date: edition?.date || modified,
      pictures: await pressPictures(drawing, pictures),
      inks: await inksOf(coloursOf(drawing)),
    },
  );
  return done({ bytes, findings });
}

const coloursOf = (d: Drawing): Colour[] => [
  ...new Set(d.drawn.flatMap((m) => ('colour' in m ? [m.colour] : []))),
];

async function pressPictures(d: Drawing, bytesOf: PictureBytes): Promise<Map<string, PdfPicture>> {
  const ready = new Map<string, PdfPicture>();
  for (const m of d.drawn) {
    if (m.kind !== 'picture' || ready.has(m.picture)) continue;
    const bytes = await bytesOf(m.picture);
    if (bytes) ready.set(m.picture, await pressPicture(bytes, m.box.width / 72_000));
  }
  return ready;
}

/** Height in pixels of an ebook's cover (common practice). */
const COVER_HEIGHT = 2_560;

/** A front that is set here, as a JPEG. */
export async function frontPicture(
  book: Book,
  edition: Edition,
  bytesOf: PictureBytes,
): Promise<{ bytes: Uint8Array; width: number; height: number }> {
  const { default: sharp } = await import('sharp');
  const drawing = await coverFront(book, edition, await typeSource());
  const pixels = {
    width: Math.round((COVER_HEIGHT * drawing.width) / drawing.height),
    height: COVER_HEIGHT,
  };
  const addresses = new Map<string, string>();
  for (const m of drawing.drawn) {
    if (m.kind !== 'picture') continue;
    const bytes = await bytesOf(m.picture);
    if (!bytes) continue;
    // No larger than it is seen, turned as the camera was held.
    const width = Math.round((m.box.width / drawing.width) * pixels.width);
    const small = await sharp(bytes).rotate().resize({ width }).png().toBuffer();
    addresses.set(m.picture, `data:image/png;base64,${small.toString('base64')}`);
  }
  const svg = drawingSvg(drawing, { href: (id) => addresses.get(id) ?? '', pixels });
  const jpeg = await sharp(Buffer.from(svg), { unlimited: true })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
    .toBuffer();
  return { bytes: new Uint8Array(jpeg), ...pixels };
}
