/** The set pages of a print edition: words beyond the measure, pages nearly empty, pictures too small for print. */
import { inSentence, type Place } from '../../base';
import { editionOf, printOf, type Book } from '../../book';
import { COARSE, type ReportMark } from '../../compose';
import { leastInside, QUAYHEAD } from '../../trade';
import type { Breach, Rule } from '../rules';
import type { PagesFacts } from './facts';
import { missingGlyphs } from './glyphs';

export interface PagesSubject {
  book: Book;
  facts: PagesFacts;
}

const PRACTICE = 'common practice';

/** Marks of the report, one for each block; `say` may tell what another message is for a table. */
function* marked(
  { book, facts }: PagesSubject,
  kind: ReportMark['kind'],
  message: string,
  inTables?: Partial<Breach>,
): Generator<Breach> {
  const seen = new Set<string>();
  for (const { kind: of, place, page } of facts.marks) {
    const key = `${place.section} ${place.block ?? page}`;
    if (of !== kind || seen.has(key)) continue;
    seen.add(key);
    const table = inTables && place.block !== undefined && inTable(book, place.section, place.block);
    yield { message, place, ...(table ? inTables : {}) };
  }
}

const folio = ({ labels }: PagesFacts, page: number): string => labels[page] || String(page + 1);

/** Rules of what the composer marks itself. */
const mark = (
  name: string,
  kind: ReportMark['kind'],
  severity: 'caution' | 'note',
  message: string,
  more: Pick<Rule<PagesSubject>, 'why' | 'remedy'>,
  inTables?: Partial<Breach>,
): Rule<PagesSubject> => ({
  name,
  severity,
  profiles: ['print'],
  source: PRACTICE,
  ...more,
  look: (subject) => marked(subject, kind, message, inTables),
});

const WIDE = {
  why: 'Readers take the pieces for words of their own.',
  remedy: 'Shorten it, or choose a place where it may be divided.',
};
const EDGES = {
  remedy: 'Shorten or lengthen a paragraph nearby by a few words, or change the type size a little.',
};

/** Leading as a share of the type size within which books are set (common practice: 115 to 120 %, up to a half more for long lines). */
const LEADING = { least: 1.15, most: 1.5 };

