/** Undo and redo against a plain list: random edits by two clients, each with an undo stack that the test keeps itself. */
import { beforeEach, describe, expect, it } from 'vitest';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { schema, type Change } from '@pagina/core/book';
import { createTitle, openStore, readTitle, saveChange, undo, type Store } from '../src';
import { book, section } from '../../core/test/fixtures/books';

let store: Store;
let id: string;
beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'undo-')), resolve('data/drizzle'));
  id = await createTitle(
    store,
    book([section('one', 'chapter', ['']), section('two', 'chapter', ['The carts.'])], {}),
  );
});

const state = async () => (await readTitle(store, id))!;
const text = async (of = 'one'): Promise<string> =>
  (await state()).book.sections.find((s) => s.id === of)!.content.textContent;
const insertion = (words: string, at: number, of = 'one'): Change => {
  const content = schema.node('paragraph', null, [schema.text(words)]).content;
  return { type: 'text', section: of, steps: [new ReplaceStep(at, at, new Slice(content, 0, 0)).toJSON()] };
};
const deletion = (from: number, to: number, of = 'one'): Change => ({
  type: 'text',
  section: of,
  steps: [new ReplaceStep(from, to, Slice.empty).toJSON()],
});
async function save(change: Change, client = 'a'): Promise<void> {
  const r = await saveChange(store, id, { base: (await state()).revision, client, change });
  if (!r.ok) throw new Error(r.refusal.message);
}
async function back(client = 'a', redo = false, others: string[] = []): Promise<string | null> {
  const r = await undo(store, id, { client, redo, others });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value?.label ?? null;
}

describe('undo and redo', () => {
  it('closes the way forward when something new is done, for good', async () => {
    await save(insertion('AAA', 1));
    await save(insertion(' BBB', 4));
    await back();
    await back();
    await back('a', true);
    await save(insertion(' CCC', 4));
    expect(await back('a', true)).toBeNull();
    expect(await text()).toBe('AAA CCC');
    // Also when the new thing has been undone since: its redo is what is left.
    await back();
    await back('a', true);
    expect(await back('a', true)).toBeNull();
    expect(await text()).toBe('AAA CCC');
  });
  it('is about one’s own last change, over what another window does', async () => {
    await save(insertion('mine ', 1), 'a');
    await save(insertion('theirs ', 1), 'b');
    await back('a', false, ['b']);
    expect(await text()).toBe('theirs ');
    await back('b', false, ['a']);
    expect(await text()).toBe('');
    await back('a', true, ['b']);
    expect(await text()).toBe('mine ');
  });
  it('goes on with what was done in windows that are closed', async () => {
    await save(insertion('yesterday', 1), 'old');
    await back('new');
    expect(await text()).toBe('');
  });
  it('knows nothing that was saved after it was asked for', async () => {
    await save(insertion('One ', 1));
    const { revision } = await state();
    await save(insertion('two ', 5));
    await undo(store, id, { client: 'a', known: revision });
    expect(await text()).toBe('two ');
  });
  it('leaves a title that somebody else has given since', async () => {
    await save({ type: 'set-section', id: 'one', fields: { title: 'Mine', subtitle: 'Also mine' } }, 'a');
    await save({ type: 'set-section', id: 'one', fields: { title: 'Theirs' } }, 'b');
    await back('a', false, ['b']);
    expect((await state()).book.sections[0]).toMatchObject({ title: 'Theirs', subtitle: '' });
  });
  it('does not remove a section that somebody else has written in since', async () => {
    await save(
      { type: 'insert-section', index: 1, section: { ...bare(section('new', 'chapter', ['Fresh.'])) } },
      'a',
    );
    await save(insertion('Theirs. ', 1, 'new'), 'b');
    const r = await undo(store, id, { client: 'a', others: ['b'] });
    expect(r.ok ? '' : r.refusal.message).toMatch(/written in that section/);
    expect(await text('new')).toBe('Theirs. Fresh.');
  });
  it('finds its place in text that was taken away and put back', async () => {
    await save(insertion('one two three', 1), 'a');
    await save(deletion(5, 8), 'b');
    await save(insertion('!', 1), 'c');
    await back('b', false, ['a', 'c']);
    expect(await text()).toBe('!one two three');
    await back('a', false, ['b', 'c']);
    expect(await text()).toBe('!');
  });
});
const bare = ({ content, ...s }: ReturnType<typeof section>) => ({
  ...s,
  content: content.toJSON() as unknown,
});

