/** Files: whole or not there; and those that nothing refers to any more. */
import { beforeEach, describe, expect, it } from 'vitest';
import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, readdirSync, readlinkSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import JSZip from 'jszip';
import {
  archiveOf,
  collectFiles,
  createTitle,
  enqueue,
  filePath,
  insertProduct,
  keepBytes,
  saveChange,
  storedSize,
  undo,
  type Store,
} from '../src';
import { book, section, threeChapters } from '../../core/test/fixtures/books';
import { freshStore } from './fixtures';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});
const bytes = (words: string): Uint8Array => new TextEncoder().encode(words);
const WEEKS = 30 * 24 * 3_600_000;

/** A file size limit of the shell stands for a disk that fills up: the system takes a part of a write, then none. */
const inRoomFor = (kilobytes: number, script: string) =>
  spawnSync('sh', ['-c', `ulimit -f ${kilobytes * 2}; exec node --import tsx --input-type=module`], {
    input: script,
    encoding: 'utf8',
  });
const keeping = (size: number, parts: number): string => `
  import { openStore, keepFile, keepBytes, storedSize, isFull } from '${resolve('data/src/index.ts')}';
  const store = await openStore('${store.folder}', '${resolve('data/drizzle')}');
  const chunk = new Uint8Array(${size / parts}).fill(7);
  try {
    const kept = await keepFile(store, Array.from({ length: ${parts} }, () => chunk));
    console.log('kept', await storedSize(store, kept.sha256));
  } catch (e) {
    console.log(e.constructor.name, isFull(e), e.message);
  }`;

describe('a disk without room', () => {
  it.each([
    ['in one piece', 1],
    ['in many pieces', 64],
  ])('keeps nothing of a file that arrives %s, and says so in a sentence', (_, parts) => {
    const r = inRoomFor(1_024, keeping(3_145_728, parts));
    expect(r.stderr).toBe('');
    expect(r.stdout).toMatch(/^DiskFull true There is no room left on the disk\. Free some/);
    expect(readdirSync(join(store.folder, 'files'))).toEqual([]);
  });
  it('still keeps what has room', () => {
    expect(inRoomFor(1_024, keeping(524_288, 8)).stdout).toBe('kept 524288\n');
  });
});

describe('an archive of kept files', () => {
  const gathered = async (stream: Readable): Promise<Uint8Array> => new Uint8Array(await buffer(stream));
  it('holds them as they are, by another library’s reading, with names in any script', async () => {
    const large = randomBytes(3_000_000);
    const { sha256 } = await keepBytes(store, large);
    const { sha256: empty } = await keepBytes(store, new Uint8Array(0));
    const zip = await JSZip.loadAsync(
      await gathered(
        archiveOf(store, [
          { name: 'What each file is for.txt', bytes: bytes('The pages.') },
          { name: 'große-Überfahrt.pdf', sha256 },
          { name: 'nothing.txt', sha256: empty },
        ]),
      ),
      { checkCRC32: true },
    );
    expect(Object.keys(zip.files)).toEqual([
      'What each file is for.txt',
      'große-Überfahrt.pdf',
      'nothing.txt',
    ]);
    expect(await zip.file('What each file is for.txt')!.async('string')).toBe('The pages.');
    expect(large.equals(await zip.file('große-Überfahrt.pdf')!.async('nodebuffer'))).toBe(true);
    expect(await zip.file('nothing.txt')!.async('string')).toBe('');
  });
  it('fails where a file has gone, instead of ending as if it were whole', async () => {
    const { sha256 } = await keepBytes(store, bytes('words'));
    rmSync(filePath(store, sha256));
    await expect(gathered(archiveOf(store, [{ name: 'a.pdf', sha256 }]))).rejects.toThrow(/ENOENT/);
  });
  it('lets go of its file when nobody wants it any more', async () => {
    const { sha256 } = await keepBytes(store, randomBytes(3_000_000));
    const held = (): number =>
      readdirSync('/proc/self/fd').filter((fd) => {
        try {
          return readlinkSync(`/proc/self/fd/${fd}`).includes(sha256);
        } catch {
          return false;
        }
      }).length;
    const stream = archiveOf(store, [{ name: 'a.pdf', sha256 }]);
    for await (const piece of stream) if (piece.length > 1_000) break;
    await expect.poll(held).toBe(0);
  });
});

