import { beforeEach, describe, expect, it } from 'vitest';
import { cpSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import {
  bookToJson,
  choicesOfEdition,
  editionsSchema,
  schema,
  type Arrival,
  type Change,
} from '@pagina/core/book';
import { divide } from '@pagina/core/order';
import {
  acceptArrival,
  accountsOf,
  allowOffers,
  bookAt,
  claim,
  CutShort,
  createTitle,
  deliveredTo,
  enqueue,
  finish,
  forgetTrim,
  forgetVersion,
  insertProduct,
  productsOf,
  jobsOf,
  keepBytes,
  keepFile,
  listTitles,
  markPutBack,
  namedTrims,
  keepEdition,
  keptEditionsOf,
  forgetEdition,
  nameTrim,
  nameVersion,
  openListing,
  openStore,
  readArrival,
  readJob,
  readStored,
  readTitle,
  dismissalsOf,
  dismissOffers,
  report,
  saveChange,
  setAffiliate,
  setDeleted,
  stopJob,
  TooLarge,
  undo,
  versionsOf,
  type SaveAnswer,
  type Store,
} from '../src';
import { keptEditions } from '../src/schema';
import { book, section, threeChapters } from '../../core/test/fixtures/books';

let store: Store;
let id: string;
const migrations = resolve('data/drizzle');
beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'store-')), migrations);
  id = await createTitle(store, threeChapters());
});
const typing = (text: string, at = 1, section = 'c1'): Change => ({
  type: 'text',
  section,
  steps: [
    new ReplaceStep(
      at,
      at,
      new Slice(schema.node('paragraph', null, [schema.text(text)]).content, 0, 0),
    ).toJSON(),
  ],
});
const save = async (
  base: number,
  change: Change,
  more: { client?: string; final?: boolean } = {},
): Promise<SaveAnswer> => {
  const r = await saveChange(store, id, { base, change, client: 'a', ...more });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};
const textOf = async (section = 'c1'): Promise<string> =>
  (await readTitle(store, id))!.book.sections.find((s) => s.id === section)!.content.textContent;
const json = async () => bookToJson((await readTitle(store, id))!.book);

describe('a title', () => {
  it('comes back as it was kept', async () => {
    expect(await json()).toEqual(bookToJson({ ...threeChapters(), id }));
    expect((await listTitles(store))[0]).toMatchObject({
      id,
      name: 'The Causeway',
      author: 'Ines Calloway',
      sections: 7,
    });
  });
  it('can be deleted and brought back', async () => {
    await setDeleted(store, id, true);
    expect([(await listTitles(store)).length, (await listTitles(store, 'deleted')).length]).toEqual([0, 1]);
    await setDeleted(store, id, false);
    expect((await listTitles(store)).length).toBe(1);
  });
  it('keeps every change, counts words, and undoes all of it over a reload', async () => {
    const start = await json();
    const words = (await listTitles(store))[0]!.words;
    await save(0, typing('Salt and tar. '));
    await save(1, { type: 'set-record', fields: { title: 'The Ferry' } });
    const book = (await readTitle(store, id))!.book;
    let n = 0;
    const cut = divide(book, 'c1', 'c1-1', () => `new${n++}`);
    if (!cut.ok) throw new Error(cut.refusal.message);
    await save(2, cut.value);
    const end = await json();
    expect((await listTitles(store))[0]).toMatchObject({ name: 'The Ferry', words: words + 3 });
    const again = await openStore(store.folder, migrations);
    for (let k = 0; k < 3; k++) expect((await undo(again, id, { client: 'b' })).ok).toBe(true);
    expect(await json()).toEqual(start);
    expect(await undo(again, id, { client: 'b' })).toEqual({ ok: true, value: null });
    for (let k = 0; k < 3; k++) await undo(again, id, { client: 'b', redo: true });
    expect(await json()).toEqual(end);
    await undo(again, id, { client: 'b' });
    await save(10, typing('New. '));
    expect(await undo(again, id, { client: 'b', redo: true })).toEqual({ ok: true, value: null });
  });
  it('tells a client that is behind what it missed, and drops nothing', async () => {
    await save(0, typing('First. '), { client: 'a' });
    const answer = await save(0, typing('Second. '), { client: 'b' });
    expect('behind' in answer && answer.behind.map((l) => l.client)).toEqual(['a']);
    expect(await textOf()).toMatch(/^First\. /);
  });
  it('moves the last words of a tab that is closing over what others typed', async () => {
    await save(0, typing('First. '), { client: 'a' });
    const answer = await save(0, typing(' The end', 20), { client: 'b', final: true });
    expect(answer).toMatchObject({ revision: 2, lost: 0 });
    expect(await textOf()).toContain('The end');
  });
  it('lets two tabs work in two sections without noticing', async () => {
    await save(0, typing('First. '), { client: 'a' });
    expect(await save(0, typing('Second. ', 1, 'c2'), { client: 'b' })).toMatchObject({ revision: 2 });
  });
  it('refuses a change that does not fit in a sentence and stays whole', async () => {
    const before = await json();
    const r = await saveChange(store, id, {
      base: 0,
      client: 'a',
      change: {
        type: 'group',
        label: 'x',
        changes: [
          { type: 'set-record', fields: { title: 'No' } },
          { type: 'remove-section', id: 'none' },
        ],
      },
    });
    expect(r.ok ? '' : r.refusal.message).toMatch(/deleted in the meantime/);
    expect(await json()).toEqual(before);
  });
  it('keeps order when many write at once', async () => {
    await Promise.all(
      Array.from({ length: 12 }, (_, n) =>
        save(0, { type: 'set-section', id: 'c1', fields: { title: `Title ${n}` } }),
      ),
    );
    expect((await readTitle(store, id))!.revision).toBe(12);
  });
});

