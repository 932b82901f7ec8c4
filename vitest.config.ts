import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { defineConfig } from 'vitest/config';

// Whatever the tests write stays in one folder, which goes with them. This file is read once for every project.
if (!tmpdir().includes('pagina-test-')) {
  const folder = mkdtempSync(join(tmpdir(), 'pagina-test-'));
  process.env.TMPDIR = folder;
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
}

const workspaces = ['core', 'make', 'data', 'works', 'outlets-sim', 'cli', 'scripts'];

export default defineConfig({
  test: {
    testTimeout: 60_000,
    hookTimeout: 120_000,
    projects: [
      ...workspaces.map((name) => ({
        extends: true as const,
        test: {
          name,
          include: [`${name}/test/**/*.test.ts`],
          // Once for all: the first project that runs programs has them bundled.
          ...(name === 'works' || name === 'cli' ? { globalSetup: ['scripts/test/bundled.ts'] } : {}),
        },
      })),
      // What the interface works out without a page.
      {
        extends: true as const,
        resolve: { alias: { '@': resolve(import.meta.dirname, 'web/src') } },
        test: { name: 'web', include: ['web/test/**/*.test.ts'] },
      },
      // Browser tests share one running application, so they go one file after the other.
      {
        extends: true as const,
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/setup.ts'],
          fileParallelism: false,
          // Other work of the machine must not decide.
          testTimeout: 180_000,
          expect: { poll: { timeout: 15_000 } },
        },
      },
    ],
  },
});
