/** A publisher's block of ISBNs: read from a list, or counted on from its first number (ISBN Users' Manual, 7th edition, §5). */
import { bareIsbn, isbn10to13, isbn13CheckDigit, isbnFault } from './isbn';

/** Numbers in a text, however they are parted and hyphenated, and words of digits that are none. */
export function isbnsInList(text: string): { numbers: string[]; wrong: string[] } {
  const numbers: string[] = [];
  const wrong: string[] = [];
  for (const word of text.split(/[\s,;|"']*(?:[\n,;|"'\t]|\s{2,})[\s,;|"']*|^\s+|\s+$/)) {
    const digits = bareIsbn(word.replace(/^ISBN(?:-1[03])?:?\s*/i, ''));
    if (!/^\d{9,13}X?$/.test(digits)) continue;
    const number = isbnFault(digits) === null ? digits : isbn10to13(digits);
    if (number === null) wrong.push(word.trim());
    else if (!numbers.includes(number)) numbers.push(number);
  }
  return { numbers, wrong };
}

/** `count` numbers from a first one on, each with its own check digit; null where the first is none or they run over. */
export function isbnsFrom(first: string, count: number): string[] | null {
  const bare = bareIsbn(first);
  if (isbnFault(bare) !== null) return null;
  const start = Number(bare.slice(3, 12));
  if (start + count > 1_000_000_000) return null;
  return Array.from({ length: count }, (_, i) => {
    const twelve = bare.slice(0, 3) + String(start + i).padStart(9, '0');
    return twelve + String(isbn13CheckDigit(twelve));
  });
}
