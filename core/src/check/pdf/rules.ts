/** Rules for a PDF that goes to a printer. */
import { inchString } from '../../base';
import { QUAYHEAD } from '../../trade';
import type { Breach, Rule } from '../rules';
import { listed, pagesNamed } from './pagesnamed';
import type { PdfSubject } from './subject';

const { wanted: WANTED, least: LEAST } = QUAYHEAD.pixels;
const pts = (n: number): string => `${inchString(n * 1000)} in`;

export const PDF_RULES: readonly Rule<PdfSubject>[] = [
  {
    name: 'pdf/no-pages',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice',
    *look({ pages }) {
      if (pages.length === 0) yield { message: 'The file has no pages.' };
    },
  },
  {
    name: 'pdf/page-sizes',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: one edition, one trim',
    *look({ pages }) {
      const first = pages[0];
      if (!first) return;
      const odd = pages.findIndex(
        (p) => Math.abs(p.width - first.width) > 0.02 || Math.abs(p.height - first.height) > 0.02,
      );
      if (odd >= 0)
        yield {
          message: `Page ${odd + 1} measures ${pts(pages[odd]!.width)} × ${pts(pages[odd]!.height)}, the first page ${pts(first.width)} × ${pts(first.height)}.`,
          why: 'Printers refuse a file whose pages differ in size.',
        };
    },
  },
  {
    name: 'pdf/boxes',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.6: TrimBox within BleedBox within MediaBox',
    *look({ pages, claims }) {
      for (const [i, p] of pages.entries()) {
        const media = p.boxes.MediaBox;
        const trim = p.boxes.TrimBox;
        if (!trim) {
          // Without a standard the edge of the page is the trim.
          if (claims !== '')
            return void (yield {
              message: `The file claims ${claims}, and page ${i + 1} does not say where it is trimmed.`,
              why: 'A printer cuts by the trim box.',
            });
          continue;
        }
        const bleed = p.boxes.BleedBox ?? media;
        if (!within(trim, bleed) || !within(bleed, media))
          return void (yield { message: `The trim of page ${i + 1} lies outside its sheet.` });
      }
    },
  },
  {
    name: 'pdf/no-trim-box',
    severity: 'note',
    profiles: ['print'],
    source: 'common practice: a page without a trim box is cut at its edge',
    why: 'A file for print tells its trim from its sheet, so that pictures can run over the edge.',
    remedy: 'If pictures are to reach the edge, export the file with a trim box and a bleed.',
    *look({ claims, pages }) {
      const found = claims === '' ? pagesWhere(pages, ({ boxes }) => !boxes.TrimBox) : null;
      if (found)
        yield { message: `Nothing says where the paper is cut on ${found}: it is cut at the page’s edge.` };
    },
  },
  {
    name: 'pdf/fonts-embedded',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.4',
    *look({ fonts }) {
      for (const f of fonts)
        if (!f.embedded)
          yield {
            message: `The face ${f.name} is not embedded.`,
            why: 'The press would set another face in its place.',
          };
    },
  },
  {
    name: 'pdf/encrypted',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.2.2',
    *look({ encrypted }) {
      if (encrypted) yield { message: 'The file is encrypted.', why: 'A printer cannot open it.' };
    },
  },
  {
    name: 'pdf/links',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice',
    *look({ pages }) {
      const i = pages.findIndex((p) => p.annotations > 0);
      if (i >= 0) yield { message: `Page ${i + 1} holds links or notes, which do not print.` };
    },
  },
  {
    name: 'pdf/even-pages',
    severity: 'note',
    profiles: ['print'],
    source: 'common practice: a leaf has two sides',
    *look({ pages }) {
      if (pages.length % 2 === 1)
        yield { message: `The file has an odd number of pages (${pages.length}); the printer adds a blank.` };
    },
  },
  {
    name: 'pdf/no-intent',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.2.2: an output intent (from memory)',
    why: 'The press can’t know what its colours are meant for.',
    remedy: 'Export the file again with an output intent.',
    *look({ claims, intents }) {
      if (claims !== '' && intents === 0)
        yield {
          message: `The file claims ${claims}, and doesn’t say for which printing condition it was made.`,
        };
    },
  },
  {
    name: 'pdf/colour-not-allowed',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.2.3: colours of inks alone (from memory)',
    why: 'The standard that the file claims forbids it, and printers refuse the file.',
    remedy: 'Convert its colours, or export it by another standard.',
    *look({ claims, pages }) {
      if (!/X-1/.test(claims)) return;
      const found = pagesWhere(pages, ({ ink }) => ink.colours.has('rgb') || ink.colours.has('lab'));
      if (found) yield { message: `The file claims ${claims} and has colours of screens on ${found}.` };
    },
  },
  {
    name: 'pdf/screen-colour',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice',
    why: 'Colours of screens are converted by the printer’s machine, and may come out otherwise than you saw them.',
    remedy: 'Convert them to the colours of inks, or to greys for a book in black.',
    *look({ claims, pages }) {
      const found = /X-/.test(claims)
        ? null
        : pagesWhere(pages, ({ ink }) => ink.colours.has('rgb') || ink.colours.has('lab'));
      if (found) yield { message: `Colours of screens (RGB) are on ${found}.` };
    },
  },
  {
    name: 'pdf/transparency',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.10: no transparency (from memory)',
    why: 'The standard that the file claims forbids it: it is flattened in ways that nobody has seen.',
    remedy: 'Flatten it, or export the file by PDF/X-4.',
    *look({ claims, pages }) {
      const found = /X-[13]/.test(claims) ? pagesWhere(pages, ({ ink }) => ink.transparent) : null;
      if (found) yield { message: `The file claims ${claims} and has transparency on ${found}.` };
    },
  },
  {
    name: 'pdf/coarse-picture',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: printers want ${WANTED} pixels an inch`,
    why: 'It prints soft, with steps along its edges.',
    remedy: 'Use a larger file of the picture, or show it smaller.',
    look: ({ pages }) => coarse(pages, 0, LEAST),
  },
  {
    name: 'pdf/soft-picture',
    severity: 'note',
    profiles: ['print'],
    source: `common practice: printers want ${WANTED} pixels an inch`,
    why: 'Fine lines in it may look soft.',
    remedy: 'If there is a larger file of it, use that.',
    look: ({ pages }) => coarse(pages, LEAST, WANTED * 0.95),
  },
  {
    name: 'pdf/no-bleed',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice: an eighth of an inch, or 3 mm',
    why: 'The knife never falls on the same line twice: a white edge shows where a picture ends at the trim.',
    remedy: 'Let pictures run over the edge by an eighth of an inch, and give the file a bleed box.',
    *look({ pages }) {
      const found = pagesWhere(pages, ({ boxes, ink }) => {
        const trim = boxes.TrimBox ?? boxes.CropBox ?? boxes.MediaBox;
        const bleed = boxes.BleedBox ?? boxes.MediaBox;
        if (!trim || !bleed) return false;
        return ink.images.some(({ box }) =>
          [0, 1, 2, 3].some((i) => {
            const out = i < 2 ? -1 : 1;
            const reaches = (box[i]! - trim[i]!) * out >= -0.5;
            return reaches && ((bleed[i]! - trim[i]!) * out < BLEED || (box[i]! - trim[i]!) * out < BLEED);
          }),
        );
      });
      if (found) yield { message: `Pictures reach the edge without bleed on ${found}.` };
    },
  },
  {
    name: 'pdf/blank-pages',
    severity: 'note',
    profiles: ['print'],
    source: 'common practice: one blank page before a right-hand start is usual, two in a row are not',
    remedy: 'Look whether they are meant.',
    *look({ pages }) {
      const blank = pages.map(({ ink }) => !ink.paints);
      const found = blank.flatMap((b, i) =>
        b && (blank[i - 1] || (blank[i + 1] && i + 1 < pages.length)) ? [i + 1] : [],
      );
      if (found.length > 0) yield { message: `Blank pages follow one another: ${listed(found)}.` };
    },
  },
];

type Page = PdfSubject['pages'][number];
/** "page 4", "pages 4, 7 and 9", "pages 4, 7, 9 and 12 more"; null for none. */
function pagesWhere(pages: readonly Page[], is: (p: Page) => boolean): string | null {
  const found = pages.flatMap((p, i) => (is(p) ? [i + 1] : []));
  return found.length === 0 ? null : pagesNamed(found);
}
/** Half a point less than a sixteenth of an inch would be no bleed to speak of. */
const BLEED = 4;

/** Pictures of greys and colours between two densities; lines in black and white want more, and are passed over. */
function* coarse(pages: readonly Page[], from: number, to: number): Generator<Breach> {
  for (const [i, { ink }] of pages.entries())
    for (const { density, width, height, colour, bits } of ink.images)
      // A picture of a few pixels is a rule or a ground.
      if (density >= from && density < to && colour !== 'mask' && bits > 1 && width > 16 && height > 16)
        yield {
          message: `A picture on page ${i + 1} has ${Math.round(density)} pixels an inch at its size; ${WANTED} are wanted.`,
          about: `${i + 1} ${width} ${height}`,
        };
}

const within = (inner: readonly number[] | undefined, outer: readonly number[] | undefined): boolean =>
  !inner ||
  !outer ||
  (inner[0]! >= outer[0]! - 0.01 &&
    inner[1]! >= outer[1]! - 0.01 &&
    inner[2]! <= outer[2]! + 0.01 &&
    inner[3]! <= outer[3]! + 0.01);
