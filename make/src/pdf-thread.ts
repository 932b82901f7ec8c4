/** The thread that writes a PDF while its pages are still being set. Started by `pdf-file.ts`. */
import { readFileSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { deflateSync } from 'node:zlib';
import { PrintFile } from '@pagina/core/pdf';
import { startSubsetter } from '@pagina/core/type';
import { wasmPath } from './places';
import type { FromThread, ToThread } from './pdf-file';

const port = parentPort!;
const answer = (m: FromThread, transfer: ArrayBuffer[] = []): void => port.postMessage(m, transfer);

/** A page's stream is short: smaller tables are sooner made, and it comes out no longer. */
const DEFLATE = { level: 4, windowBits: 14, memLevel: 7 };

const subsetter = startSubsetter(readFileSync(wasmPath('harfbuzz-subset')));
let file: PrintFile | null = null;

async function take(m: ToThread): Promise<void> {
  if (m.type === 'begin') {
    const deflate = (bytes: Uint8Array): Uint8Array => deflateSync(bytes, DEFLATE);
    file = new PrintFile({ deflate, subsetter: await subsetter }, m.kind, m.screen, m.inks);
    return;
  }
  const pdf = file as PrintFile;
  if (m.type === 'pages') {
    pdf.know(m.words, m.cards);
    for (const [number, page] of m.pages) pdf.page(number, page);
    return;
  }
  const bytes = await pdf.end(m.end);
  answer({ type: 'done', bytes }, [bytes.buffer as ArrayBuffer]);
}

/** One message after the other: a page must find the words before it. */
let turn: Promise<void> = Promise.resolve();
port.on('message', (m: ToThread) => {
  turn = turn
    .then(() => take(m))
    .catch((e: unknown) => answer({ type: 'failed', message: e instanceof Error ? e.message : String(e) }));
});
