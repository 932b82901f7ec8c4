/**
 * Letters in the text: place and date, salutation, text, closing, signature. What opens and closes a letter is written
 * from memory of the languages (common practice).
 */
import { countWords } from '../../base';
import type { RawParagraph } from '../raw';
import type { Setting } from './setting';
import type { Stretch } from './stretch';

const SALUTATION =
  /^(?:my |mein(?:e|er)? |ma |mon |mes |mi |mia |mio |mijn )?(?:own )?(?:dear(?:est)?|darling|beloved|most honou?red|esteemed|liebe[rs]?|liebste[rs]?|sehr geehrte[rs]?|verehrte[rs]?|geehrte[rs]?|cher|chère|chers|chères|très cher|querid[oa]s?|estimad[oa]s?|car[oaie]|carissim[oa]|gentil[ei]|egregi[oa]?|beste|geachte|lieve|prezad[oa])(?=[\s,:!])/iu;
const FORMAL =
  /^(?:to whom it may concern|sir|madam|sirs|gentlemen|sir or madam|messieurs|monsieur|madame)\s*[,:.!\u2014-]*$/iu;
const CLOSING =
  /^(?:(?:i (?:am|remain),? )?(?:as )?(?:ever,? )?yours?\b|(?:all )?(?:my |our |much |with )*love\b|(?:with )?(?:kind(?:est)?|best|warm(?:est)?) (?:regards|wishes)|regards\b|sincerely|faithfully|respectfully|affectionately|cordially|gratefully|until (?:then|soon)|in haste|your (?:\p{L}+ )?(?:friend|servant|sister|brother|son|daughter|mother|father|aunt|uncle|cousin|wife|husband)|dein(?:e|er)?\b|ihr(?:e)?\b|euer|eure|mit (?:freundlichen|lieben|herzlichen|besten)|herzlich|hochachtungsvoll|in liebe|(?:liebe|viele|herzliche|beste) grüße|bien à|amicalement|affectueusement|je (?:t|vous )\W?embrasse|votre |ton |ta |veuillez|cordialement|un abrazo|saludos|atentamente|tuy[oa]|suy[oa]|con (?:affetto|cariño)|cordiali saluti|distinti saluti|tu[oa]\b|met (?:vriendelijke|hartelijke|lieve)|groet|liefs|um abraço|com carinho|atenciosamente)/iu;
const DATE =
  /\b(?:1[5-9]|2[0-2])\d{2}\b|\b\d{1,2}(?:st|nd|rd|th)\b|\b\d{1,2}\.?\s+\p{L}{3,}|\bthe\s+\p{L}+(?:st|nd|rd|th)\s+of\b|\b(?:january|february|march|april|june|july|august|september|october|november|december|monday|tuesday|wednesday|thursday|friday|saturday|sunday|januar|februar|märz|mai|juni|juli|oktober|dezember|janvier|février|mars|avril|juin|juillet|août|septembre|octobre|novembre|décembre|enero|febrero|marzo|abril|mayo|junio|julio|agosto|septiembre|octubre|noviembre|diciembre|gennaio|febbraio|aprile|maggio|giugno|luglio|settembre|ottobre|novembre|dicembre)\b/iu;

/** How far the end of a letter is looked for: in words, in paragraphs, and in paragraphs where only a name ends it. */
const LONGEST = { words: 2500, paragraphs: 60, unclosed: 12 };

