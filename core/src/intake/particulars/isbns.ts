/** ISBNs in running text, each with the form of edition that the words around it name. */
import { bareIsbn, isbn10to13, isbnFault } from '../../record';

export interface NamedIsbn {
  /** Thirteen digits. */
  isbn: string;
  form: 'print' | 'reflow' | '';
}
export interface IsbnsFound {
  isbns: NamedIsbn[];
  /** Numbers that are given as ISBNs and are none, as they are typed. */
  wrong: string[];
}

const NUMBER = /(?<![\d-])(?:97[89][\s\u2010-\u2015-]?)?(?:\d[\s\u2010-\u2015-]?){9}[\dXx](?![\d])/g;
const PRINT =
  /paper\s*back|hard\s*(?:back|cover)|soft\s*cover|\bprint(?:ed)?\b|\bpbk\b|\bhbk\b|taschenbuch|gebunden|broché|relié|imprimé|rústica|tapa|brossura|cartaceo/i;
const EBOOK = /e-?\s?book|e-?pub\b|electronic|digital|elektronisch|numérique|electrónic|elettronic/i;

/** `text`: lines apart by line feeds; an ISBN is looked for where the word ISBN stands in its line or right above. */
export function isbnsIn(text: string): IsbnsFound {
  const out: IsbnsFound = { isbns: [], wrong: [] };
  const lines = text.split('\n');
  let said = -2;
  for (const [i, line] of lines.entries()) {
    if (/isbn/i.test(line)) said = i;
    const bare = /^[\s\d\u2010-\u2015Xx-]+$/.test(line) || PRINT.test(line) || EBOOK.test(line);
    if (said !== i && !(bare && i - said <= 3 && said >= 0)) continue;
    const found = [...line.matchAll(NUMBER)];
    if (found.length > 0 && said >= 0) said = i;
    let from = 0;
    for (const [n, m] of found.entries()) {
      const to = found[n + 1]?.index ?? line.length;
      const digits = bareIsbn(m[0]);
      const isbn = digits.length === 10 ? isbn10to13(digits) : isbnFault(digits) === null ? digits : null;
      const after = line.slice(m.index + m[0].length, to);
      const before = line.slice(from, m.index);
      const above = /^\D{0,40}$/.test(lines[i - 1] ?? '') ? (lines[i - 1] ?? '') : '';
      // "ISBN 978… (paperback)", else "Paperback ISBN: 978…", else the words on the line above.
      const form = /^[\s.:;]*[([]/.test(after)
        ? formOf(after) || formOf(before)
        : formOf(before) || formOf(after) || formOf(above);
      if (isbn === null) out.wrong.push(m[0].trim());
      else if (!out.isbns.some((x) => x.isbn === isbn)) out.isbns.push({ isbn, form });
      from = m.index + m[0].length;
    }
  }
  return out;
}

function formOf(words: string): NamedIsbn['form'] {
  const print = words.search(PRINT);
  const ebook = words.search(EBOOK);
  if (print < 0 && ebook < 0) return '';
  return ebook < 0 || (print >= 0 && print < ebook) ? 'print' : 'reflow';
}
