import { defineConfig } from 'vitest/config';

const workspaces = ['core', 'make', 'data', 'works', 'outlets-sim', 'cli', 'scripts'];

export default defineConfig({
  test: {
    testTimeout: 60_000,
    hookTimeout: 120_000,
    projects: workspaces.map((name) => ({
      extends: true,
      test: { name, include: [`${name}/test/**/*.test.ts`] },
    })),
  },
});
