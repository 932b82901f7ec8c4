/** Starts the built application on a new database for the browser tests, and ends it after them. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  export interface ProvidedContext {
    address: string;
    folder: string;
  }
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const s = createServer();
    s.listen(0, '127.0.0.1', () => {
      const { port } = s.address() as { port: number };
      s.close(() => resolve(port));
    });
  });

export interface App {
  address: string;
  port: number;
  folder: string;
  stop: () => Promise<void>;
}

/** Starts the built application by itself, on a new database. */
export async function startApp(): Promise<App> {
  const [port, outletPort] = [await freePort(), await freePort()];
  const folder = mkdtempSync(join(tmpdir(), 'pagina-e2e-'));
  const app: ChildProcess = spawn(process.execPath, ['scripts/run.mjs'], {
    env: {
      ...process.env,
      PORT: String(port),
      PAGINA_DATA: folder,
      OUTLET_PORT: String(outletPort),
      NODE_OPTIONS: '',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    const limit = setTimeout(() => reject(new Error('the application did not start')), 60_000);
    app.stdout?.on('data', (d: Buffer) => {
      if (!d.toString().includes('Pagina is at')) return;
      clearTimeout(limit);
      resolve();
    });
    app.on('exit', () => reject(new Error('the application ended')));
  });
  return {
    address: `http://127.0.0.1:${port}`,
    port,
    folder,
    stop: async () => {
      app.removeAllListeners('exit');
      app.kill('SIGTERM');
      await new Promise((r) => setTimeout(r, 600));
    },
  };
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const app = await startApp();
  project.provide('address', app.address);
  project.provide('folder', app.folder);
  return app.stop;
}
