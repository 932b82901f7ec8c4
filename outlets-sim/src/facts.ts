/** What a shop found out about a file. */
import { readEpub, type EbookFacts } from './ebook';
import { readJpeg, type CoverFacts } from './jpeg';
import { readPdf, type PdfFacts } from './pdf';
import { doubtsIn } from './words';

export type Facts = EbookFacts | PdfFacts | CoverFacts;

export async function factsOf(part: string, bytes: Uint8Array): Promise<Facts> {
  if (part === 'cover') return readJpeg(bytes);
  if (part === 'pages' || part === 'cover sheet') return readPdf(bytes);
  const facts = readEpub(bytes);
  // Its text is looked through once, and not kept.
  return { ...facts, doubts: doubtsIn(facts.text, facts.language), text: '' };
}
