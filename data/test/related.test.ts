import { expect, it } from 'vitest';
import { recordSchema, type RelatedTitle } from '@pagina/core/record';
import { createTitle, nameIn, readTitle, relativesOf, setDeleted, undo, type Store } from '../src';
import { threeChapters } from '../../core/test/fixtures/books';
import { freshStore } from './fixtures';

const titled = (store: Store, title: string, isbn = ''): Promise<string> => {
  const b = threeChapters();
  const record = recordSchema.parse({ title, contributors: [{ name: 'Ada Marsh', role: 'author' }] });
  const editions = b.editions.map((e) => (e.form === 'print' ? { ...e, isbn } : e));
  return createTitle(store, { ...b, record, editions });
};
const related = async (store: Store, id: string): Promise<RelatedTitle[]> =>
  (await readTitle(store, id))!.book.record.related;

it('a title is named in another by what it is to it, and no longer when that ends', async () => {
  const store = await freshStore();
  const [first, second] = [await titled(store, 'First', '979-90-00000-15-8'), await titled(store, 'Second')];
  // The other is replaced by this one, so there this one replaces it.
  expect(await nameIn(store, second, first, 'replaces')).toBe(true);
  expect(await related(store, second)).toEqual([
    { title: first, name: 'First', relation: 'replaced-by', print: '9799000000158', ebook: '' },
  ]);
  expect(await nameIn(store, second, first, 'replaces')).toBe(false);
  expect(await nameIn(store, second, first, 'same-author')).toBe(true);
  expect((await related(store, second)).map((r) => r.relation)).toEqual(['same-author']);
  expect(await nameIn(store, second, first, null)).toBe(true);
  expect(await related(store, second)).toEqual([]);
  // It is a change of the other title's, and undone there.
  expect((await undo(store, second, { client: 'here' })).ok).toBe(true);
  expect((await related(store, second)).map((r) => r.name)).toEqual(['First']);
});

it('others are known by what they are called and sold by; one that was deleted isn’t named', async () => {
  const store = await freshStore();
  const [first, second] = [await titled(store, 'First', '9799000000158'), await titled(store, 'Second')];
  expect(await relativesOf(store, second)).toEqual([
    { id: first, name: 'First', authors: ['Ada Marsh'], print: '9799000000158', ebook: '', related: [] },
  ]);
  await setDeleted(store, first, true);
  expect(await relativesOf(store, second)).toEqual([]);
  expect(await nameIn(store, second, first, 'similar')).toBe(false);
  expect(await nameIn(store, 'nowhere', second, 'similar')).toBe(false);
  expect(await nameIn(store, second, second, 'similar')).toBe(false);
});