describe('a checksum', () => {
  it.each(['', '../../etc/passwd', 'A'.repeat(64), `${'a'.repeat(64)}/x`])(
    'that is none (%j) names no path',
    async (sha256) => {
      expect(() => filePath(store, sha256)).toThrow(RangeError);
      expect(await storedSize(store, sha256)).toBeNull();
    },
  );
  it('of no kept file is refused for a picture', async () => {
    const id = await createTitle(store, threeChapters());
    const picture = { id: 'p', name: 'p', type: 'image/png' as const, width: 1, height: 1 };
    const add = (sha256: string) =>
      saveChange(store, id, {
        base: 0,
        client: 'a',
        change: { type: 'add-pictures', pictures: [{ ...picture, sha256 }] },
      });
    const refused = await add('b'.repeat(64));
    expect(refused.ok ? '' : refused.refusal.code).toBe('picture/missing');
    expect((await add((await keepBytes(store, bytes('a picture'))).sha256)).ok).toBe(true);
  });
});

describe('collecting', () => {
  const kept = async (words: string): Promise<string> => (await keepBytes(store, bytes(words))).sha256;
  const isThere = (sha256: string): boolean => existsSync(filePath(store, sha256));
  const later = (): Promise<number> => collectFiles(store, Date.now() + WEEKS);

  it('takes what nothing refers to, after a while', async () => {
    const stray = await kept('stray');
    expect(await collectFiles(store)).toBe(0);
    expect(isThere(stray)).toBe(true);
    expect(await later()).toBe(1);
    expect(isThere(stray)).toBe(false);
    expect(await later()).toBe(0);
  });
  it('leaves pictures, also those that only undo or an older version knows, manuscripts and made files', async () => {
    const [picture, undone, manuscript, made, reading] = [
      await kept('picture'),
      await kept('undone'),
      await kept('manuscript'),
      await kept('made'),
      await kept('reading'),
    ];
    const of = (sha256: string) => ({
      id: sha256.slice(0, 8),
      name: 'x',
      type: 'image/png' as const,
      width: 1,
      height: 1,
      sha256,
    });
    const id = await createTitle(
      store,
      book([section('one', 'chapter', ['A'])], { pictures: [of(picture)] }),
    );
    const change = { type: 'add-pictures' as const, pictures: [of(undone)] };
    await saveChange(store, id, { base: 0, client: 'a', change });
    await undo(store, id, { client: 'a' });
    const job = await enqueue(store, 'reread', { sha256: manuscript, name: 'a.docx' }, id);
    await store.client.execute({
      sql: 'UPDATE jobs SET result = ? WHERE id = ?',
      args: [JSON.stringify({ reading }), job],
    });
    const file = {
      title: id,
      edition: 'ebook',
      name: 'a.epub',
      sha256: made,
      size: 4,
      revision: 1,
      pages: 0,
    };
    await store.write((tx) => insertProduct(tx, 'p1', { ...file, findings: [] }));
    expect(await later()).toBe(0);
    for (const sha256 of [picture, undone, manuscript, made, reading]) expect(isThere(sha256)).toBe(true);
  });
  it('takes what an upload left behind that never ended, but not one that is on its way', async () => {
    const [old, now] = ['incoming-old', 'incoming-now'].map((n) => join(store.folder, 'files', n));
    for (const path of [old!, now!]) writeFileSync(path, 'x');
    const then = (Date.now() - 24 * 3_600_000) / 1000;
    utimesSync(old!, then, then);
    await collectFiles(store);
    expect([existsSync(old!), existsSync(now!)]).toEqual([false, true]);
  });
  it('keeps a file that is brought in again', async () => {
    const again = await kept('again');
    await store.client.execute('UPDATE files SET created_at = 1');
    await kept('again');
    expect(await collectFiles(store)).toBe(0);
    expect(statSync(filePath(store, again)).size).toBe(5);
  });
});
