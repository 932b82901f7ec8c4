/** Bundles the command-line programs with esbuild: cli, works, outlets-sim. Run by `npm install` through `prepare`. */
import { build } from 'esbuild';
import { existsSync, rmSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const programs = [
  ['cli/src/main.ts', 'cli/dist'],
  ['works/src/main.ts', 'works/dist'],
  ['works/src/child.ts', 'works/dist'],
  ['demo/src/seed.ts', 'demo/dist'],
  ['outlets-sim/src/main.ts', 'outlets-sim/dist'],
];
/** Packages with files of their own (binaries, fonts, wasm) stay outside the bundle. */
const external = [
  'sharp',
  '@libsql/client',
  'harfbuzzjs',
  '@expo-google-fonts/*',
  'pino',
  'docx',
  'pdfjs-dist',
  '@napi-rs/canvas',
  'tesseract.js',
  'word-extractor',
  'rtf-stream-parser',
  'iconv-lite',
  'css-tree',
  'ssh2',
];
// Chunks are named by their content: old ones would pile up.
for (const outdir of new Set(programs.map(([, o]) => o))) rmSync(outdir, { recursive: true, force: true });
const bundle = (entry, outdir, more) =>
  build({
    entryPoints: [entry],
    outdir,
    bundle: true,
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
    ...more,
  });
// The command line is parsed again at every run: short names are a thirtieth of its time. `--enable-source-maps` reads them back.
const short = { minifyIdentifiers: true, sourcemap: 'linked' };
for (const [entry, outdir] of programs)
  if (existsSync(entry))
    await bundle(entry, outdir, { splitting: true, ...(outdir === 'cli/dist' ? short : {}) });
/** The PDF library's modules have no effects of their own, but its package does not say so: what is not used is left out. */
const lean = {
  name: 'lean',
  setup({ onResolve }) {
    onResolve({ filter: /^pdf-lib$/ }, () => ({
      path: fileURLToPath(import.meta.resolve('pdf-lib/es/core/index.js')),
      sideEffects: false,
    }));
    onResolve({ filter: /^\./ }, ({ path, importer, resolveDir }) =>
      importer.includes('/pdf-lib/es/')
        ? { path: esModule(resolve(resolveDir, path)), sideEffects: false }
        : undefined,
    );
  },
};
const esModule = (path) =>
  [path, `${path}.js`, join(path, 'index.js')].find((p) => existsSync(p) && statSync(p).isFile());
// The thread stands alone and starts with no more than it needs.
for (const outdir of ['cli/dist', 'works/dist'])
  await bundle('make/src/pdf-thread.ts', outdir, {
    mainFields: ['module', 'main'],
    plugins: [lean],
    ...(outdir === 'cli/dist' ? short : {}),
  });
