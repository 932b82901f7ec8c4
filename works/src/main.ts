/** The works process. `PAGINA_DATA` is the folder of the database. */
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { openStore } from '@pagina/data';
import { Runner } from './run';

const here = dirname(fileURLToPath(import.meta.url));
const log = pino({ name: 'works' });
const store = await openStore(process.env.PAGINA_DATA ?? 'var', resolve(here, '../../data/drizzle'));
const runner = new Runner(store, {
  child: join(here, 'child.mjs'),
  log: (words, more) => log.info(more ?? {}, words),
});
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    runner.stop();
    process.exit(0);
  });
log.info({ folder: store.folder }, 'waits for work');
await runner.run();
