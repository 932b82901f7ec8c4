/** What the printer reads out of a PDF, by a reading library of others. */
import type { FileFacts } from './filefacts';
import { isbnsIn } from './ebook';

export interface PdfFacts extends FileFacts {
  kind: 'pdf';
  pages: number;
  /** Points, of the first page; and whether all pages are of its size. */
  width: number;
  height: number;
  even: boolean;
  isbns: string[];
  /** Words in the right half of the first page: the front of a cover. A picture’s words are none. */
  front: string;
}
/** Pages whose words are read. */
const MOST_READ = 12;

export async function readPdf(bytes: Uint8Array): Promise<PdfFacts> {
  const facts: PdfFacts = {
    kind: 'pdf',
    pages: 0,
    width: 0,
    height: 0,
    even: true,
    isbns: [],
    front: '',
    text: '',
    fault: '',
  };
  try {
    const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
    const task = getDocument({ data: bytes.slice(), verbosity: 0, isEvalSupported: false });
    const doc = await task.promise;
    facts.pages = doc.numPages;
    const words: string[] = [];
    for (let n = 1; n <= doc.numPages; n++) {
      const page = await doc.getPage(n);
      const [left = 0, foot = 0, right = 0, head = 0] = page.view;
      if (n === 1) Object.assign(facts, { width: right - left, height: head - foot });
      else if (Math.abs(right - left - facts.width) > 0.1 || Math.abs(head - foot - facts.height) > 0.1)
        facts.even = false;
      if (n <= MOST_READ) {
        const { items } = await page.getTextContent();
        if (n === 1)
          facts.front = items
            .flatMap((i) => ('str' in i && (i.transform as number[])[4]! > (left + right) / 2 ? [i.str] : []))
            .join(' ');
        words.push(items.map((i) => ('str' in i ? i.str : '')).join(' '));
      }
      page.cleanup();
    }
    facts.text = words.join('\n');
    facts.isbns = isbnsIn(facts.text);
    await task.destroy();
  } catch (e) {
    facts.fault = (e as Error).message || 'it can’t be opened';
  }
  return facts;
}
