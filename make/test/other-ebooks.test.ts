/**
 * EPUB files that other people made with other programs: those in Debian's documentation packages. What is wrong with them
 * is counted here by another zip library (jszip) and by regular expressions; the checks may find no blocker that isn't
 * among it, and must find each that is.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { basename, dirname, join, normalize } from 'node:path/posix';
import JSZip from 'jszip';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkEpub, keptBetween, mendAll } from '@pagina/core/check';
import { copyOf } from '@pagina/core/emend';
import { OTHER_EBOOKS, otherEbooks } from '../../scripts/setup.mjs';

const found = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((n) => n.endsWith('.epub'))
    .map((n) => join(folder, n));

/** Names of blockers that can be counted without a reader of EPUB. */
async function truth(bytes: Uint8Array): Promise<Record<string, number>> {
  const zip = await JSZip.loadAsync(bytes);
  const names = new Set(Object.keys(zip.files));
  const text = (n: string): Promise<string> => zip.files[n]!.async('string');
  const first = new TextDecoder().decode(bytes.subarray(30, 30 + (bytes[26] ?? 0)));
  const opfPath = /full-path="([^"]+)"/.exec(await text('META-INF/container.xml'))![1]!;
  const opf = await text(opfPath);
  const at = (from: string, href: string): string =>
    normalize(join(dirname(from), decodeURIComponent(href.split('#')[0]!))).replace(/^\.\//, '');
  const count = { first: first === 'mimetype' ? 0 : 1, item: 0, file: 0, picture: 0, style: 0, extra: 0 };
  for (const m of opf.matchAll(/<(?:\w+:)?item\s[^>]*?href="([^"]+)"/g))
    if (!names.has(at(opfPath, m[1]!))) count.item++;
  const mimetype = Buffer.from(bytes).indexOf('mimetypeapplication/epub+zip');
  // An extra field stands between the name and the words of the file.
  count.extra = mimetype >= 0 ? 0 : 1;
  for (const n of names) {
    if (/\.x?html$/.test(n)) {
      const html = await text(n);
      count.file += html.match(/\s(?:href|src)="file:/g)?.length ?? 0;
      for (const m of html.matchAll(/<img[^>]*?\ssrc="([^":]+)"/g))
        if (!names.has(at(n, m[1]!))) count.picture++;
    }
    if (/\.css$/.test(n))
      for (const m of (await text(n)).replace(/\/\*[^]*?\*\//g, '').matchAll(/url\(["']?([^"'):]+)["']?\)/g))
        if (!names.has(at(n, m[1]!))) count.style++;
  }
  return {
    'zip/mimetype-first': count.first,
    'zip/mimetype-extra-field': count.extra,
    'manifest/missing-file': count.item,
    'manifest/file-address': count.file,
    'link/missing-resource': count.picture,
    'style/dead-address': count.style,
  };
}

const counted = (findings: readonly { rule: string; severity: string }[]): Record<string, number> => {
  const by: Record<string, number> = {};
  for (const f of findings) if (f.severity === 'blocker') by[f.rule] = (by[f.rule] ?? 0) + 1;
  return by;
};

describe('an EPUB of another program', () => {
  let files: string[] = [];
  beforeAll(() => {
    otherEbooks();
    files = found(OTHER_EBOOKS);
  }, 120_000);

  it('has the blockers that it has, and no other', async () => {
    expect(files.length).toBeGreaterThanOrEqual(8);
    for (const path of files) {
      const bytes = new Uint8Array(readFileSync(path));
      const checked = checkEpub(bytes);
      if (!checked.ok) throw new Error(`${path}: ${checked.refusal.message}`);
      const expected = Object.fromEntries(Object.entries(await truth(bytes)).filter(([, n]) => n > 0));
      expect(counted(checked.value), basename(path)).toEqual(expected);
    }
  }, 120_000);

  /** Words of all pages, by name, by regular expressions. */
  const words = async (bytes: Uint8Array): Promise<string> => {
    const zip = await JSZip.loadAsync(bytes);
    const pages = Object.keys(zip.files).filter((n) => /\.x?html$/.test(n));
    const texts = pages.sort().map(async (n) => {
      const html = (await zip.files[n]!.async('string')).replace(/^[^]*?<body[^>]*>/, '');
      return html.replace(/<!--[^]*?-->|<[^>]*>/g, ' ').replace(/\s+/g, ' ');
    });
    return (await Promise.all(texts)).join('\n');
  };
  it('is mended as far as can be, with every word and picture as it was', async () => {
    for (const path of files) {
      const bytes = new Uint8Array(readFileSync(path));
      const mended = mendAll(bytes, '2026-11-29T04:00:00Z');
      if (!mended.ok) throw new Error(`${path}: ${mended.refusal.message}`);
      const copy = copyOf(mended.value.e);
      expect(keptBetween(bytes, copy), basename(path)).toEqual({ words: [], files: [] });
      expect((await words(copy)) === (await words(bytes)), basename(path)).toBe(true);
      // What leads to somebody's computer, and pictures that are nowhere, are for a person.
      for (const rule of Object.keys(counted(mended.value.findings)))
        expect(
          ['manifest/file-address', 'style/dead-address', 'link/missing-resource'],
          basename(path),
        ).toContain(rule);
    }
  }, 240_000);
});
