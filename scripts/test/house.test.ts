import { describe, expect, it } from 'vitest';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { breach } from '../rooms.mjs';

const root = resolve('.');
const at = (path: string): string => join(root, path);

describe('the import table', () => {
  it.each([
    ['core/src/base/x.ts', '../record', /only from rooms above/],
    ['core/src/pdf/x.ts', '../epub', /only from rooms above/],
    ['core/src/order/x.ts', '../tidy', /only from rooms above/],
    ['core/src/check/x.ts', '../package/read', /entered by its index/],
    ['core/src/type/x.ts', 'node:fs', /core may not import/],
    ['web/src/app/x.tsx', '@pagina/make', /web may not import make/],
    ['outlets-sim/src/x.ts', '@pagina/core/package', /outlets-sim may not import core/],
    ['make/src/x.ts', '../../core/src/base', /by its name/],
  ])('%s may not import %s', (file, source, why) => expect(breach(at(file), source)).toMatch(why));
  it.each([
    ['core/src/check/x.ts', '../package'],
    ['core/src/pdf/file.ts', './content'],
    ['works/src/x.ts', '@pagina/core/compose'],
    ['core/src/type/x.ts', 'hyphen/patterns/fr'],
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