export const PAGE_RULES: readonly Rule<PagesSubject>[] = [
  {
    name: 'type/missing-glyph',
    severity: 'blocker',
    profiles: ['print'],
    source: PRACTICE,
    why: 'Readers of the printed book would see a box instead. The ebook is not affected: reading systems have faces of their own.',
    remedy: 'Spell it in other letters, or add it as a picture.',
    look: ({ facts }) => missingGlyphs(facts.missing),
  },
  mark(
    'type/cut-word',
    'cut',
    'caution',
    'A word is wider than the line, and is cut without a hyphen.',
    WIDE,
    {
      message: 'A word is wider than its column, and is cut without a hyphen.',
      remedy: 'Make the column wider, or the words shorter.',
    },
  ),
  mark('type/overfull-line', 'overfull', 'caution', 'A line runs beyond the measure.', WIDE),
  mark('type/overset-box', 'overset', 'caution', 'The words on a picture page don’t fit their box.', {
    why: 'They run on below it, over the picture or off the page.',
    remedy: 'Make the box larger, or the words smaller or fewer.',
  }),
  mark(
    'type/near-edge',
    'unsafe',
    'caution',
    'Words on a picture page are too near an edge of the paper or the fold.',
    {
      why: 'Printers ask for a quarter of an inch, so that no knife cuts into them.',
      remedy: 'Move the box inside the safe area.',
    },
  ),
  mark(
    'type/widow',
    'widow',
    'caution',
    'The last line of a paragraph is alone at the head of a page.',
    EDGES,
  ),
  mark(
    'type/orphan',
    'orphan',
    'caution',
    'The first line of a paragraph is alone at the foot of a page.',
    EDGES,
  ),
  mark(
    'type/stranded-heading',
    'stranded',
    'caution',
    'A heading has fewer than two lines below it on its page.',
    EDGES,
  ),
  mark(
    'type/short-last-page',
    'short-last',
    'note',
    'The last page of a section has fewer than four lines.',
    EDGES,
  ),
  mark('type/unlevel-spread', 'unlevel', 'note', 'Two facing pages don’t end on the same line.', EDGES),
  {
    name: 'type/bare-page',
    severity: 'caution',
    profiles: ['print'],
    source: PRACTICE,
    why: 'Readers think that the chapter ends there, or that the page is a mistake.',
    remedy: 'Take the forced page break out in Manuscript.',
    *look({ facts }) {
      for (const { page, rows, place } of facts.bare)
        yield {
          message: `A forced break leaves page ${folio(facts, page)} nearly empty: it holds ${rows === 1 ? 'one line' : `${rows} lines`}.`,
          place,
        };
    },
  },
  {
    name: 'type/picture-coarse',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: printers want ${QUAYHEAD.pixels.wanted} pixels an inch`,
    why: 'It prints soft, with steps along its edges.',
    remedy: 'Put in a larger file of the picture, or set it smaller.',
    *look({ book, facts }) {
      for (const { picture, density, place, smaller } of densities(book, facts))
        if (density < (QUAYHEAD.pixels.wanted * 2) / 3 && !smaller)
          yield { message: coarse(picture, density), place, about: picture };
    },
  },
  {
    name: 'type/picture-soft',
    severity: 'note',
    profiles: ['print'],
    source: `common practice: printers want ${QUAYHEAD.pixels.wanted} pixels an inch`,
    why: 'Fine lines in it may look soft.',
    remedy: 'If there is a larger file of it, use that.',
    *look({ book, facts }) {
      for (const { picture, density, place } of densities(book, facts))
        if (density >= (QUAYHEAD.pixels.wanted * 2) / 3 && density < QUAYHEAD.pixels.wanted)
          yield { message: coarse(picture, density), place, about: picture };
    },
  },
  {
    name: 'type/picture-smaller',
    severity: 'caution',
    profiles: ['print'],
    source: PRACTICE,
    why: 'At the size asked for it would print in steps, so it is drawn no larger than its pixels allow.',
    remedy: 'Put in a larger file of the picture, or ask for a smaller size.',
    *look({ book, facts }) {
      for (const { picture, place, width, smaller } of densities(book, facts))
        if (smaller)
          yield {
            message: `${picture} is drawn smaller than asked for: it has pixels for ${(width / 72_000).toFixed(1)} in and no more.`,
            place,
            about: picture,
          };
    },
  },
  {
    name: 'design/leading',
    severity: 'note',
    profiles: ['print'],
    source: 'common practice: 115 to 120 % of the type size, more for long lines',
    why: 'Lines too close or too far apart tire the eye.',
    remedy: 'Change it in Design.',
    *look({ book, facts }) {
      const { size, leading } = facts.interior;
      const share = leading / size;
      if (share < LEADING.least || share > LEADING.most)
        yield {
          message: `The ${nameOf(book, facts)} is set ${size / 1000} on ${leading / 1000} points: the leading is ${Math.round(share * 100)} % of the type size.`,
          remedy:
            share < LEADING.least
              ? `At least ${Math.ceil((size * LEADING.least) / 100) / 10} points would be usual; change it in Design.`
              : 'Change it in Design, unless the airy look is meant.',
        };
    },
  },
  {
    name: 'design/inside-margin',
    severity: 'blocker',
    profiles: ['print'],
    source: `common practice; the table of ${QUAYHEAD.name}, a printer that does not exist`,
    why: 'A thick book doesn’t open flat: words run into the fold, and printers refuse the file.',
    remedy: 'Make the inside margin wider in Design.',
    *look({ book, facts }) {
      const pages = facts.labels.length;
      const least = leastInside(QUAYHEAD, pages);
      const { inside } = facts.interior.margins;
      if (inside < least)
        yield {
          message: `The inside margin of the ${nameOf(book, facts)} is ${mms(inside)}; for ${pages} pages ${QUAYHEAD.name} wants ${mms(least)}.`,
        };
    },
  },
  {
    name: 'design/outer-margins',
    severity: 'blocker',
    profiles: ['print'],
    source: `common practice; the table of ${QUAYHEAD.name}, a printer that does not exist`,
    why: 'Paper shifts under the knife, and words near an edge are cut.',
    remedy: 'Make the margins wider in Design.',
    *look({ book, facts }) {
      const { outside, top, bottom } = facts.interior.margins;
      for (const [name, margin] of [
        ['outside', outside],
        ['top', top],
        ['bottom', bottom],
      ] as const)
        if (margin < QUAYHEAD.outside)
          yield {
            message: `The ${name} margin of the ${nameOf(book, facts)} is ${mms(margin)}; ${QUAYHEAD.name} wants ${mms(QUAYHEAD.outside)}.`,
            about: name,
          };
    },
  },
  {
    name: 'design/page-count',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice; the table of ${QUAYHEAD.name}, a printer that does not exist`,
    why: 'The printer can’t bind so few or so many pages.',
    remedy: 'Choose another trim, type size or binding, or divide the book into volumes.',
    *look({ book, facts }) {
      const edition = printOf(book, facts.edition);
      const limits = edition && QUAYHEAD.pages[edition.binding];
      const pages = facts.labels.length;
      if (limits && (pages < limits.least || pages > limits.most))
        yield {
          message: `The ${nameOf(book, facts)} has ${pages} pages; ${QUAYHEAD.name} binds ${limits.least} to ${limits.most}.`,
        };
    },
  },
  {
    name: 'design/trim',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice; the table of ${QUAYHEAD.name}, a printer that does not exist`,
    why: 'The printer can’t cut this size.',
    remedy: 'Choose another trim in Design.',
    *look({ book, facts }) {
      const { trim } = facts.interior;
      const { least, most } = QUAYHEAD.trims;
      if (
        trim.width < least.width ||
        trim.height < least.height ||
        trim.width > most.width ||
        trim.height > most.height
      )
        yield {
          message: `The trim of the ${nameOf(book, facts)}, ${mms(trim.width)} × ${mms(trim.height)}, is outside what ${QUAYHEAD.name} prints: ${mms(least.width)} × ${mms(least.height)} to ${mms(most.width)} × ${mms(most.height)}.`,
        };
    },
  },
];

const mms = (mp: number): string => `${(Math.round((mp / 72_000) * 254) / 10).toString()} mm`;
const nameOf = (book: Book, { edition }: PagesFacts): string =>
  inSentence(editionOf(book, edition)?.name ?? 'book');
const coarse = (picture: string, density: number): string =>
  `${picture} has ${Math.round(density)} pixels an inch at its size in print; ${QUAYHEAD.pixels.wanted} are wanted.`;

interface Density {
  picture: string;
  /** Pixels an inch. */
  density: number;
  width: number;
  place: Place;
  /** Drawn smaller than asked for. */
  smaller: boolean;
}
/** Pixels an inch of every picture as it is drawn; each picture where it is drawn largest. */
function densities(book: Book, { pictures }: PagesFacts): Density[] {
  const found = new Map<string, Density>();
  for (const { picture: id, width, place, limited } of pictures) {
    const picture = book.pictures.find((p) => p.id === id);
    if (!picture || width <= 0) continue;
    const density = picture.width / (width / 72_000);
    const key = `${id} ${place.block ?? ''}`;
    const before = found.get(key);
    if (!before || density < before.density)
      // At the least density that the composer allows, it was that which set the width.
      found.set(key, {
        picture: picture.name || 'A picture',
        density,
        width,
        place,
        smaller: limited && density <= COARSE + 1,
      });
  }
  return [...found.values()];
}

function inTable(book: Pick<Book, 'sections'>, section: string, block: string): boolean {
  let found = false;
  book.sections
    .find((s) => s.id === section)
    ?.content.descendants((n) => {
      if (n.type.name === 'table') n.descendants((x) => void (found ||= x.attrs.id === block));
      return !found && !n.isTextblock && n.type.name !== 'table';
    });
  return found;
}
