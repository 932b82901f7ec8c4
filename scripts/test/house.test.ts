import { describe, expect, it } from 'vitest';
import { mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import ts from 'typescript';
import { circles } from '../circles.mjs';
import { breach } from '../rooms.mjs';

const root = resolve('.');
const at = (path: string): string => join(root, path);

describe('the import table', () => {
  it.each([
    ['core/src/base/x.ts', '../record', /only from rooms above/],
    ['core/src/pdf/x.ts', '../epub', /only from rooms above/],
    ['core/src/order/x.ts', '../tidy', /only from rooms above/],
    ['core/src/tidy/x.ts', '../type', /only from rooms above/],
    ['core/src/check/x.ts', '../package/read', /entered by its index/],
    ['core/src/type/x.ts', 'node:fs', /core may not import/],
    ['web/src/app/x.tsx', '@pagina/make', /web may not import make/],
    ['outlets-sim/src/x.ts', '@pagina/core/package', /outlets-sim may not import core/],
    ['make/src/x.ts', '../../core/src/base', /by its name/],
    ['core/src/compose/lines/x.ts', '../pages', /only from inner rooms above/],
    ['core/src/compose/x.ts', './lines/flow', /entered by its index/],
    ['core/src/compose/lines/x.ts', '../section', /may not import what puts it together/],
  ])('%s may not import %s', (file, source, why) => expect(breach(at(file), source)).toMatch(why));
  it.each([
    ['core/src/check/x.ts', '../package'],
    ['core/src/pdf/file.ts', './content'],
    ['works/src/x.ts', '@pagina/core/compose'],
    ['core/src/type/x.ts', 'hyphen/patterns/fr'],
    ['core/src/compose/pages/x.ts', '../lines'],
    ['core/src/compose/x.ts', './blocks'],
    ['core/src/compose/lines/x.ts', './flow'],
  ])('%s may import %s', (file, source) => expect(breach(at(file), source)).toBeNull());
  it('is kept by every file of the house', () => {
    const broken: string[] = [];
    const walk = (dir: string): void => {
      for (const name of readdirSync(dir)) {
        const path = join(dir, name);
        if (/node_modules|dist|\.next/.test(name)) continue;
        if (statSync(path).isDirectory()) walk(path);
        else if (/\.tsx?$/.test(name))
          for (const m of readFileSync(path, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)) {
            const why = breach(path, m[1] as string);
            if (why) broken.push(`${path}: ${why}`);
          }
      }
    };
    for (const p of ['core', 'make', 'data', 'works', 'web', 'outlets-sim', 'cli']) walk(at(p));
    expect(broken).toEqual([]);
  });
});

/** Sources of all workspaces, as paths from the root. */
function sources(): string[] {
  const found: string[] = [];
  const walk = (dir: string): void => {
    for (const name of readdirSync(at(dir))) {
      const path = `${dir}/${name}`;
      if (/node_modules|dist|\.next/.test(name)) continue;
      if (statSync(at(path)).isDirectory()) walk(path);
      else if (/\.tsx?$/.test(name)) found.push(path);
    }
  };
  for (const p of ['core', 'make', 'data', 'works', 'web', 'outlets-sim', 'cli', 'demo']) walk(`${p}/src`);
  return found;
}

describe('circles of imports', () => {
  it('are found, also by way of a third file', () => {
    const dir = mkdtempSync(join(tmpdir(), 'circles-'));
    writeFileSync(join(dir, 'a.ts'), "import { b } from './b';\n");
    writeFileSync(join(dir, 'b.ts'), "export * from './c';\n");
    writeFileSync(join(dir, 'c.ts'), "import type { A } from './a';\n");
    writeFileSync(join(dir, 'd.ts'), "import { a } from './a';\n");
    expect(circles(dir, ['a.ts', 'b.ts', 'c.ts', 'd.ts'])).toEqual([['a.ts', 'b.ts', 'c.ts']]);
  });
  it('are nowhere in the house', () => expect(circles(root, sources())).toEqual([]));
});

/** What must not come back into the words that people read: see docs/words.md. */
const UNNATURAL: readonly RegExp[] = [
  /taken back|take back\b/i,
  /call(ed)? in (the|from)/i,
  /\bas is usual\b/i,
  /stands? in the contents/i,
  /there is no such/i,
  /on no page|nowhere in/i,
  /words are divided|letters may give|capitals matter/i,
  /any likeness|is chance\b/i,
  /the program cannot be reached/i,
];
it('says nothing to people in words that were put right once', () => {
  const found = sources()
    .filter((f) => !f.startsWith('demo/'))
    .flatMap((f) => {
      // Strings and the text of elements; comments are read by others.
      const text = readFileSync(at(f), 'utf8').replace(/\/\*[\s\S]*?\*\/|^\s*\/\/.*$/gm, '');
      return UNNATURAL.flatMap((u) => (u.test(text) ? [`${f}: ${u.exec(text)?.[0]}`] : []));
    });
  expect(found).toEqual([]);
});

it('every workspace declares the packages that its sources import', () => {
  // demo/ is no workspace: it is run by the root's scripts.
  const inWorkspaces = sources().filter((path) => !path.startsWith('demo/'));
  const undeclared = inWorkspaces.flatMap((path) => {
    const workspace = path.split('/')[0] as string;
    const { dependencies = {} } = JSON.parse(readFileSync(at(`${workspace}/package.json`), 'utf8')) as {
      dependencies?: Record<string, string>;
    };
    const imports = ts.preProcessFile(readFileSync(at(path), 'utf8')).importedFiles.map((f) => f.fileName);
    return imports
      .filter((name) => !/^[./]|^@\/|^node:/.test(name))
      .map((name) =>
        name
          .split('/')
          .slice(0, name.startsWith('@') ? 2 : 1)
          .join('/'),
      )
      .filter((name) => !(name in dependencies))
      .map((name) => `${path}: ${name}`);
  });
  expect(undeclared).toEqual([]);
});
