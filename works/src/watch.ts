/**
 * Ends a child process whose parent has died, or that holds more memory than it may. A thread of its own watches, since
 * the main thread may be in the middle of an hour of work, or in a loop that a hostile file has led it into.
 */
import { Worker } from 'node:worker_threads';
import { TOO_FAT } from './tasks';

const WATCH = `
const { writeSync } = require('node:fs');
const { parent, bytes, words } = require('node:worker_threads').workerData;
setInterval(() => {
  if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL');
  if (process.memoryUsage.rss() > bytes) {
    writeSync(2, words);
    process.kill(process.pid, 'SIGKILL');
  }
}, 250);
`;
/** Memory beside the heap: code, faces, unpacked pictures, in megabytes. */
const BESIDE = 1_024;

export function watchOverChild(): void {
  const megabytes = Number(process.env.PAGINA_TASK_MEMORY ?? 2_048) + BESIDE;
  new Worker(WATCH, {
    eval: true,
    workerData: { parent: process.ppid, bytes: megabytes * 1_048_576, words: `${TOO_FAT}\n` },
  }).unref();
}
