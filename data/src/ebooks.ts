/**
 * Ebooks that are emended as they are: the file that was opened is kept whole, and beside it the parts that are other by
 * now. Every change is written with a log row in one short transaction; what a command comes to is worked out before it.
 */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, inArray, lte } from 'drizzle-orm';
import { done, refused, type Outcome } from '@pagina/core/base';
import {
  applyChanges,
  emend,
  fileIn,
  inverseOf,
  addedTypeOf,
  moveEdits,
  openEmended,
  resolved,
  type AskedChange,
  type Command,
  type Content,
  type Emended,
  type PartChange,
  type TextEdit,
} from '@pagina/core/emend';
import { readStored, storedSize } from './files';
import { AUTHOR } from './log';
import type { Store, Tx } from './open';
import { ebookChanges, ebooks, ebookTexts } from './schema';

export interface EbookRow {
  id: string;
  name: string;
  sha256: string;
  revision: number;
  createdAt: number;
  changedAt: number;
  deletedAt: number | null;
}
const columns = {
  id: ebooks.id,
  name: ebooks.name,
  sha256: ebooks.sha256,
  revision: ebooks.revision,
  createdAt: ebooks.createdAt,
  changedAt: ebooks.changedAt,
  deletedAt: ebooks.deletedAt,
};

/** A part in the column: its path alone where it is as it was. */
type Kept = string | [path: string, content: { original: string } | { sha256: string } | 'text'];
const asKept = ([path, c]: readonly [string, Content]): Kept =>
  'text' in c ? [path, 'text'] : 'original' in c && c.original === path ? path : [path, c];

/** Keeps a file that is in the store as an ebook to be emended. Errors: what `openEmended` refuses. */
export async function createEbook(
  store: Store,
  { name, sha256 }: { name: string; sha256: string },
): Promise<Outcome<string>> {
  const opened = openEmended(await readStored(store, sha256));
  if (!opened.ok) return opened;
  const id = randomUUID();
  const now = Date.now();
  const parts = JSON.stringify([...opened.value.parts].map(asKept));
  await store.write((tx) =>
    tx.insert(ebooks).values({ id, name, sha256, parts, createdAt: now, changedAt: now }),
  );
  return done(id);
}

/** Those last changed first. */
export const listEbooks = (store: Store): Promise<EbookRow[]> =>
  store.db.select(columns).from(ebooks).orderBy(desc(ebooks.changedAt));

export async function ebookRow(store: Store, id: string): Promise<EbookRow | null> {
  return (await store.db.select(columns).from(ebooks).where(eq(ebooks.id, id)))[0] ?? null;
}
export async function setEbookDeleted(store: Store, id: string, deleted: boolean): Promise<void> {
  await store.write((tx) =>
    tx
      .update(ebooks)
      .set({ deletedAt: deleted ? Date.now() : null })
      .where(eq(ebooks.id, id)),
  );
}

interface Loaded {
  row: EbookRow;
  state: Emended;
}

/** An ebook as it is now; null where there is none. `known` is reused where it is of the same revision or file. */
export async function readEbook(
  store: Store,
  id: string,
  known: Loaded | null = null,
): Promise<Loaded | null> {
  const [found] = await store.db
    .select({ ...columns, parts: ebooks.parts })
    .from(ebooks)
    .where(eq(ebooks.id, id));
  if (!found) return null;
  const { parts: kept, ...row } = found;
  if (known && known.row.revision === row.revision) return { row, state: known.state };
  const stored = await store.db.select().from(ebookTexts).where(eq(ebookTexts.ebook, id));
  // Row and texts must be of one moment.
  const [still] = await store.db.select({ revision: ebooks.revision }).from(ebooks).where(eq(ebooks.id, id));
  if (still?.revision !== row.revision) return readEbook(store, id, known);
  const texts = new Map(stored.map((t) => [t.path, JSON.parse(t.content) as Content]));
  const parts = new Map(
    (JSON.parse(kept) as Kept[]).map((k): [string, Content] => {
      if (typeof k !== 'string') return [k[0], k[1] === 'text' ? (texts.get(k[0]) ?? { text: '' }) : k[1]];
      // What is as it was keeps what was read of it.
      const before = known?.state.parts.get(k);
      return [k, before && 'original' in before && before.original === k ? before : { original: k }];
    }),
  );
  const zip = known?.state.zip ?? opened(await readStored(store, row.sha256));
  const files = new Map(known?.state.files);
  for (const c of parts.values())
    if ('sha256' in c && !files.has(c.sha256)) files.set(c.sha256, await readStored(store, c.sha256));
  return { row, state: { zip, parts, files } };
}
function opened(bytes: Uint8Array): Emended['zip'] {
  const e = openEmended(bytes);
  // It was opened before it was kept.
  if (!e.ok) throw new Error(e.refusal.message);
  return e.value.zip;
}

