/** Titles that were typed in capitals, as titles are written in English: small words small, numbers of kings as they were. */

/** A title typed in capitals in letters; any other as it is. */
export const inLetters = (s: string): string =>
  /\p{Lu}/u.test(s) && s === s.toUpperCase() ? titleCase(s) : s;
const SMALL = new Set('a an the and but or nor of in on at to for by with from as'.split(' '));
const titleCase = (s: string): string =>
  s
    .toLowerCase()
    .split(' ')
    .map((w, i) => (i > 0 && SMALL.has(w) ? w : capital(w, i === 0)))
    .join(' ');
/** What is elided before a name keeps its small letter: "le pont d’Ansbeck". */
const ELIDED = /^(?:[cdjlmnst]|qu|dell|dall|nell|sull|all)$/;
/** Roman numerals below forty, of two letters or more. */
const KING = /^(?=..)x{0,3}(?:ix|iv|v?i{0,3})$/;
function capital(word: string, first: boolean): string {
  const [head = '', tail = ''] = word.split(/(?<=^\p{L}{1,4}['\u2019])/u);
  if (KING.test(word)) return word.toUpperCase();
  const upper = (t: string): string => t.replace(/\p{L}/u, (c) => c.toUpperCase());
  if (tail.length < 3) return upper(word);
  return (!first && ELIDED.test(head.slice(0, -1)) ? head : upper(head)) + upper(tail);
}
