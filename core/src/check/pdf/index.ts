/** Checks a PDF for print: boxes, faces, colours, pictures, transparency, and what printers refuse. */
import { done, type Finding, type Outcome } from '../../base';
import { runRules } from '../rules';
import { PDF_RULES } from './rules';
import { pdfSubject, type PdfSubject } from './subject';

/** Errors: those of `pdfSubject`. */
export async function checkPdf(bytes: Uint8Array): Promise<Outcome<Finding[]>> {
  const subject = await pdfSubject(bytes);
  return subject.ok ? done(checkPdfOf(subject.value)) : subject;
}
export const checkPdfOf = (subject: PdfSubject): Finding[] => runRules(PDF_RULES, subject);

export { PDF_RULES } from './rules';
export { pdfSubject, type PdfSubject } from './subject';
export * from './attached';
export { checkPrinted, cutOf, PRINTED_RULES, type InkMargins, type PrintedSubject } from './printed';
