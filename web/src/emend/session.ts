/**
 * An ebook that is open in this window: its parts of text as they are here, and what was typed and is not saved yet.
 * Typing shows at once and is saved at every rest; whatever else is done is worked out by the server.
 */
import {
  applyEdits,
  moveEdits,
  editBetween,
  type Command,
  type Overview,
  type TextEdit,
} from '@pagina/core/emend';
import type { Finding } from '@pagina/core/base';
import type { FromEbookWorker, Mending, Wanted } from '@/workers/ebook-check';
import { followTitle } from '@/title/pulse';

export interface EbookView extends Overview {
  id: string;
  name: string;
  revision: number;
  changedAt: number;
  steps: { undo: string; redo: string };
}
export interface Saved {
  revision: number;
  label: string;
  notes: string[];
  show?: string;
  behind: boolean;
  lost: TextEdit[];
  paths: string[];
}
export type Saving =
  | { state: 'saved'; at: number }
  | { state: 'typing' }
  | { state: 'saving' }
  | { state: 'offline'; why: string };

export interface Snapshot {
  view: EbookView;
  saving: Saving;
  /** Null until the ebook was checked for the first time. */
  /** By the standards; null until they are checked. */
  findings: readonly Finding[] | null;
  /** What outlets ask further, and would refuse. */
  refusals: readonly Finding[];
  /** Words that could not be kept, since their part was removed elsewhere. */
  strays: readonly TextEdit[];
  /** Grows whenever a part of text is other than it was. */
  turn: number;
  /** For each part how often it was saved anew; under '' for all, since what they share has changed. */
  saves: Readonly<Record<string, number>>;
}

/** Rest after which typing is saved, and before a save that failed is tried again, in milliseconds. */
const REST = 400;
const AGAIN = 2_000;
/** Rest after which an ebook is checked that was changed by typing. */
const CHECK_REST = 250;

export class EbookSession {
  private readonly client = crypto.randomUUID();
  private readonly texts = new Map<string, string>();
  /** Typed since the last save began, in order. */
  private pending: TextEdit[] = [];
  /** On its way, by name: sent again with the same name until it is known to have arrived. */
  private sending: { edits: TextEdit[]; request: string } | null = null;
  private base: number;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private work: Promise<unknown> = Promise.resolve();
  private readonly listeners = new Set<() => void>();
  private worker: Worker | null = null;
  private readonly mending = new Map<number, (mending: Mending | { message: string }) => void>();
  private mendings = 0;
  private checkTimer: ReturnType<typeof setTimeout> | undefined;
  private now: Snapshot;

  constructor(view: EbookView) {
    this.base = view.revision;
    const saving: Saving = { state: 'saved', at: view.changedAt };
    this.now = { view, saving, findings: null, refusals: [], strays: [], turn: 0, saves: {} };
  }

  get id(): string {
    return this.now.view.id;
  }
  readonly subscribe = (hear: () => void): (() => void) => {
    this.listeners.add(hear);
    return () => this.listeners.delete(hear);
  };
  readonly snapshot = (): Snapshot => this.now;
  private tell(part: Partial<Snapshot>): void {
    this.now = { ...this.now, ...part };
    for (const hear of this.listeners) hear();
  }
  private textsChanged(): void {
    this.tell({ turn: this.now.turn + 1 });
  }

