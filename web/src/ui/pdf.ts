/** PDF files in the browser, by pdf.js in a worker of its own. */
import type * as PdfJs from 'pdfjs-dist';

let library: Promise<typeof PdfJs> | null = null;
async function pdfjs(): Promise<typeof PdfJs> {
  const lib = await import('pdfjs-dist');
  lib.GlobalWorkerOptions.workerPort ??= new Worker(
    new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url),
    { type: 'module' },
  );
  return lib;
}

/** Files that stay open: one goes to and fro between two of them at most. */
const KEPT = 2;
const opened = new Map<string, Promise<PdfJs.PDFDocumentProxy>>();

/** Opens a kept file by its checksum. Glyphs are drawn as outlines, so that the policy of the pages needs no exception. */
export function openPdf(sha256: string): Promise<PdfJs.PDFDocumentProxy> {
  const known = opened.get(sha256);
  if (known) return known;
  const file = (library ??= pdfjs()).then(
    (lib) =>
      lib.getDocument({
        url: `/api/files/${sha256}`,
        disableFontFace: true,
        isEvalSupported: false,
        useWasm: false,
      }).promise,
  );
  opened.set(sha256, file);
  file.catch(() => opened.delete(sha256));
  for (const [old, of] of [...opened].slice(0, -KEPT)) {
    opened.delete(old);
    void of.then((d) => d.destroy()).catch(() => undefined);
  }
  return file;
}
