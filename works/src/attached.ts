/** Checks a PDF that someone else made for a print edition: in the child process, since any file may come. */
import { readFileSync } from 'node:fs';
import { bookFromJson, printOf } from '@pagina/core/book';
import { checkCoverFile, checkPagesFile, pdfSubject, wantedCover } from '@pagina/core/check';
import { bySeverity } from '@pagina/core/base';
import { compose } from '@pagina/core/compose';
import { fitOf } from '@pagina/core/trade';
import { typeSource } from '@pagina/make';
import { writeImpression } from './impressions';
import type { FromChild, Task } from './tasks';

export async function checkAttached(
  { book: json, edition: id, what, path, attachedPages, out }: Extract<Task, { kind: 'attach' }>,
  progress: (stage: string, share: number) => boolean,
): Promise<FromChild> {
  const parsed = bookFromJson(json);
  if (!parsed.ok) return { type: 'refused', message: parsed.refusal.message };
  const edition = printOf(parsed.value, id);
  if (!edition) return { type: 'refused', message: 'That edition no longer exists.' };
  progress('Reading the PDF', 0);
  const bytes = new Uint8Array(readFileSync(path));
  const pdf = await pdfSubject(bytes);
  if (!pdf.ok) return { type: 'refused', message: pdf.refusal.message };
  const count = pdf.value.pages.length;
  const { coverShows, pagesShow } = await import('@pagina/make/drawn');
  if (what === 'attached-pages') {
    const shown = await pagesShow(bytes, pdf.value, (s) => progress('Drawing its pages', s));
    if (!shown.ok) return { type: 'refused', message: shown.refusal.message };
    const fit = fitOf(edition, count);
    const { ink } = shown.value;
    const findings = bySeverity(checkPagesFile({ pdf: pdf.value, fit, inks: edition.inks, ink }));
    const impression = writeImpression(shown.value.impression, out);
    return { type: 'attached', pages: count, fit, findings, impression };
  }
  let pages = attachedPages;
  if (pages === null) {
    const composed = await compose(parsed.value, edition.id, await typeSource(), {
      progress: (s) => progress('Counting the pages for the spine', s),
    });
    if (!composed.ok) return { type: 'refused', message: composed.refusal.message };
    pages = composed.value.report.pages;
  }
  progress('Reading its words and barcode', 0);
  const geometry = wantedCover(edition, pages);
  const shown = await coverShows(bytes);
  if (!geometry)
    return { type: 'refused', message: 'The edition’s trim can’t be read. Choose it again in Design.' };
  if (!shown.ok) return { type: 'refused', message: shown.refusal.message };
  const { barcodes, words, impression } = shown.value;
  const fit = fitOf(edition, pages);
  const findings = checkCoverFile({
    pdf: pdf.value,
    fit,
    geometry,
    barcodes,
    words,
    record: parsed.value.record,
  });
  return {
    type: 'attached',
    pages: count,
    fit,
    findings: bySeverity(findings),
    impression: writeImpression(impression, out),
  };
}
