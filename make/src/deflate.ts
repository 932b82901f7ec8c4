/** Compression on a thread of its own, so that pages are written while earlier ones are compressed. */
import { Worker } from 'node:worker_threads';

export interface Deflater {
  deflate(bytes: Uint8Array): Promise<Uint8Array>;
  close(): Promise<void>;
}

const WORKER = `
const { parentPort } = require('node:worker_threads');
const { deflateSync } = require('node:zlib');
parentPort.on('message', ({ id, bytes }) => {
  const made = deflateSync(bytes, { level: 6 });
  const own = made.slice();
  parentPort.postMessage({ id, bytes: own }, [own.buffer]);
});
`;

/** Answers come in the order of the questions. The bytes given are taken: they are empty afterwards. */
export function openDeflater(): Deflater {
  const worker = new Worker(WORKER, { eval: true });
  const waiting = new Map<number, { done: (b: Uint8Array) => void; failed: (e: Error) => void }>();
  let next = 0;
  worker.on('message', ({ id, bytes }: { id: number; bytes: Uint8Array }) => {
    waiting.get(id)?.done(bytes);
    waiting.delete(id);
  });
  worker.on('error', (e) => {
    for (const w of waiting.values()) w.failed(e);
    waiting.clear();
  });
  return {
    deflate: (bytes) =>
      new Promise((done, failed) => {
        const id = next++;
        waiting.set(id, { done, failed });
        const own = bytes.byteLength === bytes.buffer.byteLength ? bytes : bytes.slice();
        worker.postMessage({ id, bytes: own }, [own.buffer as ArrayBuffer]);
      }),
    close: async () => void (await worker.terminate()),
  };
}
