/** A PDF written on a thread of its own, page by page, while the pages after are still being set. */
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { Worker } from 'node:worker_threads';
import {
  drawnPage,
  type DrawnPage,
  type Page,
  type PageSetting,
  type ScreenFacts,
} from '@pagina/core/compose';
import type { PdfKind, PrintPdfEnd } from '@pagina/core/pdf';
import { WordParts, type FaceCard, type WordsPart } from '@pagina/core/type';

export type ToThread =
  | { type: 'begin'; kind: PdfKind; screen: ScreenFacts | null; inks: ReadonlyMap<number, string> }
  | { type: 'pages'; pages: [number, DrawnPage][]; words: WordsPart; cards: FaceCard[] }
  | { type: 'end'; end: PrintPdfEnd };
export type FromThread = { type: 'done'; bytes: Uint8Array } | { type: 'failed'; message: string };

export interface PdfFile {
  page(page: Page, setting: PageSetting): void;
  /** The file, with those pages in that order. */
  end(
    pages: readonly Page[],
    setting: PageSetting,
    end: Omit<PrintPdfEnd, 'order' | 'sections'>,
  ): Promise<Uint8Array>;
  /** Lets the thread go; it need not be waited for. */
  close(): void;
}

/**
 * Beside the bundled programs lies the bundled thread; from source it is run through the same loader as the rest.
 *
 * Memory is not marked little by little in a process that writes files. When a thread is let go while V8 still compiles for
 * it, and that compilation comes to the limit at which marking begins, Node 20 stops with an assertion.
 */
function startThread(): Worker {
  setFlagsFromString('--no-incremental-marking');
  const bundled = new URL('./pdf-thread.mjs', import.meta.url);
  if (existsSync(fileURLToPath(bundled))) return new Worker(bundled);
  const source = new URL('./pdf-thread.ts', import.meta.url).href;
  return new Worker(`import('tsx/esm/api').then(({ register }) => (register(), import('${source}')))`, {
    eval: true,
  });
}

/** One thread that has written a file waits for the next: starting another takes longer than writing a short book. */
let rested: Worker | null = null;
function takeThread(): Worker {
  const thread = rested ?? startThread();
  rested = null;
  thread.ref();
  return thread;
}
/** It keeps no process alive. */
function restThread(thread: Worker): void {
  if (rested) return void thread.terminate();
  // Listeners of its own stay: by them it knows whether anybody waits for a message.
  for (const name of ['message', 'error', 'exit']) thread.removeAllListeners(name);
  thread.unref();
  rested = thread;
  const forget = (): void => void (rested = rested === thread ? null : rested);
  thread.once('error', forget).once('exit', forget);
}

/** Pages are handed over in batches: a message has its price. */
const BATCH = 24;

export function openPdfFile(
  kind: PdfKind,
  screen: ScreenFacts | null,
  inks: ReadonlyMap<number, string>,
): PdfFile {
  const thread = takeThread();
  const numbers = new Map<Page, number>();
  let batch: [number, DrawnPage][] = [];
  let words: WordParts | null = null;
  let known = 0;
  let failed: Error | null = null;
  let whole = false;
  let settle: { done: (bytes: Uint8Array) => void; failed: (e: Error) => void } | null = null;
  const fail = (e: Error): void => {
    failed ??= e;
    settle?.failed(e);
  };
  thread.on('error', fail);
  thread.on('message', (m: FromThread) => {
    if (m.type === 'done') {
      whole = true;
      settle?.done(m.bytes);
    } else fail(new Error(m.message));
  });
  const send = (m: ToThread, transfer: ArrayBuffer[] = []): void => thread.postMessage(m, transfer);
  send({ type: 'begin', kind, screen, inks });
  const flush = (setting: PageSetting): void => {
    if (batch.length === 0) return;
    words ??= new WordParts(setting.words);
    const part = words.next();
    const cards = setting.words.faces.slice(known).map((f) => f.card());
    known += cards.length;
    send({ type: 'pages', pages: batch, words: part, cards }, [
      part.starts.buffer as ArrayBuffer,
      part.data.buffer as ArrayBuffer,
    ]);
    batch = [];
  };
  return {
    page(page, setting) {
      if (numbers.has(page)) return;
      const number = numbers.size;
      numbers.set(page, number);
      batch.push([number, drawnPage(setting, page)]);
      if (batch.length === BATCH) flush(setting);
    },
    end(pages, setting, end) {
      for (const p of pages) this.page(p, setting);
      flush(setting);
      return new Promise((done, no) => {
        settle = { done, failed: no };
        if (failed) return no(failed);
        send({
          type: 'end',
          end: {
            ...end,
            order: pages.map((p) => numbers.get(p) as number),
            sections: pages.map((p) => p.section),
          },
        });
      });
    },
    // One that was stopped in the middle of a file may still have pages to write.
    close: () => (whole && !failed ? restThread(thread) : void thread.terminate()),
  };
}
