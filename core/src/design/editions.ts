/** Editions added, copied, renamed and removed: each a change of the book that one Undo takes back. */
import { done, inSentence, refused, type Outcome } from '../base';
import {
  editionOf,
  editionsSchema,
  isFixed,
  isPrint,
  isReflow,
  isSample,
  shownBy,
  type Book,
  type Change,
  type Edition,
  type EditionChoices,
} from '../book';
import { withLargePrint } from './interior';

/** What can be added. A new one looks like the first of its form, and leaves nothing out. */
export const NEW_EDITIONS = {
  print: {
    name: 'Print edition',
    purpose: 'For readers who buy it on paper.',
  },
  hardback: {
    name: 'Hardback',
    purpose: 'For libraries, and for readers who want it to last.',
  },
  large: {
    name: 'Large print',
    purpose: 'For readers who need large letters.',
  },
  ebook: { name: 'Ebook', purpose: 'For shops of ebooks.' },
  fixed: {
    name: 'Fixed-layout ebook',
    purpose: 'For readers who want the pages as they are printed.',
  },
  sample: { name: 'Sample', purpose: 'To give away, so that readers want the rest.' },
} as const;
export type NewEdition = keyof typeof NEW_EDITIONS;

/** More than this many nobody keeps apart. */
export const MOST_EDITIONS = 24;
const LONGEST_NAME = 60;

const key = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();

/** The name, or with the first number that makes it one of its own. */
function ownName(book: Book, name: string): string {
  const taken = new Set(book.editions.map((e) => key(e.name)));
  let own = name.slice(0, LONGEST_NAME);
  for (let n = 2; taken.has(key(own)); n++) own = `${name.slice(0, LONGEST_NAME - 4)} ${n}`;
  return own;
}

const full = <T>(book: Book, make: () => T): Outcome<T> =>
  book.editions.length >= MOST_EDITIONS
    ? refused('edition/many', `A title has at most ${MOST_EDITIONS} editions. Remove one first.`)
    : done(make());

/** Errors: `edition/many`. `id` is the new edition's own. */
export const editionAdded = (book: Book, what: NewEdition, id: string): Outcome<Change> =>
  full(book, () => {
    const { name, purpose } = NEW_EDITIONS[what];
    const named = { id, name: ownName(book, name), purpose };
    const like = book.editions.find(what === 'ebook' || what === 'sample' ? isReflow : isPrint);
    const print = shownBy(book, like?.id ?? '');
    const looks = like ? { interior: like.interior, design: like.design, contents: like.contents } : {};
    const fields =
      what === 'sample'
        ? { form: 'sample', of: like?.id ?? null }
        : what === 'ebook'
          ? { form: 'reflow', pageList: print?.id ?? null }
          : what === 'fixed'
            ? { form: 'fixed', of: print?.id ?? null }
            : {
                form: 'print',
                ...(print ? { trim: print.trim, paper: print.paper, standard: print.standard } : {}),
                ...(what === 'hardback' ? { binding: 'hardback' } : {}),
              };
    const [made] = editionsSchema.parse([{ ...looks, ...fields, ...named }]);
    const edition = made as Edition;
    const large =
      what === 'large' ? { ...edition, trim: '6 × 9 in', design: withLargePrint(edition) } : edition;
    return {
      type: 'group',
      label: `Add the ${inSentence(named.name)}`,
      changes: [{ type: 'insert-edition', index: book.editions.length, edition: large }],
    };
  });

/** An edition by choices that were kept, of this title or another. Errors: `edition/many`. */
export const editionByChoices = (
  book: Book,
  name: string,
  choices: EditionChoices,
  id: string,
): Outcome<Change> =>
  full(book, () => {
    const first = (is: (e: Edition) => boolean): string | null => book.editions.find(is)?.id ?? null;
    const [made] = editionsSchema.parse([
      {
        ...choices,
        pageList: first(isPrint),
        of: first(choices.form === 'fixed' ? isPrint : isReflow),
        id,
        name: ownName(book, name),
      },
    ]);
    return {
      type: 'group',
      label: `Add the ${inSentence(name)}`,
      changes: [{ type: 'insert-edition', index: book.editions.length, edition: made as Edition }],
    };
  });

/** An edition once more, with its design and the sections it carries, but no ISBN. Errors: `edition/many`, `edition/gone`. */
export function editionCopied(book: Book, from: string, id: string): Outcome<Change> {
  const edition = editionOf(book, from);
  if (!edition) return gone();
  return full(book, () => {
    const copy: Edition = { ...edition, id, isbn: '', name: ownName(book, `${edition.name}, copy`) };
    return {
      type: 'group',
      label: `Copy the ${inSentence(edition.name)}`,
      changes: [
        { type: 'insert-edition', index: book.editions.indexOf(edition) + 1, edition: copy },
        ...book.sections
          .filter((s) => s.leftOut.includes(from))
          .map((s): Change => ({ type: 'set-section', id: s.id, fields: { leftOut: [...s.leftOut, id] } })),
      ],
    };
  });
}

/** Errors: `edition/gone`, `edition/last`. Ebooks that give its folios have no page list any more. */
export function editionRemoved(book: Book, id: string): Outcome<Change> {
  const edition = editionOf(book, id);
  if (!edition) return gone();
  if (book.editions.length === 1)
    return refused('edition/last', 'A title has one edition at least. Add another one first.');
  return done({
    type: 'group',
    label: `Remove the ${inSentence(edition.name)}`,
    changes: [
      ...book.editions
        .filter((e) => isReflow(e) && e.pageList === id)
        .map((e): Change => ({ type: 'set-edition', id: e.id, fields: { pageList: null } })),
      ...book.editions
        .filter((e) => (isSample(e) || isFixed(e)) && e.of === id)
        .map((e): Change => ({ type: 'set-edition', id: e.id, fields: { of: null } })),
      { type: 'remove-edition', id },
    ],
  });
}

/** Errors: `edition/gone`, `edition/name`. */
export function editionNamed(
  book: Book,
  id: string,
  fields: { name?: string; purpose?: string },
): Outcome<Change> {
  const edition = editionOf(book, id);
  if (!edition) return gone();
  const name = (fields.name ?? edition.name).trim().replace(/\s+/g, ' ');
  const wrong = wrongEditionName(book, id, name);
  if (wrong) return refused('edition/name', wrong);
  return done({
    type: 'group',
    label: `Change the particulars of the ${inSentence(edition.name)}`,
    changes: [
      { type: 'set-edition', id, fields: { ...fields, ...(fields.name === undefined ? {} : { name }) } },
    ],
  });
}

/** What is wrong with a name for an edition, in a sentence; null for nothing. */
export function wrongEditionName(book: Book, id: string, name: string): string | null {
  if (name.trim() === '') return 'An edition needs a name.';
  if (name.trim().length > LONGEST_NAME) return `The name has more than ${LONGEST_NAME} characters.`;
  const other = book.editions.find((e) => e.id !== id && key(e.name) === key(name));
  return other ? `Another edition is called “${other.name}”.` : null;
}

const gone = (): Outcome<never> => refused('edition/gone', 'That edition no longer exists.');
