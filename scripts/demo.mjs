/** `npm run demo`: installs what is missing, builds, puts the demo titles into a new database, starts everything. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, packages } from './setup.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
packages();
build();
process.env.PAGINA_DATA ??= resolve(root, 'var/demo');
if (!existsSync(resolve(process.env.PAGINA_DATA, 'pagina.db'))) {
  console.log('Importing the demo titles …');
  const seeded = spawnSync(process.execPath, ['demo/dist/seed.mjs'], {
    cwd: root,
    stdio: 'inherit',
    env: process.env,
  });
  if (seeded.status !== 0) process.exit(1);
}
await import('./run.mjs');
