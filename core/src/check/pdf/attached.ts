/** A PDF that someone else made for an edition, a designer's cover or an interior: whether it fits the edition as it stands. */
import { moneyString, type Finding } from '../../base';
import type { PrintEdition } from '../../book';
import { coverGeometry, priceAddOn, priceOfAddOn, type CoverGeometry } from '../../cover';
import { trimOf } from '../../design';
import type { BookRecord } from '../../record';
import { likest } from '../letters';
import { paperOf, spineWidth, type Fit } from '../../trade';
import { runRules, type Breach, type Rule } from '../rules';
import { PDF_RULES } from './rules';
import { checkPrinted, cutOf, MM, type InkMargins } from './printed';
import type { PdfSubject } from './subject';

/** A barcode as a decoder read it. */
export interface ReadBarcode {
  digits: string;
  /** The five digits beside it that tell the price; '' where there are none. */
  addOn: string;
  /** Width of the narrowest bar in points. */
  module: number;
  /** Quiet zones before and after it, in modules, as far as was looked. */
  before: number;
  after: number;
}
export interface CoverFile extends CoverWords {
  pdf: PdfSubject;
  fit: Fit;
  geometry: CoverGeometry;
  /** What a decoder found on the sheet. */
  barcodes: readonly ReadBarcode[];
}

const saidPrice = (addOn: string): string => {
  const price = priceOfAddOn(addOn);
  return price ? moneyString(price) : addOn;
};
const mm = (pt: number): string => `${(pt / MM).toFixed(1)} mm`;
const pt = (mp: number): number => mp / 1000;
/** A sheet may be off by a thirty-second of an inch (common practice), in points. */
const OFF = 72 / 32;
/** Bleed that is short by less than this is as good as whole, in points. */
const NEARLY = 0.5;
/** Quiet zones that an EAN-13 needs, in modules (ISO/IEC 15420, from memory). */
const QUIET = { before: 11, after: 7 };
/** Narrowest module that scanners take, in points: 80 % of 0.33 mm (GS1 General Specifications, from memory). */
const LEAST_MODULE = 0.264 * MM;

/** Pages whose spine would be that wide, in points. */
function pagesOfSpine(width: number, { paper, binding }: Fit): number {
  const of = (pages: number): number => pt(spineWidth(pages, paperOf(paper), binding));
  const leaf = (of(1_000) - of(0)) / 1_000;
  return Math.max(0, Math.round((width - of(0)) / leaf));
}

export interface CoverWords {
  /** Lines that a recogniser read on it. */
  words: readonly string[];
  record: Pick<BookRecord, 'title' | 'contributors'>;
  /** Which cover it is: what is accepted of one is not accepted of another. */
  cover: 'front' | 'designer’s cover';
}
const COVER_WORD_RULES: readonly Rule<CoverWords>[] = [
  {
    name: 'cover/title',
    severity: 'caution',
    profiles: ['agreement'],
    source: 'common practice: shops compare the cover with the listing',
    why: 'Shops refuse a book whose cover shows a different title.',
    remedy:
      'Compare the cover with the record. If they match, accept this finding: hand-drawn lettering can’t always be read.',
    look: ({ words, record, cover }) => missing(words, record.title, 'the title', cover),
  },
  {
    name: 'cover/author',
    severity: 'caution',
    profiles: ['agreement'],
    source: 'common practice: shops compare the cover with the listing',
    why: 'Shops refuse a book whose cover names a different author.',
    remedy:
      'Compare the cover with the record. If they match, accept this finding: hand-drawn lettering can’t always be read.',
    *look({ words, record, cover }) {
      for (const c of record.contributors)
        if (c.role === 'author') yield* missing(words, c.name, 'the author', cover);
    },
  },
];
/** The words of a front that is the author’s own picture, against the record. */
export const checkFront = (words: readonly string[], record: CoverWords['record']): Finding[] =>
  runRules(COVER_WORD_RULES, { words, record, cover: 'front' });