describe('files', () => {
  it('are kept once under their checksum', async () => {
    const a = await keepBytes(store, new TextEncoder().encode('abc'));
    // FIPS 180-4: SHA-256 of "abc".
    expect(a.sha256).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    expect(await keepBytes(store, new TextEncoder().encode('abc'))).toEqual(a);
    expect(new TextDecoder().decode(await readStored(store, a.sha256))).toBe('abc');
  });
  it('that are too large or break off leave nothing behind', async () => {
    await expect(keepFile(store, [new Uint8Array(10)], { most: 5 })).rejects.toBeInstanceOf(TooLarge);
    await expect(keepFile(store, [new Uint8Array(10)], { expected: 11 })).rejects.toBeInstanceOf(CutShort);
    async function* broken() {
      yield new Uint8Array(3);
      throw new Error('the line went down');
    }
    await expect(keepFile(store, broken())).rejects.toThrow('the line went down');
    expect(readdirSync(join(store.folder, 'files'))).toEqual([]);
  });
});

describe('jobs', () => {
  it('are done once by whoever claims them', async () => {
    await enqueue(store, 'make', { edition: 'paperback' }, id);
    const claims = await Promise.all(['w1', 'w2', 'w3'].map((w) => claim(store, w)));
    expect(claims.filter(Boolean).length).toBe(1);
  });
  it('of a dead worker go to the next one, and no more than three times', async () => {
    const job = await enqueue(store, 'make', {}, id);
    for (const w of ['w1', 'w2', 'w3']) {
      expect((await claim(store, w))?.id).toBe(job);
      await store.client.execute('UPDATE jobs SET lease_until = 1');
    }
    expect(await claim(store, 'w4')).toBeNull();
    expect((await readJob(store, job))?.state).toBe('failed');
  });
  it('of sending go to those who send to that outlet', async () => {
    const file = {
      title: id,
      edition: 'ebook',
      name: 'a.epub',
      size: 1,
      revision: 0,
      pages: 0,
      findings: [],
    };
    await store.write((tx) => insertProduct(tx, 'p1', { ...file, sha256: 'a'.repeat(64) }));
    const to = (outlet: string) => openListing(store, { title: id, outlet, edition: 'ebook', product: 'p1' });
    const [silent, brisk] = [await to('silent'), await to('brisk')];
    await enqueue(store, 'send', { listing: silent.id }, id);
    const second = await enqueue(store, 'send', { listing: brisk.id }, id);
    expect((await claim(store, 'w1', ['send'], 'brisk'))?.id).toBe(second);
    expect(await claim(store, 'w1', ['send'], 'brisk')).toBeNull();
    expect((await claim(store, 'w2', ['send'], 'silent'))?.payload).toEqual({ listing: silent.id });
  });
  it('make files, of which the newest of every edition are told of, with those who were sent the same', async () => {
    const file = { title: id, name: 'a', size: 1, pages: 0, findings: [] };
    const add = (edition: string, n: number, sha256: string): Promise<void> =>
      store.write((tx) => insertProduct(tx, `${edition}${n}`, { ...file, edition, revision: n, sha256 }));
    await add('ebook', 0, 'a'.repeat(64));
    for (let n = 0; n < 130; n++) await add('paperback', n, (n % 2 ? 'b' : 'c').repeat(64));
    const to = (product: string): ReturnType<typeof openListing> =>
      openListing(store, { title: id, outlet: 'brisk', edition: 'paperback', product });
    const { id: listing } = await to('paperback1');
    expect((await productsOf(store, id)).every((p) => p.sentTo.length === 0)).toBe(true);
    const taken = { product: 'paperback1', sha256: 'b'.repeat(64), reference: 'B-1', words: 'Received.' };
    await deliveredTo(store, listing, { ...taken, listed: {}, told: {}, beside: '', number: 0 });
    // It was sent all the same, whatever is to follow it.
    await to('paperback128');
    const told = await productsOf(store, id);
    expect(told.filter((p) => p.edition === 'ebook').map((p) => p.sentTo)).toEqual([[]]);
    const paperback = told.filter((p) => p.edition === 'paperback');
    // The one that was sent stays in sight.
    expect(paperback).toHaveLength(13);
    expect(paperback.at(-1)?.id).toBe('paperback1');
    expect(Math.max(...paperback.map((p) => p.revision))).toBe(129);
    for (const p of paperback) expect(p.sentTo).toEqual(p.sha256.startsWith('b') ? ['brisk'] : []);
  });
  it('tell how far they are and hear when to stop', async () => {
    const job = await enqueue(store, 'make', {}, id);
    await claim(store, 'w1');
    expect(await report(store, job, 'w1', 'Setting pages', 0.5)).toBe(true);
    expect((await jobsOf(store, id))[0]).toMatchObject({ stage: 'Setting pages', share: 0.5 });
    await stopJob(store, job);
    expect(await report(store, job, 'w1', 'Setting pages', 0.6)).toBe(false);
    await finish(store, job, 'w1', { state: 'stopped' });
    expect((await readJob(store, job))?.state).toBe('stopped');
  });
  it('are not finished by a worker that has lost them', async () => {
    const job = await enqueue(store, 'make', {}, id);
    await claim(store, 'w1');
    await store.client.execute('UPDATE jobs SET lease_until = 1');
    await claim(store, 'w2');
    await finish(store, job, 'w1', { state: 'done', result: 'stale' });
    expect((await readJob(store, job))?.state).toBe('running');
  });
});

