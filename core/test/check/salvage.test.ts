/**
 * Containers that end too soon, or whose directory is wrong. Which files are whole is known from where the sound container
 * ends them; the archives are written and read again by fflate (another hand).
 */
import fc from 'fast-check';
import { strToU8, unzipSync, Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { expect, it } from 'vitest';
import { openSalvaged, openZip } from '../../src/base';
import { checkEpub, mendAll } from '../../src/check';
import { foreignEpub } from '../fixtures/foreign';
import { MINIMAL, zipped } from './minimal';

/** An archive written as a stream: sizes and checksums follow the data (APPNOTE 6.3 §4.3.9). */
function streamed(): Uint8Array {
  const chunks: Uint8Array[] = [];
  const zip = new Zip((_, chunk) => void chunks.push(chunk));
  for (const [name, part] of Object.entries(MINIMAL)) {
    const file = name === 'mimetype' ? new ZipPassThrough(name) : new ZipDeflate(name);
    zip.add(file);
    file.push(typeof part === 'string' ? strToU8(part) : part, true);
  }
  zip.end();
  const all = new Uint8Array(chunks.reduce((n, c) => n + c.length, 0));
  chunks.reduce((at, c) => (all.set(c, at), at + c.length), 0);
  return all;
}
const BASES = { whole: zipped(MINIMAL), streamed: streamed(), foreign: foreignEpub() };

/** Where the data of each file ends in a sound archive, with the descriptor behind it where there is one. */
function ends(bytes: Uint8Array): { name: string; end: number }[] {
  const zip = openZip(bytes);
  if (!zip.ok) throw new Error('the fixture is no zip');
  return zip.value.entries
    .map((e) => {
      const view = new DataView(bytes.buffer, bytes.byteOffset + e.offset);
      const descriptor = view.getUint16(6, true) & 8 ? 16 : 0;
      const data = e.offset + 30 + view.getUint16(26, true) + e.localExtra + e.compressed;
      return { name: e.name, end: data + descriptor };
    })
    .sort((a, b) => a.end - b.end);
}

it.each(Object.entries(BASES))(
  '%s: every file that is whole is kept, wherever the archive ends',
  (_, base) => {
    const sound = unzipSync(base);
    const all = ends(base);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: base.length - 1 }), (length) => {
        const opened = openSalvaged(base.slice(0, length));
        const whole = all.filter((e) => e.end <= length).map((e) => e.name);
        if (!opened.ok) return void expect(whole).toEqual([]);
        const names = opened.value.entries.map((e) => e.name);
        // Of a descriptor the last four bytes may be missing without the file’s being less whole.
        expect(names.slice(0, whole.length)).toEqual(whole);
        expect(names.length - whole.length).toBeLessThanOrEqual(1);
        for (const name of whole) expect(opened.value.read(name)).toEqual(sound[name]);
        // Other readers open it, too.
        expect(Object.keys(unzipSync(opened.value.bytes)).sort()).toEqual([...names].sort());
      }),
      { numRuns: 300 },
    );
  },
);

it('a directory that is wrong anywhere is made anew', () => {
  const base = BASES.whole;
  const view = new DataView(base.buffer, base.byteOffset);
  const directory = view.getUint32(base.length - 22 + 16, true);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 3 }), (k) => {
      const bytes = base.slice();
      bytes[directory + k]! ^= 0xff;
      const opened = openSalvaged(bytes);
      expect(opened.ok && opened.value.entries.length).toBe(Object.keys(MINIMAL).length);
      expect(opened.ok && opened.value.salvaged?.lost).toEqual([]);
    }),
  );
});

it('a file that stops in its last chapter is told of, mended, and opens in another reader', () => {
  const base = BASES.whole;
  const at = ends(base).find((e) => e.name === 'b.xhtml')!.end - 5;
  const cut = base.slice(0, at);
  const found = checkEpub(cut);
  const message = found.ok && found.value.find((f) => f.rule === 'zip/incomplete-container')?.message;
  expect(message).toMatch(
    /^The container is incomplete: \d+ files are intact; “b\.xhtml” is damaged or cut short\.$/,
  );
  const mended = mendAll(cut, '2026-01-01T00:00:00Z');
  expect(mended.ok && mended.value.steps[0]?.label).toBe('Repack the intact files');
  expect(mended.ok && mended.value.findings.some((f) => f.rule === 'zip/incomplete-container')).toBe(false);
});

it('thousands of false headers are walked through in a moment', () => {
  const bytes = new Uint8Array(6_000_000);
  for (let i = 0; i + 30 < bytes.length; i += 30) bytes.set([0x50, 0x4b, 3, 4, 20, 0, 8, 0], i);
  const before = process.cpuUsage();
  expect(openSalvaged(bytes).ok).toBe(false);
  expect(process.cpuUsage(before).user / 1_000).toBeLessThan(5_000);
});