export const COVER_FILE_RULES: readonly Rule<CoverFile>[] = [
  {
    name: 'cover/one-sheet',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: back, spine and front on one sheet',
    remedy: 'Export back, spine and front side by side on one page.',
    *look({ pdf }) {
      if (pdf.pages.length !== 1)
        yield { message: `The file has ${pdf.pages.length} pages instead of one sheet.` };
    },
  },
  {
    name: 'cover/height',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: trim of the pages; boards stand out from them',
    why: 'The cover doesn’t fit the pages, and the printer refuses it.',
    *look({ pdf, geometry }) {
      const [page] = pdf.pages;
      if (!page) return;
      const { height } = cutOf(page);
      const wanted = [pt(geometry.trim.height), ...(page.boxes.TrimBox ? [] : [pt(geometry.height)])];
      if (wanted.every((w) => Math.abs(height - w) > OFF))
        yield {
          message: `The trimmed sheet is ${mm(height)} high; this edition needs ${mm(pt(geometry.trim.height))}.`,
        };
    },
  },
  {
    name: 'cover/spine',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: two panels and a spine of half the pages times the caliper of the paper',
    why: 'The spine’s words would wrap onto the front or the back.',
    remedy: 'Send the designer the empty cover sheet from Editions: it has the right spine.',
    *look({ pdf, geometry, fit }) {
      const [page] = pdf.pages;
      if (!page) return;
      const { width } = cutOf(page);
      const bleed =
        page.boxes.TrimBox || Math.abs(width - pt(geometry.trim.width)) <= OFF ? 0 : 2 * pt(geometry.bleed);
      const off = width - bleed - pt(geometry.trim.width);
      if (Math.abs(off) <= OFF) return;
      const panels = pt(geometry.trim.width - geometry.spine.width);
      const spine = width - bleed - panels;
      const made = spine > 0 ? pagesOfSpine(spine, fit) : 0;
      const guess =
        made > 0 && made < 2_000 ? ` Its spine fits about ${made} pages; this book has ${fit.pages}.` : '';
      yield {
        message: `The trimmed sheet is ${mm(Math.abs(off))} too ${off > 0 ? 'wide' : 'narrow'}: ${mm(width - bleed)} instead of ${mm(pt(geometry.trim.width))}.${guess}`,
      };
    },
  },
  {
    name: 'cover/bleed',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: an eighth of an inch; boards are wrapped by more',
    why: 'Wherever the trim is slightly off, a white edge shows.',
    remedy: 'Export the cover with its bleed.',
    *look({ pdf, geometry }) {
      const [page] = pdf.pages;
      if (!page) return;
      const trim = cutOf(page);
      const sheet = page.boxes.BleedBox ?? page.boxes.MediaBox ?? [0, 0, page.width, page.height];
      const wanted = pt(geometry.bleed);
      // Without a trim box the sheet is taken to be trim and bleed together, when it has that size.
      if (!page.boxes.TrimBox && Math.abs(trim.height - pt(geometry.height)) <= OFF) return;
      const around = [
        trim.x - sheet[0]!,
        trim.y - sheet[1]!,
        sheet[2]! - trim.x - trim.width,
        sheet[3]! - trim.y - trim.height,
      ];
      const least = Math.min(...around);
      if (least < wanted - NEARLY)
        yield { message: `The cover has ${mm(Math.max(0, least))} of bleed; ${mm(wanted)} are needed.` };
    },
  },
  ...COVER_WORD_RULES,
  {
    name: 'cover/no-barcode',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice: shops of printed books scan them',
    why: 'Bookshops scan it at the till.',
    remedy: 'Ask the designer to put the barcode of this edition’s ISBN on the back.',
    *look({ fit, barcodes }) {
      if (fit.isbn && barcodes.length === 0) yield { message: 'The cover has no barcode that can be read.' };
    },
  },
  {
    name: 'cover/other-isbn',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISBN Users’ Manual, 7th ed., §10: the number on the cover is the edition’s',
    why: 'It would be sold as another book, or as another edition of this one.',
    remedy: 'Ask the designer to replace the barcode.',
    *look({ fit, barcodes }) {
      for (const { digits } of barcodes)
        if (/^97[89]/.test(digits) && digits !== fit.isbn)
          yield {
            message: fit.isbn
              ? `The barcode says ${digits}; this edition’s ISBN is ${fit.isbn}.`
              : `The barcode says ${digits}; this edition has no ISBN yet.`,
            about: digits,
          };
    },
  },
  {
    name: 'cover/other-price',
    severity: 'blocker',
    profiles: ['agreement'],
    source: 'common practice: the printed price is the list price',
    why: 'Bookshops charge what is printed, and refuse a book that is listed at another price.',
    remedy: 'Ask the designer to replace the barcode, or change the list price in the record.',
    *look({ fit, barcodes }) {
      const wanted = priceAddOn(fit.price);
      for (const { addOn } of barcodes)
        // Digits from 90000 on tell no price.
        if (/^[0-8]\d{4}$/.test(addOn) && addOn !== wanted)
          yield {
            message: fit.price
              ? `The barcode tells the price ${saidPrice(addOn)}; the list price of this edition is ${moneyString(fit.price)}.`
              : `The barcode tells the price ${saidPrice(addOn)}; this edition has no list price yet.`,
            about: addOn,
          };
    },
  },
  {
    name: 'cover/barcode-quiet-zone',
    severity: 'caution',
    profiles: ['print'],
    source: 'ISO/IEC 15420: quiet zones of 11 and 7 modules (from memory)',
    why: 'Scanners need white space to find where the bars begin.',
    remedy: 'Ask the designer for more white space beside the bars.',
    *look({ barcodes }) {
      for (const { digits, before, after } of barcodes)
        // An add-on may follow: its distance is its own affair.
        if (before < QUIET.before - 1 || after < QUIET.after - 1)
          yield {
            message: `The barcode’s quiet zones are ${Math.floor(before)} and ${Math.floor(after)} modules wide; ${QUIET.before} and ${QUIET.after} are needed.`,
            about: digits,
          };
    },
  },
  {
    name: 'cover/barcode-small',
    severity: 'caution',
    profiles: ['print'],
    source: 'GS1 General Specifications: 80 % at least (from memory)',
    why: 'Scanners may not read it.',
    remedy: 'Ask for a larger barcode.',
    *look({ barcodes }) {
      for (const { digits, module } of barcodes)
        if (module < LEAST_MODULE * 0.97)
          yield {
            message: `The barcode is at ${Math.round((module / (0.33 * MM)) * 100)} % of full size; the minimum is 80 %.`,
            about: digits,
          };
    },
  },
];

