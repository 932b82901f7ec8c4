/**
 * Hunspell on a thread of its own: suggestions for a long word take seconds, in which the server answers others.
 * Takes { id, dictionary, work: 'right' | 'suggest', words } and answers { id, answers } in the words' order.
 */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';

const require_ = createRequire(workerData.from);
const { loadModule } = require_('hunspell-asm');
const factory = loadModule();
const opened = new Map();

async function open(name) {
  const folder = dirname(require_.resolve(name));
  const [aff, dic] = await Promise.all(
    ['index.aff', 'index.dic'].map((file) => readFile(join(folder, file))),
  );
  const f = await factory;
  return f.create(f.mountBuffer(aff, `${name}.aff`), f.mountBuffer(dic, `${name}.dic`));
}
function dictionary(name) {
  if (!opened.has(name)) opened.set(name, open(name));
  return opened.get(name);
}

parentPort.on('message', async ({ id, dictionary: name, work, words }) => {
  try {
    const speller = await dictionary(name);
    const right = (w) => speller.spell(w) || (/^\p{Lu}/u.test(w) && speller.spell(w.toLowerCase()));
    parentPort.postMessage({
      id,
      answers: words.map((w) => (work === 'right' ? right(w) : speller.suggest(w))),
    });
  } catch (e) {
    parentPort.postMessage({ id, error: String(e) });
  }
});
