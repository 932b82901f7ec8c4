/** Bundles the command-line programs with esbuild: cli, works, outlets-sim. Run by `npm install` through `prepare`. */
import { build } from 'esbuild';
import { existsSync, rmSync } from 'node:fs';

const programs = [
  ['cli/src/main.ts', 'cli/dist'],
  ['works/src/main.ts', 'works/dist'],
  ['works/src/child.ts', 'works/dist'],
  ['demo/src/seed.ts', 'demo/dist'],
  ['outlets-sim/src/main.ts', 'outlets-sim/dist'],
];
/** Packages with files of their own (binaries, fonts, wasm) stay outside the bundle. */
const external = ['sharp', '@libsql/client', 'harfbuzzjs', '@expo-google-fonts/*', 'pino', 'docx'];
// Chunks are named by their content: old ones would pile up.
for (const outdir of new Set(programs.map(([, o]) => o))) rmSync(outdir, { recursive: true, force: true });
for (const [entry, outdir] of programs) {
  if (!existsSync(entry)) continue;
  await build({
    entryPoints: [entry],
    outdir,
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external,
    outExtension: { '.js': '.mjs' },

    minifySyntax: true,
    minifyWhitespace: true,
    logLevel: 'error',
    banner: {
      js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
    },
  });
}