export interface EbookRequest {
  base: number;
  client: string;
  /** Its name: sent twice, it is saved once. */
  request: string;
  actor?: string;
}
export interface EbookSaved {
  revision: number;
  /** What was saved; of typing, moved over what others did. */
  changes: PartChange[];
  label: string;
  notes: string[];
  show?: string;
  /** Whether others have changed something since `base`. */
  behind: boolean;
  /** What could not be kept, since its part is gone. */
  lost: TextEdit[];
}

const missing = refused('ebook/gone', 'This ebook no longer exists.');

/** Writes changes on top of a revision. Null where the ebook is no longer at it. */
async function put(
  tx: Tx,
  { row, state }: Loaded,
  changes: readonly PartChange[],
  log: { label: string; client: string; actor: string; request: string; undoes?: number; redoes?: number },
): Promise<Outcome<Loaded> | null> {
  const applied = applyChanges(state, changes);
  if (!applied.ok) return applied;
  const next = applied.value;
  const revision = row.revision + 1;
  const at = Date.now();
  const updated = await tx
    .update(ebooks)
    .set({ parts: JSON.stringify([...next.parts].map(asKept)), revision, changedAt: at })
    .where(and(eq(ebooks.id, row.id), eq(ebooks.revision, row.revision)));
  if (updated.rowsAffected === 0) return null;
  const stale = [...state.parts].flatMap(([p, c]) => ('text' in c && next.parts.get(p) !== c ? [p] : []));
  const fresh = [...next.parts].filter(([p, c]) => 'text' in c && state.parts.get(p) !== c);
  for (let i = 0; i < stale.length; i += 200)
    await tx
      .delete(ebookTexts)
      .where(and(eq(ebookTexts.ebook, row.id), inArray(ebookTexts.path, stale.slice(i, i + 200))));
  for (let i = 0; i < fresh.length; i += 50)
    await tx
      .insert(ebookTexts)
      .values(
        fresh.slice(i, i + 50).map(([path, c]) => ({ ebook: row.id, path, content: JSON.stringify(c) })),
      );
  await tx
    .insert(ebookChanges)
    .values({ ebook: row.id, revision, at, changes: JSON.stringify(changes), ...log });
  return done({ row: { ...row, revision, changedAt: at }, state: next });
}

/** How often a command is worked out anew because somebody else was faster. */
const TRIES = 8;

/** Works out on the ebook as it is, and writes; anew where it has changed meanwhile. */
async function saveOn(
  store: Store,
  cache: EbookCache,
  id: string,
  work: (now: Loaded) => Promise<Outcome<Omit<EbookSaved, 'revision'>>>,
  log: { client: string; actor: string; request: string },
): Promise<Outcome<EbookSaved>> {
  for (let tries = 0; tries < TRIES; tries++) {
    const now = await cache.read(store, id);
    if (!now) return missing;
    const made = await work(now);
    if (!made.ok) return made;
    const { changes, label } = made.value;
    if (changes.length === 0) return done({ ...made.value, revision: now.row.revision });
    const saved = await store.write((tx) => put(tx, now, changes, { ...log, label }));
    if (saved === null) continue;
    if (!saved.ok) return saved;
    cache.keep(saved.value);
    return done({ ...made.value, revision: saved.value.row.revision });
  }
  return refused('ebook/busy', 'Somebody else is changing this ebook just now. Try again.');
}