it('two processes may open a new store at once, and each finds its tables', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'store-'));
  const stores = await Promise.all([openStore(folder, migrations), openStore(folder, migrations)]);
  const made = await createTitle(stores[0], threeChapters());
  expect((await listTitles(stores[1])).map((t) => t.id)).toEqual([made]);
  const { rows } = await stores[1].client.execute('SELECT count(*) AS n FROM __drizzle_migrations');
  expect(rows[0]?.n).toBe(readdirSync(migrations).filter((f) => f.endsWith('.sql')).length);
});

describe('moves that contradict each other', () => {
  const parents = async () =>
    Object.fromEntries((await readTitle(store, id))!.book.sections.map((s) => [s.id, s.parent]));
  const nest = (part: string, into: string): Change => ({
    type: 'set-section',
    id: part,
    fields: { parent: into },
  });
  it('never leave parts within each other', async () => {
    id = await createTitle(
      store,
      book([
        section('p1', 'part', ['']),
        section('c1', 'chapter', ['A'], { parent: 'p1' }),
        section('p2', 'part', ['']),
        section('c2', 'chapter', ['B'], { parent: 'p2' }),
      ]),
    );
    await save(0, nest('p1', 'p2'), { client: 'a' });
    await save(0, nest('p2', 'p1'), { client: 'b' });
    expect(await parents()).toEqual({ p1: null, c1: 'p1', p2: 'p1', c2: 'p2' });
    await undo(store, id, { client: 'b', others: ['a'] });
    expect((await parents()).p2).toBeNull();
  });
  it('leave every section under a part that is open where it stands, whatever two people do', async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const ids = ['p1', 'c1', 'p2', 'c2', 'c3'];
      id = await createTitle(
        store,
        book(
          ids.map((s, i) =>
            section(s, s.startsWith('p') ? 'part' : 'chapter', [s], {
              parent: i === 1 ? 'p1' : i > 2 ? 'p2' : null,
            }),
          ),
        ),
      );
      let x = seed * 7919;
      const below = (n: number): number => (x = (x * 48271) % 2147483647) % n;
      for (let k = 0; k < 2; k++) {
        const s = ids[below(5)] as string;
        const change: Change =
          below(2) === 0
            ? { type: 'move-section', id: s, index: below(5) }
            : nest(s, below(3) === 0 ? 'p1' : 'p2');
        await save(0, change, { client: k === 0 ? 'a' : 'b' });
      }
      const list = (await readTitle(store, id))!.book.sections;
      list.forEach((s, i) => {
        if (s.parent === null) return;
        const at = list.findIndex((p) => p.id === s.parent);
        expect(at, `seed ${seed}: the part of ${s.id} stands above it`).toBeLessThan(i);
        expect(list[at]?.kind).toBe('part');
      });
    }
  });
});

