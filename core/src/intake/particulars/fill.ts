/** What a copyright page or a sheet of particulars says, put into a book's record and its editions. */
import { inSentence, type Finding } from '../../base';
import type { Book, Edition } from '../../book';
import { authorsLine } from '../../record';
import { copyrightFacts } from './copyright';
import type { IsbnsFound } from './isbns';
import type { Particulars } from './sheet';

interface Filled {
  book: Book;
  findings: Finding[];
}

/** The book with what its copyright page says in the record. The page itself stays as the author wrote it. */
export function fromCopyrightPage(book: Book): Filled {
  const page = book.sections.find((s) => s.kind === 'copyright-page');
  if (!page) return { book, findings: [] };
  const facts = copyrightFacts(page.content.textBetween(0, page.content.content.size, '\n', '\n'));
  const { record } = book;
  const holder = facts.holder === authorsLine(record) ? '' : facts.holder;
  const { editions, taken } = withIsbns(book.editions, facts);
  const said = [
    ...(facts.year ? [`the year ${facts.year}`] : []),
    ...(holder ? [`the copyright holder ${holder}`] : []),
    ...(facts.imprint ? [`the imprint ${facts.imprint}`] : []),
    ...taken,
  ];
  return {
    book: {
      ...book,
      editions,
      record: {
        ...record,
        year: facts.year || record.year,
        copyrightHolder: holder || record.copyrightHolder,
        imprint: facts.imprint || record.imprint,
      },
    },
    findings: [
      ...(said.length > 0 ? [takenIn(`Taken from the copyright page: ${listed(said)}.`)] : []),
      ...wrongIsbns(facts.wrong),
    ],
  };
}

/** The book with a sheet's particulars, which go before what the manuscript says. */
export function withParticulars(book: Book, sheet: Particulars, name: string): Filled {
  const { contributors = [], ...fields } = sheet.record;
  const roles = new Set(contributors.map((c) => c.role));
  const { editions, taken } = withIsbns(book.editions, sheet);
  const said = [...Object.keys(fields), ...roles].map((f) => NAMES[f] ?? f);
  return {
    book: {
      ...book,
      editions,
      record: {
        ...book.record,
        ...fields,
        contributors: [...contributors, ...book.record.contributors.filter((c) => !roles.has(c.role))],
      },
    },
    findings: [
      takenIn(`Taken from ${name}: ${listed([...said.map((s) => `the ${s}`), ...taken])}.`),
      ...wrongIsbns(sheet.wrong),
      ...(sheet.unread.length > 0
        ? [
            {
              rule: 'intake/unread-particulars',
              severity: 'caution' as const,
              message: `${name} has ${sheet.unread.length === 1 ? 'a line' : `${sheet.unread.length} lines`} that match no field of the record: ${listed(sheet.unread.slice(0, 4).map((l) => `“${l.slice(0, 60)}”`))}.`,
            },
          ]
        : []),
    ],
  };
}

const NAMES: Record<string, string> = {
  copyrightHolder: 'copyright holder',
  editionStatement: 'edition statement',
  alsoBy: 'list of other books',
  price: 'price',
};

const takenIn = (message: string): Finding => ({ rule: 'intake/taken-in', severity: 'note', message });
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

const wrongIsbns = (wrong: readonly string[]): Finding[] =>
  wrong.map((isbn) => ({
    rule: 'intake/isbn-mistyped',
    severity: 'caution',
    message: `${isbn} is not an ISBN: its digits don’t match one another. It was not taken into the record.`,
    remedy: 'Compare it with the number that you were given.',
  }));

/** Editions with their ISBNs: one whose form is named goes to that form, others to print first, then to the ebook. */
function withIsbns(
  editions: readonly Edition[],
  { isbns }: Pick<IsbnsFound, 'isbns'>,
): {
  editions: readonly Edition[];
  taken: string[];
} {
  const given = new Map<string, string>();
  const taken: string[] = [];
  const ordered = [...isbns.filter((i) => i.form !== ''), ...isbns.filter((i) => i.form === '')];
  for (const { isbn, form } of ordered) {
    const free = editions.filter((e) => !given.has(e.id) && (form === '' || e.form === form));
    const edition = free[0];
    if (!edition) continue;
    given.set(edition.id, isbn);
    taken.push(`the ISBN ${isbn} for the ${inSentence(edition.name)}`);
  }
  return {
    editions: editions.map((e) => (given.has(e.id) ? { ...e, isbn: given.get(e.id) as string } : e)),
    taken,
  };
}