const isSpoken = (t: string): boolean => /^["\u201c\u201e\u00ab\u2018]/.test(t);
const isSalutation = (t: string): boolean =>
  !isSpoken(t) &&
  countWords(t, 8) <= 8 &&
  t.length < 70 &&
  (FORMAL.test(t) || (SALUTATION.test(t) && /[,:!.\u2014-]$|[^.?]$/.test(t)));
const isRunIn = (t: string): boolean => {
  const m = SALUTATION.exec(t);
  return m !== null && /^[^.?]{2,50}[,:!\u2014]\s+\S/.test(t) && countWords(t, 8) > 8;
};
const isClosing = (t: string): boolean =>
  countWords(t, 9) <= 9 && t.length < 80 && CLOSING.test(t) && !isSpoken(t);
const isSignature = (t: string): boolean =>
  countWords(t, 6) <= 6 &&
  t.length < 60 &&
  /^[\p{Lu}\u2014\u2013-]/u.test(t) &&
  !/[!?:;,]$/.test(t) &&
  (!/\.$/.test(t) || /\b\p{Lu}\.$/u.test(t)) &&
  !isSpoken(t);

/** The letter that has its salutation at `at`, or whose place and date stand there; null where there is none. */
export function letterAt(s: Setting, at: number): Stretch | null {
  const p = s.text(at);
  if (!p) return null;
  const t = lineOf(p);
  if (isSalutation(t)) return s.apart(p) ? setApart(s, at, at) : plain(s, at);
  if (s.apart(p) && p.align !== 'centre') {
    // An address, a place and a date stand above a salutation that is set as they are.
    let next = at;
    for (let lines = 0; lines < 4; lines++) {
      const line = s.text(next);
      if (!line || countWords(line.text, 12) > 12) break;
      if (isSalutation(lineOf(line))) return setApart(s, at, next);
      next = s.next(next + 1).at;
    }
    if (isRunIn(t) && (p.italic || p.indented)) return setApart(s, at, at);
    return closedOnly(s, at);
  }
  // A date ranged as the text, directly above a salutation.
  const next = s.text(s.next(at + 1).at);
  if (next && countWords(t, 10) <= 10 && !/[.!?]$/.test(t) && DATE.test(t) && isSalutation(lineOf(next)))
    return plain(s, at);
  return null;
}

/** The head of a paragraph says whether a letter begins or ends there. */
const HEAD = 600;
const lineOf = (p: RawParagraph): string => p.text.slice(0, HEAD).replace(/\s+/g, ' ').trim();

/** All that is set as the letter is, or ranged right at its end. */
function setApart(s: Setting, from: number, salutation: number): Stretch {
  const first = s.text(salutation) as RawParagraph;
  let to = salutation + 1;
  let closed = false;
  for (let at = s.next(to).at; at < s.body.length; at = s.next(at + 1).at) {
    const p = s.text(at);
    if (!p) break;
    const t = lineOf(p);
    const tail = p.align === 'right' && countWords(t, 9) <= 9;
    if (!s.alike(p, first) && !tail && !(closed && s.apart(p) && isSignature(t))) break;
    if (to > salutation + 1 && isSalutation(t) && closed) break;
    closed ||= isClosing(t);
    to = at + 1;
  }
  return { form: 'letter', from, to };
}

/** A letter set as the text is: it ends with a closing and a signature, or a signature alone. */
function plain(s: Setting, from: number): Stretch | null {
  let words = 0;
  let paragraphs = 0;
  let spoken = false;
  for (let at = s.next(from + 1).at; at < s.body.length; at = s.next(at + 1).at) {
    const p = s.text(at);
    if (!p) return null;
    const t = lineOf(p);
    // A letter may tell what somebody said; then only a closing ends it.
    spoken ||= isSpoken(t);
    words += countWords(t);
    if (++paragraphs > LONGEST.paragraphs || words > LONGEST.words) return null;
    if (paragraphs > 1 && isClosing(t)) {
      const next = s.next(at + 1);
      const signed = s.text(next.at);
      const has = signed && isSignature(lineOf(signed));
      return { form: 'letter', from, to: (has ? next.at : at) + 1 };
    }
    const unclosed = !spoken && paragraphs <= LONGEST.unclosed;
    if (paragraphs > 1 && unclosed && isSignature(t)) return { form: 'letter', from, to: at + 1 };
  }
  return null;
}

/** Lines set apart that close and are signed as a letter is, though nobody is greeted. */
function closedOnly(s: Setting, from: number): Stretch | null {
  const first = s.text(from) as RawParagraph;
  let last = from;
  let closing = -1;
  for (let at = from, n = 0; at < s.body.length && n < LONGEST.paragraphs; at = s.next(at + 1).at, n++) {
    const p = s.text(at);
    if (!p || (!s.alike(p, first) && !(p.align === 'right' && countWords(p.text, 9) <= 9))) break;
    if (isClosing(lineOf(p))) closing = at;
    last = at;
  }
  const signed = closing >= 0 && last > closing ? s.text(last) : null;
  if (!signed || !isSignature(lineOf(signed)) || closing === from) return null;
  const dated = DATE.test(lineOf(first));
  return dated || countWords(first.text, 6) > 6 ? { form: 'letter', from, to: last + 1 } : null;
}