describe('how a manuscript arrived', () => {
  const arrival: Arrival = {
    version: 1,
    name: 'a.docx',
    wordsIn: 12,
    wordsOut: 10,
    pictures: 0,
    notes: 1,
    links: 0,
    rows: [{ section: 'c1', typed: 'Chapter One', reason: 'a heading style', score: 10, look: 'heading 1' }],
    setAside: [{ rule: 'number-lines', text: 'Chapter One', words: 2, section: 'c1', back: false }],
    comments: [],
    source: [],
    tidied: { tabs: 2 },
    findings: [],
  };
  it('is kept with the title, until it is accepted and after', async () => {
    const with_ = await createTitle(store, threeChapters(), undefined, arrival);
    expect(await readArrival(store, with_)).toEqual({ arrival, acceptedAt: null });
    await acceptArrival(store, with_);
    const kept = await readArrival(store, with_);
    expect(kept?.arrival).toEqual(arrival);
    expect(kept?.acceptedAt).toBeGreaterThan(0);
  });
  it('is not there for a title that began blank', async () => {
    expect(await readArrival(store, id)).toBeNull();
  });
  it('remembers what was put back, and nothing for what is not there', async () => {
    const with_ = await createTitle(store, threeChapters(), undefined, arrival);
    await markPutBack(store, with_, 0);
    await markPutBack(store, with_, 7);
    await markPutBack(store, 'nobody', 0);
    expect((await readArrival(store, with_))?.arrival.setAside.map((s) => s.back)).toEqual([true]);
  });
});

describe('refused offers', () => {
  it('are kept by title, once, and can be offered again', async () => {
    const other = await createTitle(store, threeChapters());
    await dismissOffers(store, id, ['a', 'b']);
    await dismissOffers(store, id, ['b', 'c']);
    await dismissOffers(store, id, []);
    await dismissOffers(store, other, ['z']);
    expect((await dismissalsOf(store, id)).sort()).toEqual(['a', 'b', 'c']);
    await allowOffers(store, id, ['a', 'c', 'never']);
    expect(await dismissalsOf(store, id)).toEqual(['b']);
    expect(await dismissalsOf(store, other)).toEqual(['z']);
  });
});

it('pictures that two people add at once both stay, and each can be taken back', async () => {
  const picture = (name: string) => ({ id: name, name, type: 'image/png' as const, width: 1, height: 1 });
  const add = (name: string): Change => ({ type: 'add-pictures', pictures: [picture(name)] });
  await save(0, add('mine'));
  await save(0, add('theirs'));
  const names = async (): Promise<string[]> => (await readTitle(store, id))!.book.pictures.map((x) => x.id);
  expect(await names()).toEqual(['mine', 'theirs']);
  await undo(store, id, { client: 'me' });
  expect(await names()).toEqual(['mine']);
  await undo(store, id, { client: 'me', redo: true });
  expect(await names()).toEqual(['mine', 'theirs']);
});

describe('versions', () => {
  const shown = (b: Parameters<typeof bookToJson>[0]): unknown => ({ ...bookToJson(b), id: '' });
  it('are the book as it was at any revision, exactly', async () => {
    const states: unknown[] = [shown((await readTitle(store, id))!.book)];
    const changes: Change[] = [
      typing('Slowly, '),
      { type: 'set-section', id: 'c1', fields: { title: 'The Wagons', titled: false } },
      { type: 'set-numbering', fields: { chapters: 'roman' } },
      { type: 'set-words', words: ['tidewife'] },
      { type: 'remove-section', id: 'c2' },
      typing('again, '),
    ];
    for (const [i, change] of changes.entries()) {
      await save(i, change);
      states.push(shown((await readTitle(store, id))!.book));
    }
    for (const [revision, state] of states.entries()) {
      const then = await bookAt(store, id, revision);
      expect(then.ok && shown(then.value)).toEqual(state);
    }
    expect(await bookAt(store, id, 99)).toMatchObject({ ok: false });
    expect(await bookAt(store, 'nobody', 0)).toMatchObject({ ok: false });
  });
  it('have names, and sittings that say what was done', async () => {
    await save(0, typing('Slowly, '));
    const named = await nameVersion(store, id, 'To the editor');
    expect(named.ok && named.value.revision).toBe(1);
    await save(1, { type: 'group', label: 'Rename the section', changes: [] });
    const { named: names, sittings } = await versionsOf(store, id);
    expect(names.map((v) => [v.name, v.revision])).toEqual([['To the editor', 1]]);
    expect(sittings.map((s) => [s.revision, s.changes, s.actions])).toEqual([
      [2, 2, ['Rename the section']],
      [0, 0, []],
    ]);
    await forgetVersion(store, id, names[0]!.id);
    expect((await versionsOf(store, id)).named).toEqual([]);
    expect(await nameVersion(store, 'nobody', 'x')).toMatchObject({ ok: false });
  });
});

