/** A cover as drawings: the printer's sheet, and the front alone for an ebook. */
import { inSentence, done, refused, type Finding, type Outcome } from '../base';
import { spineTurn, type Book, type Picture, printOf, type Edition, type PrintEdition } from '../book';
import { ComposeCache, Setter, type TypeSource } from '../compose';
import { FAMILY_NAMES, interiorOf, trimOf, type Trim } from '../design';
import type { Box, Drawing } from '../pdf';
import { authorsLine, isbnFault, plainDescription } from '../record';
import { paperOf, QUAYHEAD } from '../trade';
import { loadHyphenator } from '../type';
import { drawBack } from './back';
import { drawBarcode } from './barcode';
import { drawFront } from './front';
import { coverGeometry, type CoverGeometry } from './geometry';
import { Pen, type PlacedPart } from './pen';
import { drawSpine } from './spine';
import { coverTemplate } from './template';

export interface CoverSheet {
  drawing: Drawing;
  geometry: CoverGeometry;
  parts: readonly PlacedPart[];
  findings: readonly Finding[];
}
export interface CoverSource extends TypeSource {
  cache?: ComposeCache;
}

const pictureOf = (book: Book, id: string | null): Picture | null =>
  book.pictures.find((p) => p.id === id) ?? null;

/** What stands on the front where its picture does not carry the words. */
const wordsOf = ({ record }: Book) => ({
  title: record.title,
  subtitle: record.subtitle,
  author: authorsLine(record),
});

async function penFor(
  book: Book,
  edition: Edition,
  sheet: Pick<Trim, 'width' | 'height'>,
  source: CoverSource,
): Promise<Pen> {
  const interior = interiorOf(edition, { name: '', ...sheet });
  const cache = source.cache ?? new ComposeCache();
  const { cover, record } = book;
  const setter = new Setter(
    interior,
    cache.typeCase(source),
    {
      text: await source.family(interior.text.family),
      display: await source.family(
        cover.family && FAMILY_NAMES.includes(cover.family) ? cover.family : interior.text.display,
      ),
    },
    record.language,
    await loadHyphenator(record.language),
  );
  return new Pen(setter, cover);
}

function sheetOf(
  book: Book,
  editionId: string,
  pages: number,
): Outcome<{ edition: PrintEdition; trim: Trim; geometry: CoverGeometry }> {
  const edition = printOf(book, editionId);
  if (!edition) return refused('cover/edition', 'Only a print edition has a cover sheet.');
  const trim = trimOf(edition.trim);
  if (!trim) return refused('cover/trim', `“${edition.trim}” is not a trim. Write it like 5.5 x 8.5 in.`);
  if (pages < 1) return refused('cover/pages', 'The edition has no pages yet, so its spine has no width.');
  return done({
    edition,
    trim,
    geometry: coverGeometry(trim, pages, paperOf(edition.paper), edition.binding),
  });
}

/**
 * The printer's sheet of a print edition of so many pages. Errors: `cover/edition`, `cover/trim`, `cover/pages`.
 */
