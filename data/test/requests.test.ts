/** Requests that are sent again, arrive late, or overlap: what they bring is in the book once. */
import { beforeEach, describe, expect, it } from 'vitest';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { schema, type Change } from '@pagina/core/book';
import {
  changesSince,
  createTitle,
  openStore,
  readTitle,
  saveChange,
  type SaveRequest,
  type Store,
} from '../src';
import { book, section } from '../../core/test/fixtures/books';

let store: Store;
let id: string;
beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'requests-')), resolve('data/drizzle'));
  id = await createTitle(
    store,
    book([section('one', 'chapter', ['The tide.']), section('two', 'chapter', ['The carts.'])]),
  );
});

/** Words one after the other before the first paragraph's text: one step each, as a session sends them. */
function typed(words: readonly string[], section = 'one', from = 1): Change {
  let at = from;
  const steps = words.map((w) => {
    const content = schema.node('paragraph', null, [schema.text(w)]).content;
    const step = new ReplaceStep(at, at, new Slice(content, 0, 0)).toJSON() as unknown;
    at += w.length;
    return step;
  });
  return { type: 'text', section, steps };
}
async function save(request: Partial<SaveRequest> & { change: Change }): Promise<'saved' | 'behind'> {
  const r = await saveChange(store, id, { base: 0, client: 'a', ...request });
  if (!r.ok) throw new Error(r.refusal.message);
  return 'behind' in r.value ? 'behind' : 'saved';
}
const text = async (of = 'one'): Promise<string> =>
  (await readTitle(store, id))!.book.sections.find((s) => s.id === of)!.content.textContent;

describe('a request whose answer was lost', () => {
  it('is told that it is there when it comes again', async () => {
    expect(await save({ request: 'r1', change: typed(['A ']) })).toBe('saved');
    expect(await save({ request: 'r1', change: typed(['A ']) })).toBe('behind');
    expect(await text()).toBe('A The tide.');
    expect((await changesSince(store, id, 0)).map((l) => l.requests)).toEqual([['r1']]);
  });
  it('is told so too when it comes with more', async () => {
    await save({ request: 'r1', change: typed(['A ']) });
    expect(await save({ request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) })).toBe('behind');
    expect(await save({ base: 1, request: 'r2', change: typed(['B '], 'one', 3) })).toBe('saved');
    expect(await text()).toBe('A B The tide.');
  });
  it('that never came leaves the next to be saved whole, and may come late', async () => {
    expect(await save({ request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) })).toBe('saved');
    expect(await save({ request: 'r1', change: typed(['A ']) })).toBe('behind');
    expect(await text()).toBe('A B The tide.');
  });
  it('is no matter in another section', async () => {
    await save({ request: 'r1', change: typed(['A ']) });
    expect(await save({ request: 'r2', change: typed(['C '], 'two') })).toBe('saved');
    expect(await text('two')).toBe('C The carts.');
  });
});

describe('the last request of a page', () => {
  const last = { final: true } as const;
  it('brings what is not there yet', async () => {
    await save({ request: 'r1', change: typed(['A ']) });
    expect(await save({ ...last, request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ', 'C ']) })).toBe(
      'saved',
    );
    expect(await text()).toBe('A B C The tide.');
  });
  it('brings nothing where all is there', async () => {
    await save({ request: 'r1', change: typed(['A ', 'B ']) });
    expect(await save({ ...last, request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) })).toBe(
      'behind',
    );
    expect((await readTitle(store, id))!.revision).toBe(1);
  });
  it('may be sent twice, with more the second time', async () => {
    await save({ ...last, request: 'r1', change: typed(['A ']) });
    await save({ ...last, request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) });
    await save({ ...last, request: 'r3', earlier: ['r1', 'r2'], change: typed(['A ', 'B ', 'C ']) });
    expect(await text()).toBe('A B C The tide.');
  });
  it('may come after what was sent later, when the page came back', async () => {
    await save({ request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) });
    expect(await save({ ...last, request: 'r1', change: typed(['A ']) })).toBe('behind');
    expect(await text()).toBe('A B The tide.');
  });
  it('goes over what others wrote before and after what is there', async () => {
    const other = { client: 'b' } as const;
    await save({ ...other, request: 'o1', change: typed(['X ']) });
    await save({ ...last, request: 'r1', change: typed(['A ']) });
    expect(await text()).toBe('X A The tide.');
    await save({ ...other, base: 2, request: 'o2', change: typed(['Y '], 'one', 3) });
    expect(await text()).toBe('X Y A The tide.');
    await save({ ...last, request: 'r2', earlier: ['r1'], change: typed(['A ', 'B ']) });
    expect(await text()).toBe('X Y A B The tide.');
  });
});

it('requests without names are taken as they come', async () => {
  await save({ final: true, change: typed(['A ']) });
  await save({ final: true, change: typed(['A ']) });
  expect(await text()).toBe('A A The tide.');
});
