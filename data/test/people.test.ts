import { expect, it } from 'vitest';
import type { Contributor } from '@pagina/core/record';
import { createTitle, keepBytes, peopleOf, readTitle, setDeleted, sharePerson, type Store } from '../src';
import { threeChapters } from '../../core/test/fixtures/books';
import { freshStore } from './fixtures';

const person = (name: string, more: Partial<Contributor> = {}): Contributor => ({
  name,
  role: 'author',
  sortName: '',
  life: '',
  portrait: null,
  ...more,
});
const titled = (store: Store, ...contributors: Contributor[]): Promise<string> => {
  const b = threeChapters();
  return createTitle(store, { ...b, record: { ...b.record, contributors } });
};
const lives = async (store: Store, id: string): Promise<string[]> =>
  (await readTitle(store, id))!.book.record.contributors.map((c) => `${c.name}: ${c.life}`);

it('people are known by name over all titles, with what any of them tells of them', async () => {
  const store = await freshStore();
  const one = await titled(store, person('Ada Marsh', { life: 'Lives by the sea.', sortName: 'Marsh, Ada' }));
  const two = await titled(store, person('Ada Marsh'), person('Tom Pell', { role: 'editor' }));
  const gone = await titled(store, person('Nobody'));
  await setDeleted(store, gone, true);
  const people = await peopleOf(store);
  expect(people.map((p) => p.name).sort()).toEqual(['Ada Marsh', 'Tom Pell']);
  const ada = people.find((p) => p.name === 'Ada Marsh')!;
  expect(ada).toMatchObject({ life: 'Lives by the sea.', sortName: 'Marsh, Ada' });
  const told = new Map(ada.titles.map((t) => [t.id, t.life]));
  expect([told.size, told.get(one), told.get(two)]).toEqual([2, 'Lives by the sea.', '']);
});

it('a life is told alike in the other titles by one press, in every role, and is a change of theirs', async () => {
  const store = await freshStore();
  const one = await titled(store, person('Ada Marsh', { life: 'Lives by the sea.' }));
  const two = await titled(
    store,
    person('Ada Marsh', { role: 'illustrator', life: 'Old.' }),
    person('Tom Pell', { life: 'His own.' }),
  );
  expect(await sharePerson(store, one, 'Ada Marsh')).toBe(1);
  expect(await lives(store, two)).toEqual(['Ada Marsh: Lives by the sea.', 'Tom Pell: His own.']);
  expect((await readTitle(store, two))!.revision).toBe(1);
  // Once is enough, and of somebody who isn't there nothing is told.
  expect(await sharePerson(store, one, 'Ada Marsh')).toBe(0);
  expect(await sharePerson(store, one, 'Nobody')).toBe(0);
  const ada = (await peopleOf(store)).find((p) => p.name === 'Ada Marsh');
  expect(new Set(ada?.titles.map((t) => t.life))).toEqual(new Set(['Lives by the sea.']));
});

it('a portrait goes with the life: the same file, under an id of the other title’s own', async () => {
  const store = await freshStore();
  const { sha256 } = await keepBytes(store, new Uint8Array([1, 2, 3]));
  const picture = { id: 'ada', name: 'ada.png', type: 'image/png' as const, width: 4, height: 5, sha256 };
  const b = threeChapters();
  const contributors = [person('Ada Marsh', { life: 'Lives by the sea.', portrait: 'ada' })];
  const one = await createTitle(store, {
    ...b,
    pictures: [picture],
    record: { ...b.record, contributors },
  });
  const two = await titled(store, person('Ada Marsh', { life: 'Lives by the sea.' }));
  const ada = (await peopleOf(store)).find((p) => p.name === 'Ada Marsh')!;
  expect([ada.portrait?.sha256, ada.titles.find((t) => t.id === two)?.portrait]).toEqual([sha256, null]);
  // A title that shows none takes none away.
  expect(await sharePerson(store, two, 'Ada Marsh')).toBe(0);
  expect((await readTitle(store, one))!.book.record.contributors[0]?.portrait).toBe('ada');
  expect(await sharePerson(store, one, 'Ada Marsh')).toBe(1);
  const there = (await readTitle(store, two))!.book;
  const [shown] = there.pictures.filter((p) => p.id === there.record.contributors[0]?.portrait);
  expect(shown).toMatchObject({ sha256, width: 4, height: 5 });
  expect(await sharePerson(store, one, 'Ada Marsh')).toBe(0);
});