export async function coverSheet(
  book: Book,
  editionId: string,
  pages: number,
  source: CoverSource,
): Promise<Outcome<CoverSheet>> {
  const found = sheetOf(book, editionId, pages);
  if (!found.ok) return found;
  const { edition, trim, geometry } = found.value;
  const pen = await penFor(book, edition, trim, source);
  const { cover: plan, record } = book;
  const front = pictureOf(book, record.cover);
  const sheet = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  pen.fill(sheet, plan.ground);
  // The front's picture bleeds at three edges, and ends at the spine's fold.
  const bleeding: Box = {
    x: geometry.front.x,
    y: 0,
    width: geometry.width - geometry.front.x,
    height: geometry.height,
  };
  const crowded = !drawFront(pen, wordsOf(book), front, geometry.front, bleeding);
  const device = pictureOf(book, plan.device);
  const narrow = drawSpine(
    pen,
    { title: record.title, author: authorsLine(record) },
    device,
    geometry,
    spineTurn(plan.spine.direction, record.language),
  );
  const author = record.contributors.find((c) => c.role === 'author');
  const fits = drawBack(
    pen,
    {
      text: plan.back ?? plainDescription(record.description),
      life: plan.life ? (author?.life ?? '') : '',
      imprint: record.imprint,
    },
    { portrait: pictureOf(book, plan.portrait), device },
    geometry,
  );
  const findings: Finding[] = [];
  const find = (rule: string, severity: Finding['severity'], message: string, remedy: string): void =>
    void findings.push({ rule, severity, message, remedy });
  if (
    plan.barcode &&
    !(await drawBarcode(pen, edition.isbn, plan.priced ? edition.price : null, geometry.barcode))
  )
    find(
      'cover/isbn',
      'caution',
      isbnFault(edition.isbn) === 'empty'
        ? `The ${inSentence(edition.name)} has no ISBN, so the barcode area is left white.`
        : `The ISBN of the ${inSentence(edition.name)} is not valid, so there is no barcode.`,
      'Write the ISBN in the record.',
    );
  if (narrow === 'narrow')
    find(
      'cover/spine-narrow',
      'caution',
      `The spine is ${millimetres(geometry.spine.width)} wide, too narrow for words: they would run over the folds.`,
      'Leave them off, or choose a thicker paper; about a hundred pages make a spine wide enough.',
    );
  if (narrow === 'long')
    find(
      'cover/spine-long',
      'caution',
      'Title and author are too long for the spine.',
      'Leave the words off the spine.',
    );
  if (crowded)
    find(
      'cover/front-crowded',
      'caution',
      'There isn’t room for the words on the front: they overlap or run off the page.',
      plan.titleSize === null
        ? 'Leave the subtitle or the line above the title off, or choose another arrangement.'
        : 'Set the title smaller, or leave its size to the page.',
    );
  if (!fits)
    find(
      'cover/back-long',
      'blocker',
      'The back cover text runs into the barcode, even in the smallest letters.',
      'Write a shorter text for the back, or leave off the author biography.',
    );
  const bound = QUAYHEAD.pages[edition.binding];
  if (pages < bound.least || pages > bound.most)
    find(
      'cover/pages',
      'caution',
      `${QUAYHEAD.name} binds ${bound.least} to ${bound.most} pages; these are ${pages}.`,
      'Choose another trim or type size.',
    );
  for (const char of pen.missing)
    find('type/missing-glyph', 'blocker', `No face has the character ${char}.`, 'Write it in other letters.');
  findings.push(...sharpness(pen, book));
  return done({
    drawing: {
      width: geometry.width,
      height: geometry.height,
      trim: geometry.trim,
      drawn: pen.drawn,
      faces: pen.faces,
    },
    geometry,
    parts: pen.parts,
    findings,
  });
}

const millimetres = (mp: number): string => `${((mp / 72_000) * 25.4).toFixed(1)} mm`;

function sharpness(pen: Pen, book: Book): Finding[] {
  const findings: Finding[] = [];
  for (const d of pen.drawn) {
    const picture = d.kind === 'picture' ? pictureOf(book, d.picture) : null;
    if (d.kind !== 'picture' || !picture) continue;
    const density = Math.round(picture.width / (d.box.width / 72_000));
    if (density >= QUAYHEAD.pixels.wanted) continue;
    findings.push({
      rule: 'cover/resolution',
      severity: density < QUAYHEAD.pixels.least ? 'caution' : 'note',
      message: `${picture.name || 'A picture'} has ${density} pixels an inch at its size on the cover; ${QUAYHEAD.pixels.wanted} are wanted.`,
      remedy: 'Choose a larger file of the picture.',
    });
  }
  return findings;
}

/** An empty sheet with its guides, for a designer. Errors: as of `coverSheet`. */
export async function coverTemplateOf(
  book: Book,
  editionId: string,
  pages: number,
  source: CoverSource,
): Promise<Outcome<{ drawing: Drawing; findings: readonly Finding[] }>> {
  const found = sheetOf(book, editionId, pages);
  if (!found.ok) return found;
  const { edition, trim, geometry } = found.value;
  const pen = await penFor({ ...book, cover: { ...book.cover, family: null } }, edition, trim, source);
  return done({ drawing: coverTemplate(pen, geometry, book.record.title, pages), findings: [] });
}

/** The front alone, in the shape that ebook shops show (common practice: 1.6 times as high as wide). */
export async function coverFront(
  book: Book,
  edition: Edition,
  source: CoverSource,
  shape = { width: 360_000, height: 576_000 },
): Promise<Drawing> {
  const pen = await penFor(book, edition, shape, source);
  // As an ebook shows it: nothing bleeds.
  const box = { x: 0, y: 0, ...shape };
  pen.fill(box, book.cover.ground);
  drawFront(pen, wordsOf(book), pictureOf(book, book.record.cover), box, box);
  return { ...shape, trim: box, drawn: pen.drawn, faces: pen.faces };
}
