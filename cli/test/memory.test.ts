/**
 * What a check needs at most, told by the operating system of a process of its own (getrusage: maxrss): over ebooks that
 * something has happened to, and over ebooks that are packed to burst.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { expect, it } from 'vitest';
import { MINIMAL, page, zipped, type Parts } from '../../core/test/check/minimal';
import { foreignEpub } from '../../core/test/fixtures/foreign';

const dir = mkdtempSync(join(tmpdir(), 'memory-'));
const at = (name: string): string => join(dir, name);
const MOST = 500_000_000;

/** Bytes that a check of these files takes at most, and how it ended. */
function checked(...files: string[]): { code: number | null; most: number; out: string; err: string } {
  const hook = at('hook.cjs');
  writeFileSync(
    hook,
    `process.on('exit', () => require('fs').writeFileSync(${JSON.stringify(at('most'))}, String(process.resourceUsage().maxRSS * 1024)));`,
  );
  const r = spawnSync(
    process.execPath,
    [
      '--max-semi-space-size=64',
      '--require',
      hook,
      resolve('cli/dist/main.mjs'),
      'check',
      '--json',
      ...files,
    ],
    { encoding: 'utf8', maxBuffer: 1e9, timeout: 240_000 },
  );
  return { code: r.status, most: Number(readFileSync(at('most'), 'utf8')), out: r.stdout, err: r.stderr };
}

it('two thousand ebooks with bytes, structure or text changed are checked one after the other within it', () => {
  let seed = 11;
  const next = (n: number): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) % n;
  const bases = [zipped(MINIMAL), foreignEpub()];
  for (let i = 0; i < 2_000; i++) {
    const bytes = (bases[i % 2] as Uint8Array).slice();
    for (let k = 0; k <= next(5); k++) bytes[next(bytes.length)] = next(256);
    writeFileSync(at(`m${i}.epub`), next(10) === 0 ? bytes.subarray(0, next(bytes.length)) : bytes);
  }
  const files = readdirSync(dir)
    .filter((f) => f.endsWith('.epub'))
    .map(at);
  let [told, most] = [0, 0];
  for (let from = 0; from < files.length; from += 250) {
    const r = checked(...files.slice(from, from + 250));
    expect(r.err).not.toMatch(/inside the program/);
    most = Math.max(most, r.most);
    // Each is checked, or refused in a line.
    const { files: found } = JSON.parse(r.out) as { files: unknown[] };
    told += found.length + r.err.trim().split('\n').filter(Boolean).length;
  }
  expect(told).toBe(2_000);
  expect(most).toBeLessThan(MOST);
}, 400_000);

const packed = (parts: Parts): Uint8Array =>
  zipSync(
    Object.fromEntries(Object.entries(parts).map(([n, p]) => [n, typeof p === 'string' ? strToU8(p) : p])),
  );
const opf = (more: string): string =>
  String(MINIMAL['book.opf']).replace('</manifest>', `${more}</manifest>`);
it.each([
  ['zeros', { 'a.xhtml': new Uint8Array(120e6), 'b.xhtml': new Uint8Array(120e6) }],
  ['spaces', { 'a.xhtml': page(' '.repeat(100e6)) }],
  ['elements', { 'a.xhtml': page('<p>x</p>'.repeat(2e6)) }],
  ['rules of a style sheet', { 'style.css': 'p{margin:0}'.repeat(1e6) }],
  [
    'many parts',
    {
      'book.opf': opf(Array.from({ length: 40 }, (_, i) => `<item id="x${i}" href="x${i}.xhtml" media-type="application/xhtml+xml"/>`).join('')),
      ...Object.fromEntries(Array.from({ length: 40 }, (_, i) => [`x${i}.xhtml`, page('<i>x</i>'.repeat(1e5))])),
    },
  ],
] as [string, Parts][])('an ebook of too many %s is told to be too large within it', (_, more) => {
  writeFileSync(at('large.epub'), packed({ ...MINIMAL, ...more }));
  const { code, most } = checked(at('large.epub'));
  expect(code).toBe(1);
  expect(most).toBeLessThan(MOST);
}, 120_000); // prettier-ignore
