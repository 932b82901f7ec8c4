/** Quotations: paragraphs indented on their own, with the line that says whose they are; epigraphs at a section’s head. */
import { countWords } from '../../base';
import type { RawParagraph } from '../raw';
import type { Setting } from './setting';
import type { Stretch } from './stretch';

const DASH = /^\s*[\u2013\u2014-]\s*\S/;
const SOURCE_WORDS = 16;
const EPIGRAPH = { paragraphs: 8, words: 160 };

/** Whether a paragraph can say whose the words above it are. */
const isSource = (p: RawParagraph): boolean =>
  countWords(p.text, SOURCE_WORDS) <= SOURCE_WORDS && countWords(p.text, 0) > 0;

export function quotationAt(s: Setting, from: number): Stretch | null {
  const first = s.text(from);
  if (!first || !first.indented || !s.apart(first) || first.align === 'right') return null;
  let to = from + 1;
  let words = countWords(first.text);
  for (let n = s.next(to); n.at < s.body.length; n = s.next(n.at + 1)) {
    const p = s.text(n.at);
    if (!p) break;
    if (isSource(p) && (DASH.test(p.text) || p.align === 'right'))
      return { form: 'quotation', from, to: n.at + 1, source: n.at };
    if (!s.alike(p, first) || n.blanks > 1) break;
    words += countWords(p.text);
    to = n.at + 1;
  }
  // A few words on a line of their own are a sign or a name.
  return words >= 8 || /[.!?]["\u201d\u2019]?$/.test(first.text.trim())
    ? { form: 'quotation', from, to }
    : { form: 'inset', from, to };
}

/** Words set apart at the head of a section (on a page of their own they need not be), and below them whose they are. */
export function epigraphAt(s: Setting, isPage = false): Stretch | null {
  const from = s.next(s.afterPictures()).at;
  const first = s.text(from);
  if (!first || !(isPage || s.apart(first) || /^[\u201c\u201e\u00ab"]/.test(first.text.trim()))) return null;
  let words = 0;
  let last: RawParagraph | null = null;
  for (let at = from, n = 0; at < s.body.length && n < EPIGRAPH.paragraphs; at = s.next(at + 1).at, n++) {
    const p = s.text(at);
    if (!p) return null;
    if (last && isSource(p) && names(s, p, last)) return { form: 'quotation', from, to: at + 1, source: at };
    if (!isPage && !s.apart(p) && !/^[\u201c\u201e\u00ab"]/.test(p.text.trim())) return null;
    words += countWords(p.text);
    if (words > EPIGRAPH.words) return null;
    last = p;
  }
  return null;
}

/** A dash, or another slant or size than the words above it, and set apart from the text as they are. */
function names(s: Setting, p: RawParagraph, above: RawParagraph): boolean {
  if (DASH.test(p.text)) return true;
  if (!s.apart(p) || /[.!?]$/.test(p.text.trim()) || p.text.includes('\n')) return false;
  return p.align === 'right'
    ? p.italic !== above.italic || above.align !== 'right' || p.size !== above.size
    : p.align === above.align && p.italic !== above.italic && countWords(p.text, 10) <= 10;
}
