/** Gives the imprint the keys of its accounts at the stand-in outlets, which are asked for them. */
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setKey, type Store } from '@pagina/data';

const freePort = (): Promise<string> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(String(port)));
    });
  });

export async function connectOutlets(store: Store, root: string): Promise<void> {
  const [port, sftp] = [await freePort(), await freePort()];
  const outlets = spawn(process.execPath, [join(root, 'outlets-sim/dist/main.mjs')], {
    env: { ...process.env, PAGINA_DATA: store.folder, OUTLET_PORT: port, OUTLET_SFTP_PORT: sftp },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  try {
    await new Promise((open, fail) => {
      outlets.stdout.once('data', open);
      outlets.once('exit', () => fail(new Error('the outlets did not open')));
    });
    const desk = await fetch(`http://127.0.0.1:${port}/desk`);
    const { accounts } = (await desk.json()) as { accounts: Record<string, string> };
    for (const [outlet, key] of Object.entries(accounts)) await setKey(store, outlet, key);
  } finally {
    outlets.removeAllListeners('exit');
    outlets.kill();
  }
}