export interface PagesFile {
  pdf: PdfSubject;
  fit: Fit;
  inks: PrintEdition['inks'];
}
export const PAGES_FILE_RULES: readonly Rule<PagesFile>[] = [
  {
    name: 'interior/trim',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: one edition, one trim',
    why: 'The printer cuts the pages to the edition’s trim.',
    remedy: 'Export the pages at the edition’s trim size, or change the trim in Design.',
    *look({ pdf, fit }) {
      const [page] = pdf.pages;
      const wanted = trimOf(fit.trim);
      if (!page || !wanted) return;
      const { width, height } = cutOf(page);
      if (Math.abs(width - pt(wanted.width)) > 1 || Math.abs(height - pt(wanted.height)) > 1)
        yield {
          message: `The pages are trimmed to ${mm(width)} × ${mm(height)}; the edition’s trim is ${mm(pt(wanted.width))} × ${mm(pt(wanted.height))}.`,
        };
    },
  },
  {
    name: 'interior/colour',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice: a black book is priced and printed without colour',
    why: 'The colours print grey, or the whole book is charged as colour printing.',
    *look({ pdf, inks }) {
      const coloured = pdf.pages.filter(({ ink }) =>
        ['cmyk', 'rgb', 'spot', 'lab'].some((c) => ink.colours.has(c as 'rgb')),
      );
      if (inks === 'black' && coloured.length > 0)
        yield {
          message: `The edition is printed in black; ${coloured.length === 1 ? '1 page has' : `${coloured.length} pages have`} colours.`,
        };
    },
  },
];

/** As a recogniser reads: no case, no accents, no signs, no spaces. */
const bare = (s: string): string =>
  s
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '');

/** Words that the lines should hold, broken as they may be. */
function* missing(
  lines: readonly string[],
  wanted: string,
  what: string,
  cover: CoverWords['cover'],
): Generator<Breach> {
  const about = `${cover}: ${wanted}`;
  if (
    bare(wanted) === '' ||
    lines.some((_, i) => bare(lines.slice(i, i + 8).join('')).includes(bare(wanted)))
  )
    return;
  if (!/^[\p{Script=Latin}\p{N}\p{P}\p{Zs}\p{M}]*$/u.test(wanted))
    return void (yield {
      message: `Pagina can’t read this script on a cover. Compare ${what}, “${wanted}”, yourself.`,
      about,
    });
  const near = likest(lines, wanted);
  yield {
    message: near
      ? `The cover shows “${near}” where ${what} is “${wanted}”.`
      : `${what === 'the title' ? 'The title' : 'The author'}, “${wanted}”, could not be read on the cover.`,
    about,
    ...(near ? { differs: { found: near, wanted } } : {}),
  };
}

/** What a cover's sheet is to be for so many pages. */
export function wantedCover(edition: PrintEdition, pages: number): CoverGeometry | null {
  const trim = trimOf(edition.trim);
  return trim && coverGeometry(trim, pages, paperOf(edition.paper), edition.binding);
}

export function checkCoverFile(cover: Omit<CoverFile, 'cover'>): Finding[] {
  const file: CoverFile = { ...cover, cover: 'designer’s cover' };
  const ofPages = /even-pages|page-sizes|no-trim-box|no-bleed/;
  return [
    ...runRules(PDF_RULES, file.pdf).filter((f) => !ofPages.test(f.rule)),
    ...runRules(COVER_FILE_RULES, file),
  ];
}
export const checkPagesFile = (file: PagesFile & { ink: readonly (InkMargins | null)[] }): Finding[] => [
  ...runRules(PDF_RULES, file.pdf),
  ...checkPrinted({ pdf: file.pdf, ink: file.ink, binding: file.fit.binding }),
  ...runRules(PAGES_FILE_RULES, file),
];
