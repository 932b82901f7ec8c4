/** Strings in PDF objects. */
import { PDFString } from 'pdf-lib';

/**
 * A literal string (ISO 32000-1 §7.3.4.2) of ASCII text, with what would end it escaped: the library writes what it is
 * given, and an address may hold a parenthesis.
 */
export const literal = (text: string): PDFString =>
  PDFString.of(text.replace(/[^\x20-\x7e]/g, '?').replace(/[\\()]/g, '\\$&'));
