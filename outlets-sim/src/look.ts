/** What a reviewer looks for: whether the files are the book that the shop was told of. */
import type { Reason } from './books';
import type { EbookFacts } from './ebook';
import type { PdfFacts } from './pdf';

/** Letters and figures alone. */
export const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

export interface Looked {
  title: string;
  authors: readonly string[];
  isbn: string;
}

/** How an ebook differs from what was told of it. */
export function differences(facts: EbookFacts, { title, authors, isbn }: Looked): Reason[] {
  if (facts.fault) return [{ about: 'file', words: `The ebook cannot be opened: ${facts.fault}.` }];
  const reasons: Reason[] = [];
  if (plain(facts.title) !== plain(title))
    reasons.push({ about: 'title', words: `The ebook calls itself “${facts.title}”, the slip “${title}”.` });
  for (const a of authors)
    if (!facts.authors.some((f) => plain(f) === plain(a)))
      reasons.push({ about: 'authors', words: `The ebook does not name ${a} as author.` });
  if (isbn && facts.identifier !== `urn:isbn:${isbn}`)
    reasons.push({
      about: 'isbn',
      words: `The ebook carries ${facts.identifier}, the slip the ISBN ${isbn}.`,
    });
  return reasons;
}

/** Whether a cover names the book: a front that is a picture, or drawn in outlines, says nothing. */
export function coverDifferences(facts: PdfFacts, { title, isbn }: Looked): Reason[] {
  const reasons: Reason[] = [];
  const words = plain(facts.front);
  if (words !== '' && !words.includes(plain(title)))
    reasons.push({ about: 'title', words: `The cover does not say “${title}”.` });
  const others = facts.isbns.filter((n) => n !== isbn);
  if (isbn && others.length > 0 && !facts.isbns.includes(isbn))
    reasons.push({ about: 'isbn', words: `The cover carries the ISBN ${others.join(', ')}, not ${isbn}.` });
  return reasons;
}

/** The check digit of an ISBN-13 (ISBN Users’ Manual, §5: weights 1 and 3, modulo 10). */
export function isIsbn(digits: string): boolean {
  if (!/^97[89]\d{10}$/.test(digits)) return false;
  const sum = [...digits].reduce((n, d, i) => n + Number(d) * (i % 2 === 0 ? 1 : 3), 0);
  return sum % 10 === 0;
}
export function withCheckDigit(twelve: string): string {
  const sum = [...twelve].reduce((n, d, i) => n + Number(d) * (i % 2 === 0 ? 1 : 3), 0);
  return twelve + String((10 - (sum % 10)) % 10);
}
export const isDay = (text: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));
export const isAmount = (text: string): boolean => /^\d{1,7}(\.\d{2,3})?$/.test(text);