/** Numbers from a seed (a linear congruential generator; Numerical Recipes' constants, from memory). */
function numbers(seed: number): (n: number) => number {
  let x = seed * 2654435761;
  return (n) => {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    return (x >>> 8) % n;
  };
}

it('two clients who write, delete, undo and redo at random agree with a plain list', async () => {
  for (let seed = 1; seed <= 30; seed++) {
    const below = numbers(seed);
    id = await createTitle(store, book([section('one', 'chapter', [''])]));
    /** What each client has done and undone: tokens written or deleted. */
    type Deed = { token: string; wrote: boolean };
    const clients = ['a', 'b'].map((name) => ({ name, done: [] as Deed[], undone: [] as Deed[] }));
    const standing = new Set<string>();
    const set = (d: Deed, forward: boolean): void =>
      void (d.wrote === forward ? standing.add(d.token) : standing.delete(d.token));
    let n = 0;
    const trail: string[] = [];
    for (let turn = 0; turn < 40; turn++) {
      const me = clients[below(2)]!;
      const other = clients.find((c) => c !== me)!;
      const now = await text();
      const what = below(10);
      if (what < 4) {
        // A character is a token: nothing can be written into one.
        const token = String.fromCodePoint(0x4e00 + n++);
        await save(insertion(token, 1 + below(now.length + 1)), me.name);
        me.done.push({ token, wrote: true });
        me.undone = [];
        standing.add(token);
        trail.push(`${me.name} writes ${token}`);
      } else if (what < 6) {
        // Only what is one's own is deleted: whose deletion counts is another question.
        const own = [...now].filter((t) => me.done.some((d) => d.wrote && d.token === t));
        if (own.length === 0) continue;
        const token = own[below(own.length)]!;
        const at = now.indexOf(token) + 1;
        await save(deletion(at, at + 1), me.name);
        me.done.push({ token, wrote: false });
        me.undone = [];
        standing.delete(token);
        trail.push(`${me.name} deletes ${token}`);
      } else {
        const redo = what > 7;
        const deed = redo ? me.undone.pop() : me.done.pop();
        const label = await back(me.name, redo, [other.name]);
        trail.push(`${me.name} ${redo ? 'redoes' : 'undoes'}`);
        expect(label === null, `seed ${seed}: ${trail.join(', ')}`).toBe(deed === undefined);
        if (!deed) continue;
        set(deed, redo);
        (redo ? me.done : me.undone).push(deed);
      }
      const after = [...(await text())];
      expect(after.sort(), `seed ${seed}: ${trail.join(', ')}`).toEqual([...standing].sort());
    }
  }
});

it('undoing everything gives the first book back, and redoing everything the last', async () => {
  for (let seed = 1; seed <= 10; seed++) {
    const below = numbers(seed);
    id = await createTitle(store, book([section('one', 'chapter', ['The tide.'])]));
    const texts = [await text()];
    for (let k = 0; k < 12; k++) {
      const length = (await text()).length;
      const at = 1 + below(length + 1);
      await save(
        below(3) > 0 || at > length ? insertion(`w${k} `, at) : deletion(at, Math.min(length + 1, at + 4)),
      );
      texts.push(await text());
    }
    for (let round = 0; round < 3; round++) {
      for (let k = 11; k >= 0; k--) {
        await back();
        expect(await text()).toBe(texts[k]);
      }
      expect(await back()).toBeNull();
      for (let k = 1; k <= 12; k++) {
        await back('a', true);
        expect(await text()).toBe(texts[k]);
      }
      expect(await back('a', true)).toBeNull();
    }
  }
});
