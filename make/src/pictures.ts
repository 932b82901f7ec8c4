/** Pictures for print: decoded, turned grey for black-and-white editions, never larger than they are printed. */
import { MOST_PIXELS } from '@pagina/core/base';
import type { Intake, Pixels } from '@pagina/core/intake';
import type { Colour, PdfPicture } from '@pagina/core/pdf';

/** Bytes of a book's picture by id; null when they are not at hand. */
export type PictureBytes = (id: string) => Promise<Uint8Array | null> | Uint8Array | null;

/** Pixels an inch that are of use to a press, and to a screen. */
const DENSITY = { print: 600, screen: 220, inks: 400 } as const;

/**
 * A picture as the printer's file carries it, in one black. `width` is the printed width in inches; more pixels than a
 * press can use are left out. Throws when the bytes are no picture.
 */
export const printPicture = (bytes: Uint8Array, width: number): Promise<PdfPicture> =>
  prepared(bytes, Math.round(width * DENSITY.print), 'DeviceGray');

/** The same for a screen: in colour, and lighter. */
export const screenPicture = (bytes: Uint8Array, width: number): Promise<PdfPicture> =>
  prepared(bytes, Math.round(width * DENSITY.screen), 'DeviceRGB');

/** The same in four inks, as covers have them and pages in colour. */
export async function pressPicture(bytes: Uint8Array, width: number): Promise<PdfPicture> {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, sequentialRead: true })
    .rotate()
    .flatten({ background: '#ffffff' })
    .resize({ width: Math.max(1, Math.round(width * DENSITY.inks)), withoutEnlargement: true })
    .toColourspace('cmyk')
    .jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    .toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    space: 'DeviceCMYK',
    filter: 'DCTDecode',
    bytes: new Uint8Array(data),
    inverted: true,
  };
}

/** The ICC profile by which pictures are turned into four inks. */
export async function profileOfInks(): Promise<Uint8Array | null> {
  const { default: sharp } = await import('sharp');
  const sample = sharp({ create: { width: 1, height: 1, channels: 3, background: '#ffffff' } });
  const turned = await sample.toColourspace('cmyk').withIccProfile('cmyk').jpeg().toBuffer();
  const { icc } = await sharp(turned).metadata();
  return icc ? new Uint8Array(icc) : null;
}

/** Colours in the four inks, turned as pictures are, so that a ground and a picture beside it agree. Pure black is one ink. */
export async function inksOf(colours: readonly Colour[]): Promise<(colour: Colour) => Inks> {
  const { default: sharp } = await import('sharp');
  const known = new Map<Colour, Inks>([
    ['#000000', [0, 0, 0, 1]],
    ['#ffffff', [0, 0, 0, 0]],
  ]);
  for (const colour of colours) {
    if (known.has(colour)) continue;
    const raw = await sharp({ create: { width: 1, height: 1, channels: 3, background: colour } })
      .toColourspace('cmyk')
      .raw()
      .toBuffer();
    known.set(colour, [raw[0], raw[1], raw[2], raw[3]].map((n) => (n ?? 0) / 255) as unknown as Inks);
  }
  return (colour) => known.get(colour) ?? [0, 0, 0, 1];
}

/**
 * PDF operators that set colours (ISO 32000-1 §8.6.8), by colour as 0xrrggbb: as a screen shows them, as four inks, or as the
 * grey that a picture's would become.
 */
export async function inkOperators(
  colours: readonly Colour[],
  how: 'screen' | 'four' | 'black',
): Promise<Map<number, string>> {
  const four = how === 'four' ? await inksOf(colours) : null;
  const operators = new Map<number, string>();
  for (const colour of colours) {
    const number = Number.parseInt(colour.slice(1), 16);
    const parts =
      how === 'black'
        ? [await greyOf(colour)]
        : (four?.(colour) ?? [16, 8, 0].map((shift) => ((number >> shift) & 255) / 255));
    operators.set(
      number,
      `${parts.map((n) => Math.round(n * 1000) / 1000).join(' ')} ${{ screen: 'rg', four: 'k', black: 'g' }[how]}`,
    );
  }
  return operators;
}

async function greyOf(colour: Colour): Promise<number> {
  const { default: sharp } = await import('sharp');
  const raw = await sharp({ create: { width: 1, height: 1, channels: 3, background: colour } })
    .greyscale()
    .toColourspace('b-w')
    .raw()
    .toBuffer();
  return (raw[0] ?? 0) / 255;
}
type Inks = readonly [cyan: number, magenta: number, yellow: number, black: number];

/** Whether a picture can be decoded to its last line. */
async function isWhole(bytes: Uint8Array): Promise<boolean> {
  const { default: sharp } = await import('sharp');
  try {
    await sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'truncated', sequentialRead: true }).stats();
    return true;
  } catch {
    return false;
  }
}

/** A picture of a kind that no book carries as PNG where it is small, grey or see-through, else as JPEG; null where it can't be opened. */
export async function familiarPicture(picture: Uint8Array | Pixels): Promise<Uint8Array | null> {
  const { default: sharp } = await import('sharp');
  try {
    const image =
      picture instanceof Uint8Array
        ? sharp(picture, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).rotate()
        : sharp(picture.data, {
            limitInputPixels: MOST_PIXELS,
            raw: { width: picture.width, height: picture.height, channels: picture.channels },
          });
    const { hasAlpha, channels, width, height } = await image.metadata();
    const plain = hasAlpha || channels === 1 || (width ?? 0) * (height ?? 0) < 250_000;
    const turned = image.toColourspace(channels === 1 ? 'b-w' : 'srgb').withMetadata({ density: 300 });
    const made = plain ? turned.png() : turned.jpeg({ quality: 94, chromaSubsampling: '4:4:4' });
    return new Uint8Array(await made.toBuffer());
  } catch {
    return null;
  }
}

/** What was read of a manuscript, without the pictures that cannot be decoded, and with a word about each. */
export async function withWholePictures<T extends Intake>(read: T): Promise<T> {
  const damaged = new Set<string>();
  for (const [id, bytes] of read.files) if (!(await isWhole(bytes))) damaged.add(id);
  if (damaged.size === 0) return read;
  const names = read.book.pictures.filter((p) => damaged.has(p.id)).map((p) => p.name);
  return {
    ...read,
    book: { ...read.book, pictures: read.book.pictures.filter((p) => !damaged.has(p.id)) },
    files: new Map([...read.files].filter(([id]) => !damaged.has(id))),
    findings: [
      ...read.findings,
      ...names.map((name) => ({
        rule: 'intake/picture-damaged',
        severity: 'caution' as const,
        message: `A picture (${name}) is damaged and can’t be opened. Its place and caption were kept.`,
        remedy: 'Save the picture again as PNG or JPEG and add it in the manuscript.',
      })),
    ],
  };
}

async function prepared(
  bytes: Uint8Array,
  most: number,
  space: 'DeviceGray' | 'DeviceRGB',
): Promise<PdfPicture> {
  // Loaded only for a book with pictures: the library takes a while to start.
  const { default: sharp } = await import('sharp');
  const grey = space === 'DeviceGray';
  const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, sequentialRead: true })
    .rotate()
    .flatten({ background: '#ffffff' });
  const { data, info } = await (grey ? image.greyscale() : image)
    .resize({ width: Math.max(1, most), withoutEnlargement: true })
    .toColourspace(grey ? 'b-w' : 'srgb')
    .jpeg({ quality: grey ? 92 : 86, chromaSubsampling: '4:4:4' })
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, space, filter: 'DCTDecode', bytes: new Uint8Array(data) };
}
