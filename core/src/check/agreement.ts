/** Agreement: title, author and ISBN the same in the record, on the title page, in the file's own metadata and its name. A mismatch is the commonest reason for a refusal (common practice). */
import { inSentence, type Finding } from '../base';
import { onOneLine, sectionsOf, type Book, type Edition } from '../book';
import { hasText } from '../order';
import { authorsLine, bareIsbn, fileStem, isbnFault, ISBN_FAULTS } from '../record';
import type { EpubSubject } from './epub';
import type { PdfSubject } from './pdf';

const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** What the book says of itself in its own pages. */
export function checkBookAgreement(book: Book): Finding[] {
  const found: Finding[] = [];
  const { record } = book;
  const add = (
    rule: string,
    severity: Finding['severity'],
    message: string,
    more: Partial<Finding> = {},
  ): void => void found.push({ rule: `agree/${rule}`, severity, message, ...more });
  if (!record.title.trim())
    add('no-title', 'blocker', 'The record has no title yet.', { remedy: 'Write it in the record.' });
  if (!authorsLine(record))
    add('no-author', 'caution', 'The record has no author yet.', {
      remedy: 'Add the author in the record.',
    });
  if (record.year && !/^\d{4}$/.test(record.year))
    add('year', 'caution', `The record’s year is “${record.year}”.`, {
      why: 'The copyright page and the metadata of ebooks show it.',
      remedy: 'Use four digits in the record, such as 2026.',
    });
  for (const s of book.sections) {
    if (s.kind === 'title-page' && hasText(s.content)) {
      const page = plain(`${s.title} ${onOneLine(s.content)}`);
      if (record.title && !page.includes(plain(record.title)))
        add(
          'title-page',
          'blocker',
          `The title page doesn’t show the title from the record, “${record.title}”.`,
          { place: { section: s.id }, why: 'Shops compare the two and refuse the book.' },
        );
      const author = authorsLine(record);
      if (author && !page.includes(plain(author)))
        add('title-page-author', 'blocker', `The title page doesn’t name ${author}.`, {
          place: { section: s.id },
        });
    }
    if (s.kind === 'copyright-page' && hasText(s.content)) {
      const known = new Set(book.editions.map((e) => bareIsbn(e.isbn)).filter(Boolean));
      for (const m of onOneLine(s.content).matchAll(/97[89][\d\s\u2010-\u2015-]{10,14}/g)) {
        const isbn = bareIsbn(m[0]).slice(0, 13);
        if (known.size > 0 && !known.has(isbn))
          add(
            'copyright-isbn',
            'blocker',
            `The copyright page shows the ISBN ${isbn}, which no edition in the record has.`,
            { place: { section: s.id } },
          );
      }
    }
  }
  const seen = new Map<string, Edition>();
  for (const e of book.editions) {
    const isbn = bareIsbn(e.isbn);
    if (!isbn) continue;
    const fault = isbnFault(isbn);
    if (fault)
      add(
        'isbn',
        'blocker',
        `The ISBN of the ${inSentence(e.name)}, ${e.isbn}, is not valid. ${ISBN_FAULTS[fault]}`,
      );
    const other = seen.get(isbn);
    if (other)
      add(
        'isbn-twice',
        'blocker',
        `The ${inSentence(e.name)} and the ${inSentence(other.name)} have the same ISBN.`,
        { why: 'Each edition needs its own ISBN.' },
      );
    seen.set(isbn, e);
  }
  return found;
}

export interface FileFacts {
  title: string;
  author: string;
  isbn: string;
  name: string;
}
export const epubFacts = (s: EpubSubject, name: string): FileFacts => ({
  title: s.metadata.find((m) => m.name === 'title')?.value ?? '',
  author: s.metadata
    .filter((m) => m.name === 'creator')
    .map((m) => m.value)
    .join(', '),
  isbn: /^urn:isbn:(.*)$/i.exec(s.uniqueIdentifier)?.[1] ?? '',
  name,
});
export const pdfFacts = (s: PdfSubject, name: string): FileFacts => ({
  title: s.title,
  author: s.author,
  isbn: '',
  name,
});

/** A made file against the record. */
export function checkFileAgreement(book: Book, edition: Edition, file: FileFacts): Finding[] {
  const found: Finding[] = [];
  const { record } = book;
  const remedy = `Make the ${inSentence(edition.name)} again.`;
  const add = (rule: string, message: string): void =>
    void found.push({
      rule: `agree/${rule}`,
      severity: 'blocker',
      message,
      file: file.name,
      remedy,
      why: 'Shops compare the file with the record and refuse it if they differ.',
    });
  if (record.title.trim() === '')
    found.push({
      rule: 'agree/file-untitled',
      severity: 'blocker',
      message: 'The file has no title, since the record has none.',
      file: file.name,
      remedy: 'Write the title in the record, then make the file again.',
      why: 'No shop takes a book without a title.',
    });
  if (!sectionsOf(book, edition.id).some((s) => s.matter === 'body' && hasText(s.content)))
    found.push({
      rule: 'agree/file-empty',
      severity: 'blocker',
      message: `The ${inSentence(edition.name)} carries no chapter with text.`,
      file: file.name,
      remedy: 'Write it in Manuscript, or let the edition carry it in the running order.',
    });
  if (!plain(file.title).startsWith(plain(record.title)))
    add('file-title', `The file’s title is “${file.title}”, the record “${record.title}”.`);
  for (const c of record.contributors)
    if (c.role === 'author' && !plain(file.author).includes(plain(c.name)))
      add('file-author', `The file doesn’t name ${c.name} as author.`);
  const isbn = bareIsbn(edition.isbn);
  if (edition.form === 'reflow' && isbn !== file.isbn)
    add(
      'file-isbn',
      isbn
        ? `The file carries ${file.isbn ? `the ISBN ${file.isbn}` : 'no ISBN'}, the record ${isbn}.`
        : `The file carries the ISBN ${file.isbn}, but the record has none.`,
    );
  const stem = fileStem(record.title);
  if (
    !file.name
      .split('/')
      .at(-1)
      ?.toLowerCase()
      .startsWith(stem.split('-')[0] ?? stem)
  )
    add('file-name', `The file’s name, ${file.name}, doesn’t begin with the title.`);
  return found;
}
