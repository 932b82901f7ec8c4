/** Agreement of a made file with the record: title, author, ISBN and edition in its own metadata, and its name. */
import { inSentence, type Finding } from '../base';
import { sectionsOf, type Book, type Edition } from '../book';
import { hasText } from '../order';
import { bareIsbn, fileStem } from '../record';
import { nearest } from './agreement';
import { PRACTICE } from './practice';
import type { EpubSubject } from './epub';
import { isOlder } from './epub/subject';
import type { PdfSubject } from './pdf';
import { runRules, type Breach, type Rule } from './rules';

export interface FileFacts {
  title: string;
  /** Null where the kind of file has no place for it. */
  subtitle: string | null;
  author: string;
  isbn: string;
  editionStatement: string | null;
  name: string;
}
export const epubFacts = (s: EpubSubject, name: string): FileFacts => ({
  title: s.metadata.find((m) => m.name === 'title')?.value ?? '',
  // Titles after the first refine it; the older form has nothing to tell them by.
  subtitle: isOlder(s) ? null : (s.metadata.filter((m) => m.name === 'title')[1]?.value ?? ''),
  editionStatement: isOlder(s)
    ? null
    : (s.metadata.find((m) => m.name === 'schema:bookEdition')?.value ?? ''),
  author: s.metadata
    .filter((m) => m.name === 'creator')
    .map((m) => m.value)
    .join(', '),
  isbn: /^urn:isbn:(.*)$/i.exec(s.uniqueIdentifier)?.[1] ?? '',
  name,
});
export const pdfFacts = (s: PdfSubject, name: string): FileFacts => ({
  title: s.title,
  subtitle: null,
  editionStatement: null,
  author: s.author,
  isbn: '',
  name,
});

export interface FileSubject {
  book: Book;
  edition: Edition;
  file: FileFacts;
}

const again = ({ edition }: FileSubject): string => `Make the ${inSentence(edition.name)} again.`;
const FILE = {
  severity: 'blocker',
  profiles: ['agreement'],
  source: PRACTICE,
  why: 'Shops compare the file with the record and refuse it if they differ.',
} as const;

/** A field of the record that the file has to the letter, where it has a place for it. */
function* exactly(
  subject: FileSubject,
  field: 'subtitle' | 'editionStatement',
  called: string,
): Generator<Breach> {
  const { book, file } = subject;
  const [found, wanted] = [file[field], book.record[field]];
  if (found === null || found === wanted) return;
  yield {
    message: wanted
      ? `The file’s ${called} is “${found}”, the record’s “${wanted}”.`
      : `The file has the ${called} “${found}”, the record has none.`,
    file: file.name,
    remedy: again(subject),
    ...(wanted && found ? { differs: { found, wanted } } : {}),
  };
}

/** A made file against the record. */
export const FILE_RULES: readonly Rule<FileSubject>[] = [
  {
    ...FILE,
    name: 'agree/file-untitled',
    why: 'No shop takes a book without a title.',
    remedy: 'Write the title in the record, then make the file again.',
    *look({ book, file }) {
      if (book.record.title.trim() === '')
        yield { message: 'The file has no title, since the record has none.', file: file.name };
    },
  },
  {
    ...FILE,
    name: 'agree/file-empty',
    why: 'Shops refuse a book without text.',
    remedy: 'Write it in Manuscript, or let the edition carry it in the running order.',
    *look({ book, edition, file }) {
      if (!sectionsOf(book, edition.id).some((s) => s.matter === 'body' && hasText(s.content)))
        yield { message: `The ${inSentence(edition.name)} carries no chapter with text.`, file: file.name };
    },
  },
  {
    ...FILE,
    name: 'agree/file-title',
    *look(subject) {
      const { book, file } = subject;
      const { title, subtitle } = book.record;
      // A title that lacks is told of by itself. Equal to the letter, with the subtitle behind it or without.
      if (title.trim() && file.title !== title && !(subtitle && file.title === `${title}: ${subtitle}`))
        yield {
          message: `The file’s title is “${file.title}”, the record “${title}”.`,
          file: file.name,
          remedy: again(subject),
          differs: { found: file.title, wanted: title },
        };
    },
  },
  {
    ...FILE,
    name: 'agree/file-subtitle',
    look: (subject) => exactly(subject, 'subtitle', 'subtitle'),
  },
  {
    ...FILE,
    name: 'agree/file-edition-statement',
    look: (subject) => exactly(subject, 'editionStatement', 'edition statement'),
  },
  {
    ...FILE,
    name: 'agree/file-author',
    *look(subject) {
      const { book, file } = subject;
      for (const c of book.record.contributors)
        if (c.role === 'author' && !file.author.includes(c.name))
          yield {
            message: `The file doesn’t name ${c.name} as author.`,
            file: file.name,
            remedy: again(subject),
            about: c.name,
            differs: nearest(file.author.split(', '), c.name),
          };
    },
  },
  {
    ...FILE,
    name: 'agree/file-isbn',
    *look(subject) {
      const { edition, file } = subject;
      const isbn = bareIsbn(edition.isbn);
      if (edition.form === 'reflow' && isbn !== file.isbn)
        yield {
          message: isbn
            ? `The file carries ${file.isbn ? `the ISBN ${file.isbn}` : 'no ISBN'}, the record ${isbn}.`
            : `The file carries the ISBN ${file.isbn}, but the record has none.`,
          file: file.name,
          remedy: again(subject),
          ...(isbn && file.isbn ? { differs: { found: file.isbn, wanted: isbn } } : {}),
        };
    },
  },
  {
    ...FILE,
    name: 'agree/file-name',
    *look(subject) {
      const { book, file } = subject;
      const stem = fileStem(book.record.title);
      if (
        !file.name
          .split('/')
          .at(-1)
          ?.toLowerCase()
          .startsWith(stem.split('-')[0] ?? stem)
      )
        yield {
          message: `The file’s name, ${file.name}, doesn’t begin with the title.`,
          file: file.name,
          remedy: again(subject),
        };
    },
  },
];

export const checkFileAgreement = (book: Book, edition: Edition, file: FileFacts): Finding[] =>
  runRules(FILE_RULES, { book, edition, file });