/** What a request brought that was saved before, and whose answer was lost. */
async function savedBefore(store: Store, id: string, request: string): Promise<EbookSaved | null> {
  if (request === '') return null;
  const [row] = await store.db
    .select()
    .from(ebookChanges)
    .where(and(eq(ebookChanges.ebook, id), eq(ebookChanges.request, request)));
  if (!row) return null;
  const changes = JSON.parse(row.changes) as PartChange[];
  return { revision: row.revision, changes, label: row.label, notes: [], behind: true, lost: [] };
}

/** Saves typing; where others have changed something since, it is moved over what they did. */
export async function saveTyping(
  store: Store,
  cache: EbookCache,
  id: string,
  { base, client, request, actor = AUTHOR, edits }: EbookRequest & { edits: readonly TextEdit[] },
): Promise<Outcome<EbookSaved>> {
  const before = await savedBefore(store, id, request);
  if (before) return done(before);
  const work = async (now: Loaded): Promise<Outcome<Omit<EbookSaved, 'revision'>>> => {
    const since = await store.db
      .select({ changes: ebookChanges.changes })
      .from(ebookChanges)
      // What came after the state that is worked on is for the next try.
      .where(
        and(
          eq(ebookChanges.ebook, id),
          gt(ebookChanges.revision, base),
          lte(ebookChanges.revision, now.row.revision),
        ),
      )
      .orderBy(asc(ebookChanges.revision));
    const theirs = since.flatMap((r) => JSON.parse(r.changes) as PartChange[]);
    const { edits: moved, lost } = moveEdits(edits, theirs);
    const name = (moved[0] ?? edits[0])?.path.split('/').at(-1) ?? '';
    return done({ changes: moved, label: `Edit ${name}`, notes: [], behind: theirs.length > 0, lost });
  };
  return saveOn(store, cache, id, work, { client, actor, request });
}

/** Does what a command says. The file that it brings is in the store. */
export async function saveCommand(
  store: Store,
  cache: EbookCache,
  id: string,
  { base, client, request, actor = AUTHOR, command }: EbookRequest & { command: Command },
): Promise<Outcome<EbookSaved>> {
  const before = await savedBefore(store, id, request);
  if (before) return done(before);
  const brought = fileIn(command);
  const size = brought ? await storedSize(store, brought.sha256) : null;
  const bytes = brought && size !== null ? await readStored(store, brought.sha256) : null;
  const type = brought && bytes ? addedTypeOf(bytes, brought.name) : null;
  if (bytes && !type)
    return refused('emend/sort', 'Pagina adds pictures, typefaces and style sheets that readers know.');
  const incoming = brought && bytes && type ? { ...brought, bytes, type } : null;
  const work = (now: Loaded): Promise<Outcome<Omit<EbookSaved, 'revision'>>> => {
    const made = emend(now.state, command, incoming);
    if (!made.ok) return Promise.resolve(made);
    if (incoming)
      now.state = { ...now.state, files: new Map(now.state.files).set(incoming.sha256, incoming.bytes) };
    return Promise.resolve(done({ ...made.value, behind: now.row.revision !== base, lost: [] }));
  };
  return saveOn(store, cache, id, work, { client, actor, request });
}

/**
 * Saves changes that were worked out elsewhere from the state at `base`: as one step, or not at all. Errors: those of
 * `resolved`; `ebook/other` where somebody has changed something since.
 */
export async function saveAsked(
  store: Store,
  cache: EbookCache,
  id: string,
  {
    base,
    client,
    request,
    actor = AUTHOR,
    label,
    asked,
  }: EbookRequest & { label: string; asked: AskedChange[] },
): Promise<Outcome<EbookSaved>> {
  const before = await savedBefore(store, id, request);
  if (before) return done(before);
  const work = (now: Loaded): Promise<Outcome<Omit<EbookSaved, 'revision'>>> => {
    const other = refused('ebook/other', 'The ebook has been changed in the meantime. Try again.');
    const made = now.row.revision === base ? resolved(now.state, asked) : other;
    if (!made.ok) return Promise.resolve(made);
    return Promise.resolve(done({ changes: made.value, label, notes: [], behind: false, lost: [] }));
  };
  return saveOn(store, cache, id, work, { client, actor, request });
}

