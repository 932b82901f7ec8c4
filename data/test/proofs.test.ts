import { gzipSync } from 'node:zlib';
import { beforeEach, describe, expect, it } from 'vitest';
import { newBook, type Change } from '@pagina/core/book';
import { recordSchema } from '@pagina/core/record';
import type { Impression } from '@pagina/core/proof';
import {
  addComment,
  closeComment,
  collectFiles,
  commentsOf,
  createTitle,
  impressionOf,
  insertProduct,
  keepBytes,
  markRead,
  productsOf,
  readMarks,
  saveChange,
  signOff,
  signOffsOf,
  storedSize,
  withdrawSignOff,
  type Store,
} from '../src';
import { freshStore } from './fixtures';

let store: Store;
let id: string;
beforeEach(async () => {
  store = await freshStore();
  id = await createTitle(store, newBook('b', recordSchema.parse({ title: 'Proofs' }), []));
});
const file = (n: number) => ({
  title: id,
  edition: 'paperback',
  name: 'a.pdf',
  sha256: String(n % 10).repeat(64),
  size: 1,
  revision: 0,
  pages: 2,
  findings: [],
});
const of = (n: number) => ({
  edition: 'paperback',
  product: `p${n}`,
  sha256: String(n % 10).repeat(64),
  revision: 0,
  engine: 1,
  views: 2,
  actor: 'author',
});

describe('pages that were read', () => {
  it('are kept by edition, once, and can be unread again', async () => {
    const marks = Array.from({ length: 1_200 }, (_, i) => i.toString(16).padStart(16, '0'));
    const asked = { title: id, edition: 'paperback', marks, read: true };
    await Promise.all([markRead(store, asked), markRead(store, asked)]);
    expect((await readMarks(store, id, 'paperback')).sort()).toEqual(marks);
    expect(await readMarks(store, id, 'large')).toEqual([]);
    await markRead(store, { ...asked, marks: marks.slice(0, 900), read: false });
    expect((await readMarks(store, id, 'paperback')).sort()).toEqual(marks.slice(900));
  });
});

describe('comments', () => {
  const about = { mark: '0'.repeat(16), label: '88', path: '', quote: 'the tide', place: null };
  it('are added once, answered, closed and opened again', async () => {
    const c = { id: 'comment-1', title: id, edition: 'paperback', answers: '', words: 'Left?', about };
    await addComment(store, c);
    await addComment(store, { ...c, words: 'sent twice' });
    await addComment(store, { ...c, id: 'comment-2', answers: 'comment-1', words: 'Right.' });
    await closeComment(store, id, 'comment-1', true);
    expect((await commentsOf(store, id)).map((x) => [x.words, x.answers, x.closedAt !== null])).toEqual([
      ['Left?', '', true],
      ['Right.', 'comment-1', false],
    ]);
    await closeComment(store, id, 'comment-1', false);
    expect((await commentsOf(store, id))[0]).toMatchObject({ closedAt: null, about });
  });
});

describe('a sign-off', () => {
  it('is kept once, and told of with its file', async () => {
    await store.write((tx) => insertProduct(tx, 'p1', file(1)));
    const [a, b] = await Promise.all([signOff(store, id, of(1)), signOff(store, id, of(1))]);
    expect(a.ok && b.ok && a.value.id === b.value.id).toBe(true);
    expect(await signOffsOf(store, id)).toHaveLength(1);
    expect((await productsOf(store, id))[0]?.signedOffAt).toBeGreaterThan(0);
    await withdrawSignOff(store, id, a.ok ? a.value.id : '');
    expect(await signOffsOf(store, id)).toEqual([]);
    expect((await productsOf(store, id))[0]?.signedOffAt).toBeNull();
  });
  it('is refused when the title has changed since, or the file is not the one that was looked at', async () => {
    await store.write((tx) => insertProduct(tx, 'p1', file(1)));
    expect(await signOff(store, id, { ...of(1), sha256: '9'.repeat(64) })).toMatchObject({
      ok: false,
      refusal: { code: 'proof/changed' },
    });
    expect((await signOff(store, id, { ...of(1), product: 'gone' })).ok).toBe(false);
    const change: Change = { type: 'set-record', fields: { imprint: 'Other' } };
    await saveChange(store, id, { base: 0, client: 'c', change });
    expect((await signOff(store, id, of(1))).ok).toBe(false);
  });
  it('keeps its file in sight and on the disk, however many were made since', async () => {
    const kept = await keepBytes(store, new Uint8Array([1, 2, 3]));
    const shown: Impression = { version: 1, engine: 1, width: 1, height: 1, views: [] };
    const impression = await keepBytes(store, gzipSync(JSON.stringify(shown)));
    const signed = { ...file(1), sha256: kept.sha256, impression: impression.sha256 };
    await store.write((tx) => insertProduct(tx, 'p1', signed));
    await signOff(store, id, { ...of(1), sha256: kept.sha256 });
    for (let n = 2; n < 40; n++) await store.write((tx) => insertProduct(tx, `p${n}`, file(n)));
    expect((await productsOf(store, id)).some((p) => p.id === 'p1')).toBe(true);
    await collectFiles(store, Date.now() + 400 * 24 * 3_600_000);
    expect(await storedSize(store, kept.sha256)).toBe(3);
    expect(await impressionOf(store, impression.sha256)).toEqual(shown);
  });
});

it('tells other windows of what was read, commented and signed off', async () => {
  const at = async (): Promise<number> =>
    Number(
      (await store.client.execute({ sql: 'SELECT at FROM pulses WHERE title = ?', args: [id] })).rows[0]?.at,
    );
  let last = await at();
  const grows = async (what: Promise<unknown>): Promise<void> => {
    await what;
    const now = await at();
    expect(now).toBeGreaterThan(last);
    last = now;
  };
  const marks = ['0'.repeat(16)];
  await grows(markRead(store, { title: id, edition: 'e', marks, read: true }));
  await grows(markRead(store, { title: id, edition: 'e', marks, read: false }));
  await store.write((tx) => insertProduct(tx, 'p1', file(1)));
  await grows(signOff(store, id, of(1)));
});