  /** Follows what other windows do, and checks. Answers how to stop. */
  open(): () => void {
    const follow = followTitle(this.id, () => void this.catchUp());
    this.worker = new Worker(new URL('../workers/ebook-check.ts', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<FromEbookWorker>) => {
      if (data.type === 'findings')
        return this.tell({
          findings: data.findings.filter((f) => f.outlet === undefined),
          refusals: data.findings.filter((f) => f.outlet !== undefined),
        });
      this.mending.get(data.id)?.(data.mending);
      this.mending.delete(data.id);
    };
    this.check();
    const leave = (): void => this.sendOff();
    const ask = (e: BeforeUnloadEvent): void => {
      if (this.now.saving.state === 'offline') e.preventDefault();
    };
    addEventListener('pagehide', leave);
    addEventListener('beforeunload', ask);
    return () => {
      follow();
      this.sendOff();
      this.worker?.terminate();
      this.worker = null;
      clearTimeout(this.timer);
      clearTimeout(this.checkTimer);
      removeEventListener('pagehide', leave);
      removeEventListener('beforeunload', ask);
    };
  }

  /** The text of a part as it is here; throws a sentence where it has none. */
  async source(path: string): Promise<string> {
    const known = this.texts.get(path);
    if (known !== undefined) return known;
    const read = await this.fetchSource(path);
    const here = this.texts.get(path);
    if (here !== undefined) return here;
    this.texts.set(path, read.text);
    this.textsChanged();
    // Somebody else has changed something meanwhile.
    if (read.revision !== this.base) void this.catchUp();
    return read.text;
  }
  /** The same where it was read already. */
  known(path: string): string | undefined {
    return this.texts.get(path);
  }
  private async fetchSource(path: string): Promise<{ text: string; revision: number }> {
    const r = await fetch(`/api/ebooks/${this.id}/source?path=${encodeURIComponent(path)}`);
    const read = (await r.json()) as { text?: string; revision?: number; message?: string };
    if (!r.ok || read.text === undefined) throw new Error(read.message ?? 'The source can’t be read.');
    return { text: read.text, revision: read.revision ?? 0 };
  }

  /** Something typed: it is there at once, and saved at the next rest. */
  type(edits: readonly TextEdit[]): void {
    for (const e of edits) {
      const text = this.texts.get(e.path);
      if (text === undefined) continue;
      this.texts.set(e.path, applyEdits(text, [e]));
      this.pending.push(e);
    }
    this.worker?.postMessage({ type: 'edits', edits });
    this.tell({ saving: { state: 'typing' }, turn: this.now.turn + 1 });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), REST);
  }

  /** One thing after the other. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const mine = this.work.then(work);
    this.work = mine.catch(() => undefined);
    return mine;
  }
  /** Saves what was typed. Answers false where it could not be saved. */
  flush(): Promise<boolean> {
    clearTimeout(this.timer);
    return this.inTurn(() => this.send());
  }
  private async send(): Promise<boolean> {
    while (this.sending || this.pending.length > 0) {
      this.sending ??= { edits: compact(this.pending.splice(0)), request: crypto.randomUUID() };
      if (this.sending.edits.length === 0) {
        this.sending = null;
        continue;
      }
      // Texts as the server has them once this has arrived, but for what others did.
      const sent = this.withoutPending();
      this.tell({ saving: { state: 'saving' } });
      const saved = await this.post<Saved>('changes', {
        base: this.base,
        client: this.client,
        request: this.sending.request,
        edits: this.sending.edits,
      }).catch((e: unknown) => e as Error);
      if (saved instanceof Error) {
        this.tell({ saving: { state: 'offline', why: saved.message } });
        this.timer = setTimeout(() => void this.flush(), AGAIN);
        return false;
      }
      this.sending = null;
      this.base = saved.revision;
      if (saved.lost.length > 0) this.tell({ strays: [...this.now.strays, ...saved.lost] });
      this.stamp(saved.behind ? null : saved.paths);
      if (saved.behind) await this.resync(sent);
      await this.look();
    }
    return true;
  }
  private withoutPending(): Map<string, string> {
    const texts = new Map(this.texts);
    for (const e of [...this.pending].reverse()) {
      const text = texts.get(e.path);
      if (text !== undefined)
        texts.set(e.path, applyEdits(text, [{ ...e, removed: e.inserted, inserted: e.removed }]));
    }
    return texts;
  }
  /** Leaving: what is not saved goes on its way, and nobody waits for the answer. */
  private sendOff(): void {
    const own =
      this.sending ??
      (this.pending.length > 0 ? { edits: compact(this.pending), request: crypto.randomUUID() } : null);
    if (!own) return;
    this.pending = [];
    this.sending = own;
    const body = JSON.stringify({ base: this.base, client: this.client, ...own });
    void fetch(`/api/ebooks/${this.id}/changes`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body,
      keepalive: body.length < 60_000,
    }).catch(() => undefined);
  }

  private async post<T>(what: string, body: unknown): Promise<T> {
    const r = await fetch(`/api/ebooks/${this.id}/${what}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => null);
    if (!r) throw new Error('Pagina can’t be reached.');
    const read = (await r.json().catch(() => ({}))) as T & { message?: string };
    if (!r.ok) throw new Error(read.message ?? 'Something went wrong. Try again.');
    return read;
  }

  /** Does what a command says, after what was typed before it. Throws a sentence. */
  command(command: Command): Promise<Saved> {
    return this.inTurn(async () => {
      if (!(await this.send())) throw new Error('What you typed isn’t saved yet. Try again in a moment.');
      const saved = await this.post<Saved>('commands', {
        base: this.base,
        client: this.client,
        request: crypto.randomUUID(),
        command,
      });
      await this.adopt(saved);
      return saved;
    });
  }
  /** What mending comes to, worked out from what is saved while typing goes on. Throws a sentence. */
  async mendingOf(wanted: Wanted): Promise<Mending & { base: number }> {
    const base = await this.inTurn(async () => {
      if (!(await this.send())) throw new Error('What you typed isn’t saved yet. Try again in a moment.');
      return this.base;
    });
    const { worker } = this;
    if (!worker) throw new Error('The ebook is closed.');
    const id = ++this.mendings;
    const moment = `${new Date().toISOString().slice(0, 19)}Z`;
    const mending = await new Promise<Mending | { message: string }>((resolve) => {
      this.mending.set(id, resolve);
      worker.postMessage({ type: 'mend', id, address: `/api/ebooks/${this.id}/copy`, wanted, moment });
    });
    if ('message' in mending) throw new Error(mending.message);
    return { ...mending, base };
  }
  /** Mends as was worked out, in one step. Throws a sentence, too where the ebook has changed since. */
  mend({ base, asked }: Mending & { base: number }, label: string): Promise<void> {
    return this.inTurn(async () => {
      if (!(await this.send())) throw new Error('What you typed isn’t saved yet. Try again in a moment.');
      const request = crypto.randomUUID();
      await this.adopt(await this.post<Saved>('mends', { base, client: this.client, request, label, asked }));
    });
  }
  /** Answers the label of what was undone or redone; null where there was nothing. */
  undo(redo: boolean): Promise<string | null> {
    return this.inTurn(async () => {
      if (!(await this.send())) throw new Error('What you typed isn’t saved yet. Try again in a moment.');
      const { saved } = await this.post<{ saved: Saved | null }>('undo', {
        base: this.base,
        client: this.client,
        redo,
      });
      if (saved) await this.adopt(saved);
      return saved?.label ?? null;
    });
  }
  private async adopt(saved: Saved): Promise<void> {
    const before = this.withoutPending();
    this.base = saved.revision;
    this.stamp(saved.behind ? null : saved.paths);
    await this.resync(before, saved.behind ? undefined : saved.paths);
    await this.look();
    this.check();
  }
  /** `paths` null: whatever there is. */
  private stamp(paths: readonly string[] | null): void {
    const alone = paths?.every((p) => this.now.view.documents.some((d) => d.path === p));
    const saves = { ...this.now.saves };
    for (const p of alone ? (paths ?? []) : ['']) saves[p] = (saves[p] ?? 0) + 1;
    this.tell({ saves });
  }
  /** Hears that another window has done something. */
  private catchUp(): Promise<void> {
    return this.inTurn(async () => {
      const view = await this.fetchView();
      if (!view || view.revision === this.base) return;
      const before = this.withoutPending();
      this.base = view.revision;
      this.stamp(null);
      await this.resync(before);
      this.tell({ view });
      this.check();
    });
  }
  private async fetchView(): Promise<EbookView | null> {
    const r = await fetch(`/api/ebooks/${this.id}`).catch(() => null);
    return r?.ok ? ((await r.json()) as EbookView) : null;
  }
  private async look(): Promise<void> {
    const view = await this.fetchView();
    const saved: Saving = this.pending.length > 0 ? { state: 'typing' } : { state: 'saved', at: Date.now() };
    this.tell({ saving: saved, ...(view ? { view } : {}) });
  }

  /**
   * Reads again what was read, and moves over it what was typed meanwhile. `before`: texts that the typing stands on;
   * `among`: the parts that can be other, where that is known.
   */
  private async resync(before: ReadonlyMap<string, string>, among?: readonly string[]): Promise<void> {
    const stale = [...before].filter(([path]) => among?.includes(path) ?? true);
    const fresh = new Map<string, { text: string; revision: number } | null>();
    for (const [path] of stale) fresh.set(path, await this.fetchSource(path).catch(() => null));
    for (const [path, was] of stale) {
      const read = fresh.get(path);
      const here = this.texts.get(path) ?? was;
      const mine = editBetween(path, was, here);
      this.pending = this.pending.filter((e) => e.path !== path);
      if (!read) {
        this.texts.delete(path);
        if (mine) this.tell({ strays: [...this.now.strays, mine] });
        continue;
      }
      this.base = Math.max(this.base, read.revision);
      const theirs = editBetween(path, was, read.text);
      const moved = mine ? moveEdits([mine], theirs ? [theirs] : []).edits : [];
      this.texts.set(path, applyEdits(read.text, moved));
      this.pending.push(...moved);
    }
    this.textsChanged();
  }

  /** Checks the ebook as it is on the server. */
  private check(): void {
    clearTimeout(this.checkTimer);
    this.checkTimer = setTimeout(() => {
      this.worker?.postMessage({ type: 'load', address: `/api/ebooks/${this.id}/copy` });
    }, CHECK_REST);
  }
  forgetStrays(): void {
    this.tell({ strays: [] });
  }
  /** Keeps a file on the server for a command to name. Throws a sentence. */
  async bring(file: File): Promise<{ sha256: string; name: string; type: string }> {
    const r = await fetch(`/api/ebooks/${this.id}/added`, {
      method: 'POST',
      headers: { 'x-file-name': encodeURIComponent(file.name), 'Content-Type': 'application/octet-stream' },
      body: file,
    }).catch(() => null);
    const read =
      r && ((await r.json()) as { sha256?: string; name?: string; type?: string; message?: string });
    if (!r?.ok || !read?.sha256) throw new Error(read?.message ?? 'Pagina can’t be reached.');
    return { sha256: read.sha256, name: read.name ?? file.name, type: read.type ?? '' };
  }
}

/** Letters typed one after the other as one edit. */
function compact(edits: readonly TextEdit[]): TextEdit[] {
  const out: TextEdit[] = [];
  for (const e of edits) {
    const last = out.at(-1);
    const typedOn = last?.path === e.path && e.removed === '' && e.at === last.at + last.inserted.length;
    if (last && typedOn) out[out.length - 1] = { ...last, inserted: last.inserted + e.inserted };
    else out.push(e);
  }
  return out.filter((e) => e.removed !== e.inserted);
}