interface Step {
  revision: number;
  label: string;
  undoes: number | null;
  redoes: number | null;
}
/** Rows that are looked through for a step: so many undone and redone in turn nobody remembers. */
const STEPS = 1_000;

/** The rows that Undo and Redo are about. What they changed is not read: it may be long. */
async function nextSteps(store: Store, id: string): Promise<{ undo?: Step; redo?: Step }> {
  const { revision, label, undoes, redoes } = ebookChanges;
  const rows: Step[] = await store.db
    .select({ revision, label, undoes, redoes })
    .from(ebookChanges)
    .where(and(eq(ebookChanges.ebook, id), eq(ebookChanges.undone, 0)))
    .orderBy(desc(ebookChanges.revision))
    .limit(STEPS);
  const undo = rows.find((r) => r.undoes === null);
  // Anything new closes the way forward; what was redone already does not.
  const last = rows.find((r) => r.redoes === null);
  return { undo, redo: last?.undoes == null ? undefined : last };
}

/** What Undo and Redo would do, as words; '' for nothing. */
export async function ebookSteps(store: Store, id: string): Promise<{ undo: string; redo: string }> {
  const { undo, redo } = await nextSteps(store, id);
  return { undo: undo?.label ?? '', redo: redo?.label ?? '' };
}

async function changesAt(store: Store, id: string, revision: number): Promise<PartChange[]> {
  const [row] = await store.db
    .select({ changes: ebookChanges.changes })
    .from(ebookChanges)
    .where(and(eq(ebookChanges.ebook, id), eq(ebookChanges.revision, revision)));
  return row ? (JSON.parse(row.changes) as PartChange[]) : [];
}

/** Undoes the last change that is not undone, or redoes the last one undone. Answers null where there is nothing to do. */
export async function undoEbook(
  store: Store,
  cache: EbookCache,
  id: string,
  { base, client, actor = AUTHOR, redo = false }: Omit<EbookRequest, 'request'> & { redo?: boolean },
): Promise<Outcome<EbookSaved | null>> {
  for (let tries = 0; tries < TRIES; tries++) {
    const now = await cache.read(store, id);
    if (!now) return missing;
    const steps = await nextSteps(store, id);
    const row = redo ? steps.redo : steps.undo;
    if (!row) return done(null);
    const changes = inverseOf(await changesAt(store, id, row.revision));
    const { label } = row;
    const by = redo ? { redoes: row.revision } : { undoes: row.revision };
    const saved = await store.write(async (tx) => {
      const written = await put(tx, now, changes, { label, client, actor, request: '', ...by });
      if (written?.ok)
        await tx
          .update(ebookChanges)
          .set({ undone: 1 })
          .where(and(eq(ebookChanges.ebook, id), eq(ebookChanges.revision, row.revision)));
      return written;
    });
    if (saved === null) continue;
    if (!saved.ok) return saved;
    cache.keep(saved.value);
    const behind = now.row.revision !== base;
    return done({ revision: saved.value.row.revision, changes, label, notes: [], behind, lost: [] });
  }
  return refused('ebook/busy', 'Somebody else is changing this ebook just now. Try again.');
}

/** Bytes of files that stay open. */
const KEPT_BYTES = 300_000_000;

/** Ebooks as they were last read, so that a change need not read the whole file. The last few stay. */
export class EbookCache {
  private readonly kept = new Map<string, Loaded>();

  async read(store: Store, id: string): Promise<Loaded | null> {
    const read = await readEbook(store, id, this.kept.get(id) ?? null);
    if (read) this.keep(read);
    else this.kept.delete(id);
    return read;
  }
  keep(loaded: Loaded): void {
    this.kept.delete(loaded.row.id);
    this.kept.set(loaded.row.id, loaded);
    let bytes = [...this.kept.values()].reduce((n, l) => n + l.state.zip.bytes.length, 0);
    for (const [id, l] of this.kept) {
      if (bytes <= KEPT_BYTES || id === loaded.row.id) break;
      this.kept.delete(id);
      bytes -= l.state.zip.bytes.length;
    }
  }
}
