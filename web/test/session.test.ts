/**
 * What is typed is saved once: not lost and not doubled, whatever becomes of requests and their answers. Sessions of the
 * interface, their requests answered by the store itself over a line that breaks.
 */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { TextSelection } from 'prosemirror-state';
import {
  changesSince,
  createTitle,
  openStore,
  readTitle,
  saveChange,
  undo,
  type Store,
  type UndoRequest,
} from '@pagina/data';
import { bookToJson, type Book } from '@pagina/core/book';
import { book, section } from '../../core/test/fixtures/books';
import type { Backlog, Unsaved } from '@/title/backlog';
import { TitleSession } from '@/title/session';

/** What becomes of the next request: answered, lost on the way there, its answer lost on the way back, or the disk full. */
type Line = 'whole' | 'no-request' | 'no-answer' | 'full';

let store: Store;
let id: string;
let line: () => Line;
let eyes: Eye[];
const open: (() => void)[] = [];

/** The events of the server, which come when the test says so. */
class Eye {
  onmessage: ((m: { data: string }) => void) | null = null;
  constructor() {
    eyes.push(this);
  }
  close(): void {
    eyes = eyes.filter((e) => e !== this);
  }
}

/** What browsers keep of unsaved typing: all windows of a test share it. */
let kept: Map<string, Unsaved>;
const backlog: Backlog = {
  put: async (u) => void kept.set([u.page, u.section].join(), structuredClone(u)),
  drop: async (_, page, section) => void kept.delete([page, section].join()),
  of: async () => [...kept.values()],
};

async function answered(path: string, init?: RequestInit): Promise<unknown> {
  const body = init?.body ? (JSON.parse(init.body as string) as never) : null;
  if (path.includes('/undo')) {
    const r = await undo(store, id, body as unknown as UndoRequest);
    return r.ok ? { undone: r.value } : { message: r.refusal.message };
  }
  if (path.endsWith('/state'))
    return { revision: (await readTitle(store, id))!.revision, jobs: [], products: [] };
  if (path.endsWith(`/titles/${id}`)) {
    const { book, revision } = (await readTitle(store, id))!;
    return { book: bookToJson(book), revision };
  }
  if (!body) return { changes: await changesSince(store, id, Number(/since=(\d+)/.exec(path)?.[1])) };
  const r = await saveChange(store, id, body);
  return r.ok ? r.value : { message: r.refusal.message };
}

/** What was sent when a page went away. */
let leaving: Promise<unknown>[];
const leave: (() => void)[] = [];
/** Asked before a page goes away. */
type Leaving = { preventDefault: () => void };
const ask: ((e: Leaving) => void)[] = [];

beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'session-')), resolve('data/drizzle'));
  id = await createTitle(store, twoChapters());
  line = () => 'whole';
  eyes = [];
  kept = new Map();
  leaving = [];
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  vi.stubGlobal('EventSource', Eye);
  vi.stubGlobal('window', {
    addEventListener: (what: string, f: (e: Leaving) => void) =>
      void (what === 'pagehide' ? leave.push(f as () => void) : ask.push(f)),
    removeEventListener: () => undefined,
  });
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
    const now = line();
    const done = (async () => {
      if (now === 'no-request') throw new TypeError('no network');
      if (now === 'full') return { ok: false, status: 507, json: () => Promise.resolve({ message: 'full' }) };
      const body = await answered(path, init);
      if (now === 'no-answer') throw new TypeError('no network');
      return { ok: true, status: 200, json: () => Promise.resolve(body) };
    })();
    if (init?.keepalive) leaving.push(done.catch(() => undefined));
    return done;
  });
});
afterEach(() => {
  line = () => 'no-request';
  for (const close of open.splice(0)) close();
  leave.length = ask.length = 0;
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const twoChapters = (): Book =>
  book([
    section('one', 'chapter', ['The tide came in.'], { title: 'The Tide' }),
    section('two', 'chapter', ['The carts went out.'], { title: 'The Carts' }),
  ]);

let windows = 0;
async function session(told: string[] = [], client = `w${++windows}`): Promise<TitleSession> {
  const loaded = (await readTitle(store, id))!;
  const s = new TitleSession(
    id,
    { book: bookToJson(loaded.book), revision: loaded.revision, jobs: [], products: [] },
    null,
    (m) => told.push(m),
    client,
    backlog,
  );
  open.push(s.open());
  return s;
}
const editor = (s: TitleSession, of: string) => s.editor(of, () => []);
/** Types words at a place, a character's distance from the text's start. */
function type(s: TitleSession, of: string, words: string, at = 1): void {
  const state = editor(s, of);
  s.dispatch(of, state.tr.setSelection(TextSelection.create(state.doc, at)).insertText(words));
}
const textOf = (b: Book, of: string): string => b.sections.find((s) => s.id === of)!.content.textContent;
const stored = async (of: string): Promise<string> => textOf((await readTitle(store, id))!.book, of);
/** Tells all sessions how far the server is, and waits until they have taken it in. */
async function tell(...sessions: TitleSession[]): Promise<void> {
  const { revision } = (await readTitle(store, id))!;
  for (const e of eyes) e.onmessage?.({ data: JSON.stringify({ at: revision, titles: [id] }) });
  for (const s of sessions) await s.flush();
}

describe('an answer that is lost', () => {
  it('leaves what was typed in the book once', async () => {
    const s = await session();
    type(s, 'one', 'Once ');
    line = () => 'no-answer';
    await s.flush();
    expect(s.get().saving.state).toBe('offline');
    type(s, 'one', 'Twice ');
    line = () => 'whole';
    await s.flush();
    expect(await stored('one')).toBe('Twice Once The tide came in.');
    expect(editor(s, 'one').doc.textContent).toBe('Twice Once The tide came in.');
    expect(s.get().saving.state).toBe('saved');
  });
  it('leaves it once also where the server tells of it first', async () => {
    const s = await session();
    type(s, 'one', 'Once ');
    line = () => 'no-answer';
    await s.flush();
    line = () => 'whole';
    await tell(s);
    expect(await stored('one')).toBe('Once The tide came in.');
    expect(editor(s, 'one').doc.textContent).toBe('Once The tide came in.');
  });
  it('leaves what another wrote meanwhile, too', async () => {
    const [a, b] = [await session(), await session()];
    type(a, 'one', 'Once ');
    line = () => 'no-answer';
    await a.flush();
    line = () => 'whole';
    await tell(b);
    type(b, 'one', ' For good.', editor(b, 'one').doc.content.size - 1);
    await b.flush();
    type(a, 'one', 'Twice ');
    await a.flush();
    await tell(a, b);
    for (const s of [a, b])
      expect(editor(s, 'one').doc.textContent).toBe('Twice Once The tide came in. For good.');
    expect(await stored('one')).toBe('Twice Once The tide came in. For good.');
  });
  it('is no matter for what is taken back', async () => {
    const s = await session();
    type(s, 'one', 'Once ');
    line = () => 'no-answer';
    await s.flush();
    line = () => 'whole';
    expect(await s.undo()).not.toBeNull();
    expect(await stored('one')).toBe('The tide came in.');
    expect(editor(s, 'one').doc.textContent).toBe('The tide came in.');
    expect(await s.undo(true)).not.toBeNull();
    expect(editor(s, 'one').doc.textContent).toBe('Once The tide came in.');
  });
});

it('a line that stays broken is tried once every two seconds, however much is typed', async () => {
  const s = await session();
  line = () => 'no-request';
  for (let i = 0; i < 5; i++) {
    type(s, 'one', `${i} `);
    await s.flush();
  }
  expect(s.get().saving.state).toBe('offline');
  expect(vi.getTimerCount()).toBe(1);
  line = () => 'whole';
  vi.advanceTimersByTime(2_000);
  await vi.waitFor(() => expect(s.get().saving.state).toBe('saved'));
  expect(await stored('one')).toBe('4 3 2 1 0 The tide came in.');
  expect(vi.getTimerCount()).toBe(0);
});

it('a full disk is told of as one, and what was typed is saved when there is room', async () => {
  const s = await session();
  line = () => 'full';
  type(s, 'one', 'Now: ');
  await s.flush();
  expect(s.get().saving).toMatchObject({ state: 'offline', why: 'the disk is full' });
  line = () => 'no-request';
  await s.flush();
  expect(s.get().saving.why).toBe('Pagina can’t be reached');
  line = () => 'whole';
  vi.advanceTimersByTime(2_000);
  await vi.waitFor(() => expect(s.get().saving.state).toBe('saved'));
  expect(await stored('one')).toBe('Now: The tide came in.');
});

describe('a page that goes away', () => {
  const goes = async (): Promise<void> => {
    for (const f of leave) f();
    await Promise.all(leaving);
  };
  it('sends what it has', async () => {
    const s = await session();
    type(s, 'one', 'Last ');
    await goes();
    expect(await stored('one')).toBe('Last The tide came in.');
  });
  it('sends it once, also while it is being saved', async () => {
    const s = await session();
    type(s, 'one', 'Last ');
    const saving = s.flush();
    await goes();
    await saving;
    expect(await stored('one')).toBe('Last The tide came in.');
  });
  it('and comes back has sent it once', async () => {
    const s = await session();
    type(s, 'one', 'Last ');
    await goes();
    type(s, 'one', 'Back ');
    await tell(s);
    expect(await stored('one')).toBe('Back Last The tide came in.');
    expect(editor(s, 'one').doc.textContent).toBe('Back Last The tide came in.');
  });
  it('sends over what another wrote', async () => {
    const [a, b] = [await session(), await session()];
    type(b, 'one', 'Other ');
    await b.flush();
    type(a, 'one', ' Last.', editor(a, 'one').doc.content.size - 1);
    await goes();
    expect(await stored('one')).toBe('Other The tide came in. Last.');
  });
});

describe('typing', () => {
  it('is saved at least every two seconds, however steadily it goes on', async () => {
    const s = await session();
    for (let k = 0; k < 12; k++) {
      type(s, 'one', 'x');
      vi.advanceTimersByTime(200);
    }
    await vi.waitFor(async () => expect(await stored('one')).toMatch(/^x{8,}/));
  });
  it('right after Undo is left alone, and what stood at the key press is undone', async () => {
    const s = await session();
    type(s, 'one', 'One ');
    await s.flush();
    type(s, 'one', 'two ', 5);
    const undone = s.undo();
    for (const [i, c] of [...'three '].entries()) type(s, 'one', c, 9 + i);
    await undone;
    await s.flush();
    expect(await stored('one')).toBe('One three The tide came in.');
    expect(editor(s, 'one').doc.textContent).toBe('One three The tide came in.');
  });
  it('while saves are under way and Undo is pressed again and again, is left alone', async () => {
    const s = await session();
    const all: Promise<unknown>[] = [];
    for (const word of ['a ', 'b ', 'c ']) {
      type(s, 'one', word);
      all.push(s.flush());
    }
    await Promise.all(all.splice(0));
    type(s, 'one', 'd ');
    all.push(s.flush(), s.undo(), s.undo());
    type(s, 'one', 'new ');
    all.push(s.flush());
    await Promise.all(all);
    await s.flush();
    const text = await stored('one');
    expect(text).toMatch(/^new /);
    expect(text).not.toContain('d ');
    expect(editor(s, 'one').doc.textContent).toBe(text);
  });
  it('that one section refuses holds up no other', async () => {
    const s = await session();
    type(s, 'one', 'Refused ');
    type(s, 'two', 'Good ');
    await saveChange(store, id, { base: 0, client: 'x', change: { type: 'remove-section', id: 'one' } });
    await s.flush();
    expect(await stored('two')).toMatch(/^Good /);
    expect(s.get().saving.state).toBe('refused');
  });
  it('offline for hours does not pile up names', async () => {
    const s = await session();
    line = () => 'no-request';
    for (let k = 0; k < 300; k++) {
      type(s, 'one', 'x');
      await s.flush();
    }
    const [unsaved] = [...kept.values()];
    expect(unsaved?.earlier.length).toBeLessThan(5);
    line = () => 'whole';
    await s.flush();
    expect(await stored('one')).toBe(`${'x'.repeat(300)}The tide came in.`);
  });
});

describe('a section deleted in another window while somebody writes in it', () => {
  const deleted = async (): Promise<TitleSession> => {
    const [a, b] = [await session(), await session()];
    type(a, 'one', 'My words. ');
    await b.change({ type: 'remove-section', id: 'one' });
    await tell(a);
    return a;
  };
  it('is not gone without a word: what was typed is offered', async () => {
    const a = await deleted();
    expect(a.get().stranded).toMatchObject([{ heading: 'The Tide', words: 'My words. ' }]);
    expect(a.get().saving.state).toBe('refused');
    expect([...kept.values()].map((u) => u.words)).toEqual(['My words. ']);
  });
  it('comes back with what was typed when the author wants it', async () => {
    const a = await deleted();
    const [s] = a.get().stranded;
    await a.settle(s!.id, () => ({ type: 'insert-section', index: 0, section: s!.section!.json }));
    expect(await stored('one')).toBe('My words. The tide came in.');
    expect(a.get()).toMatchObject({ stranded: [], saving: { state: 'saved' } });
    expect(kept.size).toBe(0);
  });
});

describe('what a window leaves unsaved', () => {
  const goneWith = async (words: string): Promise<void> => {
    const s = await session([], 'gone');
    line = () => 'no-request';
    type(s, 'one', words);
    await s.flush();
    for (const close of open.splice(0)) close();
    leave.length = ask.length = 0;
  };
  it('is saved by the next one, also when it is far more than a page can send as it goes', async () => {
    const words = 'Long. '.repeat(40_000);
    await goneWith(words);
    expect(await stored('one')).toBe('The tide came in.');
    line = () => 'whole';
    const next = await session();
    await vi.waitFor(async () => expect(await stored('one')).toBe(`${words}The tide came in.`));
    await tell(next);
    expect(textOf(next.get().book, 'one')).toBe(`${words}The tide came in.`);
    expect(kept.size).toBe(0);
  });
  it('is saved once, also where it had arrived and only the answer was lost', async () => {
    const s = await session([], 'gone');
    type(s, 'one', 'Once ');
    line = () => 'no-answer';
    await s.flush();
    line = () => 'no-request';
    for (const close of open.splice(0)) close();
    line = () => 'whole';
    const next = await session();
    await vi.waitFor(() => expect(kept.size).toBe(0));
    await tell(next);
    expect(await stored('one')).toBe('Once The tide came in.');
  });
  it('is offered by the next one where its section is gone', async () => {
    await goneWith('Nowhere to go. ');
    await saveChange(store, id, { base: 0, client: 'x', change: { type: 'remove-section', id: 'one' } });
    line = () => 'whole';
    const next = await session();
    await vi.waitFor(() =>
      expect(next.get().stranded).toMatchObject([{ heading: 'The Tide', words: 'Nowhere to go. ' }]),
    );
    await next.settle(next.get().stranded[0]!.id, null);
    expect(kept.size).toBe(0);
  });
  it('is asked about before the page goes, while it cannot be saved, and not otherwise', async () => {
    const asks = (): boolean => {
      let asked = false;
      for (const f of ask) f({ preventDefault: () => (asked = true) });
      return asked;
    };
    const s = await session();
    expect(asks()).toBe(false);
    type(s, 'one', 'x');
    expect(asks()).toBe(false);
    line = () => 'no-request';
    await s.flush();
    expect(asks()).toBe(true);
    line = () => 'whole';
    await s.flush();
    expect(asks()).toBe(false);
  });
});

/** Typed things are single letters: none can be typed into another. */
const letter = (n: number): string => String.fromCodePoint(0x1f00 + n);
it('two write at once over a line that breaks, and every letter stands in the book once', async () => {
  for (let seed = 1; seed <= 25; seed++) {
    let state = seed * 2654435761;
    const below = (n: number): number => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return (state >>> 8) % n;
    };
    id = await createTitle(store, twoChapters());
    const sessions = [await session(), await session()];
    let words = 0;
    for (let turn = 0; turn < 40; turn++) {
      const s = sessions[below(2)]!;
      const of = below(2) ? 'one' : 'two';
      const what = below(11);
      line = () => (['whole', 'whole', 'whole', 'no-request', 'no-answer'] as const)[below(5)]!;
      if (what < 5) type(s, of, letter(words++), 1 + below(editor(s, of).doc.content.size - 1));
      else if (what < 8) await s.flush();
      else if (what < 9) await tell(...sessions);
      else if (what < 10) for (const f of leave) f();
      else await s.change({ type: 'set-section', id: of, fields: { title: `Title ${turn}` } });
    }
    line = () => 'whole';
    await Promise.all(leaving.splice(0));
    for (let k = 0; k < 3; k++) {
      for (const s of sessions) await s.flush();
      await tell(...sessions);
    }
    for (const of of ['one', 'two']) {
      const text = await stored(of);
      for (const s of sessions) {
        expect(editor(s, of).doc.textContent, `seed ${seed}`).toBe(text);
        expect(textOf(s.get().book, of)).toBe(text);
      }
    }
    const all = (await stored('one')) + (await stored('two'));
    for (let w = 0; w < words; w++)
      expect(all.split(letter(w)).length - 1, `letter ${w} of seed ${seed}`).toBe(1);
    for (const close of open.splice(0)) close();
    leave.length = ask.length = 0;
    kept.clear();
    await Promise.all(leaving.splice(0));
  }
});
