/** Starts web, works and outlets-sim together and ends them together. `PORT` is the web's; all on 127.0.0.1. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const port = process.env.PORT ?? '3000';

/** Any port that nobody listens on. */
const freePort = () =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const found = String(server.address().port);
      server.close(() => done(found));
    });
  });
const env = {
  ...process.env,
  PAGINA_ROOT: root,
  PAGINA_DATA: process.env.PAGINA_DATA ?? resolve(root, 'var'),
  // A second Pagina on the same machine has shops of its own.
  OUTLET_PORT: process.env.OUTLET_PORT ?? (await freePort()),
  OUTLET_SFTP_PORT: process.env.OUTLET_SFTP_PORT ?? (await freePort()),
  PORT: port,
  NEXT_TELEMETRY_DISABLED: '1',
  NODE_ENV: 'production',
};
const children = new Set();
/** Before the program has answered once, a part that ends sooner than this after its start is not started again. */
const SOON = 5_000;
let answered = false;
let ending = false;
function start(name, args, cwd = root) {
  const child = spawn(process.execPath, args, {
    cwd,
    env,
    stdio: ['ignore', process.env.PAGINA_LOG === '1' ? 'inherit' : 'ignore', 'inherit'],
  });
  const begun = Date.now();
  children.add(child);
  child.on('exit', (code) => {
    children.delete(child);
    if (ending) return;
    // Nothing is lost when a part dies: typing waits in the browser, jobs under their leases. It is started again. One
    // that dies as soon as it first starts cannot run here: its port is taken, or a file is missing.
    if (name === 'works' || answered || Date.now() - begun > SOON) {
      setTimeout(() => ending || start(name, args, cwd), 500);
      return;
    }
    console.error(`${name} has stopped (${code}).`);
    end(1);
  });
}
function end(code) {
  ending = true;
  for (const c of children) c.kill('SIGTERM');
  setTimeout(() => process.exit(code), 300);
}
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => end(0));

start(
  'web',
  [resolve(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', port],
  resolve(root, 'web'),
);
start('works', ['works/dist/main.mjs']);
if (existsSync(resolve(root, 'outlets-sim/dist/main.mjs')))
  start('outlets-sim', ['outlets-sim/dist/main.mjs']);

for (let tries = 0; ; tries++) {
  try {
    if ((await fetch(`http://127.0.0.1:${port}/api/titles`)).ok) break;
  } catch {
    if (tries > 300) {
      console.error('The program did not start.');
      end(1);
      break;
    }
  }
  await new Promise((r) => setTimeout(r, 200));
}
answered = true;
console.log(`Pagina is at http://127.0.0.1:${port}`);