describe('what the imprint keeps', () => {
  it('are trims by name, of which the last of a name stands', async () => {
    await nameTrim(store, { name: 'Pocket', size: '110 × 178 mm' });
    await nameTrim(store, { name: 'Novel', size: '5.5 × 8.5 in' });
    await nameTrim(store, { name: 'Pocket', size: '111 × 178 mm' });
    expect(await namedTrims(store)).toEqual([
      { name: 'Novel', size: '5.5 × 8.5 in' },
      { name: 'Pocket', size: '111 × 178 mm' },
    ]);
    await forgetTrim(store, 'Novel');
    expect((await namedTrims(store)).map((t) => t.name)).toEqual(['Pocket']);
  });
  it('keeps choices of editions, of each name once, and leaves out what it can’t read any more', async () => {
    const choices = choicesOfEdition(editionsSchema.parse([{ id: 'p', name: 'P', form: 'print' }])[0]!);
    const large = { ...choices, purpose: 'Large' };
    await keepEdition(store, { name: 'Pocket', choices });
    await keepEdition(store, { name: 'Novel', choices });
    await keepEdition(store, { name: 'Pocket', choices: large });
    await store.db.insert(keptEditions).values({ name: 'Broken', choices: '{"form":"scroll"}' });
    expect(await keptEditionsOf(store)).toEqual([
      { name: 'Novel', choices },
      { name: 'Pocket', choices: large },
    ]);
    await forgetEdition(store, 'Pocket');
    expect((await keptEditionsOf(store)).map((e) => e.name)).toEqual(['Novel']);
  });
  it('are affiliate codes by outlet, changed only where they differ', async () => {
    expect(await accountsOf(store)).toEqual({});
    await setAffiliate(store, 'lanternquay', 'a-1');
    const first = await accountsOf(store);
    await setAffiliate(store, 'lanternquay', 'a-1');
    expect(await accountsOf(store)).toEqual(first);
    await setAffiliate(store, 'lanternquay', '');
    expect((await accountsOf(store)).lanternquay?.affiliate).toBe('');
  });
  it('is a title’s cover with the title', async () => {
    const id = await createTitle(store, threeChapters());
    const change: Change = { type: 'set-cover', fields: { line: 'A novel', ground: '#102030' } };
    await saveChange(store, id, { client: 'a', base: 0, change });
    expect((await readTitle(store, id))?.book.cover).toMatchObject({ line: 'A novel', ground: '#102030' });
    await undo(store, id, { client: 'a', redo: false });
    expect((await readTitle(store, id))?.book.cover.line).toBe('');
  });
});

describe('a database of an earlier release', () => {
  it('is opened with its titles, and has what is new', async () => {
    // The first release's tables alone, with a title in them.
    const first = mkdtempSync(join(tmpdir(), 'first-'));
    const old = join(first, 'migrations');
    cpSync(migrations, old, { recursive: true });
    const journal = JSON.parse(readFileSync(join(old, 'meta/_journal.json'), 'utf8')) as {
      entries: unknown[];
    };
    writeFileSync(
      join(old, 'meta/_journal.json'),
      JSON.stringify({ ...journal, entries: journal.entries.slice(0, 1) }),
    );
    const folder = join(first, 'data');
    const before = await openStore(folder, old);
    const title = await createTitle(before, threeChapters());
    before.client.close();
    const now = await openStore(folder, migrations);
    expect((await readTitle(now, title))?.book.sections.map((s) => s.id)).toEqual(
      threeChapters().sections.map((s) => s.id),
    );
    expect(await readArrival(now, title)).toBeNull();
    await dismissOffers(now, title, ['a']);
    expect(await dismissalsOf(now, title)).toEqual(['a']);
    now.client.close();
  });
});
