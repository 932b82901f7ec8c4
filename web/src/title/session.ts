/**
 * An open title in the browser. It holds the book, sends what is done to the server's log, and takes in what others did.
 *
 * Text lives in one editor state a section, kept here and not in the views, so that a section scrolled out of sight
 * loses nothing. Typing is sent in batches by prosemirror-collab's protocol; structure changes are sent one at a time
 * after all typing before them. Undo is the server's: it runs over text, structure and record alike, across reloads.
 *
 * Nothing typed vanishes unsaid: what is not saved is kept in the browser too (`backlog.ts`) and sent by whoever opens
 * the title next; what the server will not take is offered to the author (`stranded`).
 */
import { type EditorState, type Plugin, type Transaction } from 'prosemirror-state';
import { apply, bookFromJson, type Book, type Change } from '@pagina/core/book';
import type { Standing } from '@/server/standing';
import { browserBacklog, type Backlog } from './backlog';
import { shortId } from './ids';
import { Leftovers, type Stranded } from './leftovers';
import { KEEPALIVE, Line, type Saved, type Logged } from './line';
import { followTitle } from './pulse';
import { otherTabs } from './tab';
import { Written } from './written';

export interface Saving {
  /** `refused`: something typed cannot be saved where it was typed; the author is asked what to do with it. */
  state: 'saved' | 'waiting' | 'saving' | 'offline' | 'refused';
  at: number;
  /** While `offline`: why, as it ends a sentence. */
  why: string;
}
export interface Snapshot extends Standing {
  book: Book;
  revision: number;
  saving: Saving;
  edition: string;
  stranded: readonly Stranded[];
}
interface State extends Standing {
  revision: number;
}
interface Batched {
  base: number;
  client: string;
  change: Extract<Change, { type: 'text' }>;
  request: string;
  earlier: string[];
}

/** Typing is sent when it rests this long, or has gone on for as long as `LONGEST`, in milliseconds. */
const REST = 350;
const LONGEST = 2_000;
/** What is typed is kept in the browser this long after, in milliseconds. */
const NOTE = 150;
const RETRY = 2_000;
const AWAY = 'Pagina can’t be reached just now. Try again in a moment.';

export class TitleSession {
  private snapshot: Snapshot;
  private readonly listeners = new Set<() => void>();
  private readonly editors = new Map<string, Written>();
  private readonly line: Line;
  /** The next sending, the last moment for it, the next note in the browser, and the next try after one that failed. */
  private timer: ReturnType<typeof setTimeout> | null = null;
  private latest = 0;
  private noting: ReturnType<typeof setTimeout> | null = null;
  private again: ReturnType<typeof setTimeout> | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  private readonly left: Leftovers;
  /** Where the text stood when Undo was asked for: what is typed after that is not sent before it. */
  private readonly fences: ReadonlyMap<string, number>[] = [];

  constructor(
    readonly id: string,
    loaded: { book: unknown } & State,
    edition: string | null,
    private readonly tell: (message: string) => void,
    /** Name of this window (`tab.ts`). */
    readonly client: string = shortId(),
    backlog: Backlog = browserBacklog,
  ) {
    const parsed = bookFromJson(loaded.book);
    if (!parsed.ok) throw new Error(parsed.refusal.message);
    const book = parsed.value;
    const chosen = book.editions.find((e) => e.id === edition) ?? book.editions[0];
    this.line = new Line(id);
    this.left = new Leftovers(
      { title: id, client, backlog, line: this.line },
      {
        sections: () => this.snapshot.book.sections,
        revision: () => this.snapshot.revision,
        onStranded: (stranded) => {
          this.set({ stranded });
          this.saving(this.snapshot.saving.state);
        },
      },
    );
    this.snapshot = {
      book,
      revision: loaded.revision,
      saving: { state: 'saved', at: Date.now(), why: '' },
      jobs: loaded.jobs,
      products: loaded.products,
      listings: loaded.listings,
      imprint: loaded.imprint,
      edition: chosen?.id ?? '',
      stranded: [],
    };
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): Snapshot => this.snapshot;

  private set(part: Partial<Snapshot>): void {
    const next = { ...this.snapshot, ...part };
    const { editions } = next.book;
    // One that was removed can be shown no more.
    const edition = editions.some((e) => e.id === next.edition) ? next.edition : (editions[0]?.id ?? '');
    this.snapshot = { ...next, edition };
    for (const f of this.listeners) f();
  }
  private saving(state: Saving['state']): void {
    const at = state === 'saved' ? Date.now() : this.snapshot.saving.at;
    const settled = state === 'saved' || state === 'refused';
    const stranded = this.snapshot.stranded.length > 0;
    const shown = settled ? (stranded ? 'refused' : 'saved') : state;
    this.set({ saving: { state: shown, at, why: this.line.trouble } });
  }

  open(): () => void {
    const unfollow = followTitle(this.id, () => this.refresh());
    const leave = (): void => this.sendLast();
    const ask = (e: BeforeUnloadEvent): void => {
      if (this.leavesWords()) e.preventDefault();
    };
    window.addEventListener('pagehide', leave);
    window.addEventListener('beforeunload', ask);
    void this.enqueue(() => this.recover());
    return () => {
      for (const t of [this.again, this.noting, this.timer]) if (t) clearTimeout(t);
      this.again = this.noting = this.timer = null;
      unfollow();
      window.removeEventListener('pagehide', leave);
      window.removeEventListener('beforeunload', ask);
      this.sendLast();
    };
  }

  /** Asks how far the title is, and takes in what others did. */
  private refreshing = false;
  private refresh(): void {
    if (this.refreshing) return;
    this.refreshing = true;
    void this.enqueue(async () => {
      this.refreshing = false;
      const now = await this.line.get<State>('state');
      if (!now) return;
      const { revision, ...standing } = now;
      this.set(standing);
      if (revision > this.snapshot.revision) await this.catchUp();
    });
  }

  chooseEdition(edition: string): void {
    this.set({ edition });
  }

  // Text

  /** The editor state of a section, with the plugins its view wants. */
  editor(section: string, plugins: () => Plugin[]): EditorState {
    let e = this.editors.get(section);
    if (!e) {
      const doc = this.snapshot.book.sections.find((s) => s.id === section)?.content;
      e = new Written(doc, plugins(), this.client);
      this.editors.set(section, e);
    }
    return e.state;
  }
  onDraw(section: string, draw: (s: EditorState) => void): () => void {
    const e = this.editors.get(section);
    e?.draw.add(draw);
    return () => void e?.draw.delete(draw);
  }
  dispatch(section: string, tr: Transaction): void {
    const e = this.editors.get(section);
    if (!e) return;
    this.replaceState(section, e.state.apply(tr));
    if (tr.docChanged) this.later();
  }
  private replaceState(section: string, state: EditorState): void {
    const e = this.editors.get(section);
    if (!e) return;
    const changed = e.state.doc !== state.doc;
    e.state = state;
    for (const d of e.draw) d(state);
    if (changed) {
      const { book } = this.snapshot;
      this.set({
        book: {
          ...book,
          sections: book.sections.map((s) => (s.id === section ? { ...s, content: state.doc } : s)),
        },
      });
    }
  }

  private later(): void {
    if (this.snapshot.saving.state === 'saved') this.saving('waiting');
    const now = Date.now();
    if (!this.timer) this.latest = now + LONGEST;
    else clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), Math.max(0, Math.min(REST, this.latest - now)));
    this.noting ??= setTimeout(() => this.note(), NOTE);
  }
  private note(): void {
    if (this.noting) clearTimeout(this.noting);
    this.noting = null;
    this.left.note(this.editors);
  }
  private async recover(): Promise<void> {
    const end = await this.left.recover(() => this.catchUp());
    if (end === 'offline') this.retry();
  }
  /** The author has decided about stranded words: `restore` keeps them in the book, null lets them go. */
  async settle(id: string, restore: ((book: Book) => Change | null) | null): Promise<void> {
    if (restore && !(await this.change(restore))) return;
    await this.left.settle(id);
  }

  /** Sends all typing; resolves when the server has it. */
  flush(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    return this.enqueue(() => this.sendText());
  }

  private enqueue<T>(work: () => Promise<T>): Promise<T> {
    const mine = this.queue.then(work);
    this.queue = mine.catch(() => undefined);
    return mine;
  }

  /** Sends typing, section by section, as far as an Undo that waits allows. */
  private async sendText(): Promise<void> {
    for (const [section, e] of this.editors)
      if (e.refused === null && (await this.sendSection(section, e)) === 'offline') {
        this.note();
        return this.retry();
      }
    this.note();
    const left = [...this.editors.values()].some((e) => e.refused === null && e.unsaved > 0);
    this.saving(left ? 'waiting' : 'saved');
  }
  /** How many of a section's unsaved steps may be sent now. */
  private allowed(section: string, e: Written): number {
    const fence = this.fences[0];
    return fence ? Math.max(0, (fence.get(section) ?? 0) - e.settled) : Infinity;
  }

  private async sendSection(section: string, e: Written): Promise<'offline' | 'done'> {
    for (let tries = 0; tries < 20; tries++) {
      const body = this.request(section, e, { upTo: this.allowed(section, e) });
      if (!body) break;
      this.saving('saving');
      e.flew(body.request);
      const answer = await this.line.post<Saved>('changes', body);
      if (answer === 'offline') return 'offline';
      if ('message' in answer) {
        e.landed(body.request);
        await this.problem(section, e, answer.message);
        break;
      }
      if ('behind' in answer) {
        this.takeIn(answer.behind);
        e.landed(body.request);
      } else {
        // What others did in between comes first; if that can’t be fetched, the next try gets it all.
        if (!(await this.gap(answer.revision))) return 'offline';
        const requests = [body.request, ...body.earlier];
        this.takeIn([{ revision: answer.revision, client: this.client, requests, change: body.change }]);
      }
      if (!this.editors.has(section)) break;
    }
    return 'done';
  }

  /** The server will not take what was typed in a section: it is offered to the author. Other sections go on. */
  private async problem(section: string, e: Written, why: string): Promise<void> {
    e.refused = why;
    this.left.strand(section, e, why);
    // The text goes back to what the server has.
    for (let tries = 0; tries < 5; tries++) {
      const loaded = await this.line.get<{ book: unknown; revision: number }>('');
      const book = loaded && bookFromJson(loaded.book);
      if (!book?.ok) return;
      await this.catchUp();
      if (this.snapshot.revision !== loaded?.revision) continue;
      const content = book.value.sections.find((x) => x.id === section)?.content;
      if (!content || !this.editors.has(section)) this.editors.delete(section);
      else this.replaceState(section, e.reset(content));
      return;
    }
  }

  /** What a section has that is not known to be saved, as a request. */
  private request(section: string, e: Written, which: { upTo?: number; all?: boolean } = {}): Batched | null {
    const batch = e.batch(which);
    if (!batch) return null;
    const { steps, request, earlier } = batch;
    const change: Batched['change'] = { type: 'text', section, steps };
    return { base: this.snapshot.revision, client: this.client, request, earlier, change };
  }

  private retry(): void {
    this.saving('offline');
    this.again ??= setTimeout(() => {
      this.again = null;
      void this.flush();
      void this.enqueue(() => this.recover());
      void this.enqueue(() => this.catchUp());
    }, RETRY);
  }

  /** Takes in what others did between our revision and one just saved; false where it cannot be had. */
  private gap(saved: number): Promise<boolean> {
    return saved > this.snapshot.revision + 1 ? this.catchUp(saved - 1) : Promise.resolve(true);
  }
  private async catchUp(until = Infinity): Promise<boolean> {
    const news = await this.line.get<{ changes: Logged[] }>(`changes?since=${this.snapshot.revision}`);
    if (!news) return false;
    this.takeIn(news.changes.filter((c) => c.revision <= until));
    return true;
  }
  private takeIn(list: readonly Logged[]): void {
    for (const l of list) {
      if (l.revision <= this.snapshot.revision) continue;
      if (!this.isOwn(l)) this.applyRemote(l.change);
      this.set({ revision: l.revision });
    }
  }

  /** Whether a change is typing of this session that is now known to be saved: it is in the text already. */
  private isOwn({ requests, change }: Logged): boolean {
    const e = change.type === 'text' ? this.editors.get(change.section) : undefined;
    if (!e || change.type !== 'text' || !e.knows(requests)) return false;
    this.replaceState(change.section, e.confirm(change.steps, requests));
    return true;
  }

  /** Applies a change that the server already has. */
  private applyRemote(change: Change): void {
    if (change.type === 'group') {
      for (const c of change.changes) this.applyRemote(c);
      return;
    }
    if (change.type === 'text') {
      const e = this.editors.get(change.section);
      if (e) return this.replaceState(change.section, e.receive(change.steps));
    }
    if (change.type === 'remove-section') {
      const e = this.editors.get(change.id);
      if (e) this.left.strand(change.id, e, 'The section was deleted while you were writing in it.');
      this.editors.delete(change.id);
    }
    const applied = apply(this.snapshot.book, change);
    if (applied.ok) this.set({ book: applied.value.book });
  }

  // Structure, record, editions

  /** Does a change that is no typing. Answers false, and says why, when it cannot be done. */
  change(make: Change | ((book: Book) => Change | null)): Promise<boolean> {
    return this.enqueue(async () => {
      await this.sendText();
      for (let tries = 0; tries < 5; tries++) {
        const change = typeof make === 'function' ? make(this.snapshot.book) : make;
        if (!change) return false;
        this.saving('saving');
        const body = { base: this.snapshot.revision, client: this.client, change };
        const answer = await this.line.post<Saved>('changes', body);
        if (answer === 'offline') {
          this.tell(`Not saved: ${this.line.trouble}. If nothing has changed in a moment, do it again.`);
          this.retry();
          return false;
        }
        if ('message' in answer) {
          this.tell(answer.message);
          this.saving('saved');
          return false;
        }
        if ('behind' in answer) {
          this.takeIn(answer.behind);
          continue;
        }
        // If it can’t be fetched now, it comes with the next change.
        if (!(await this.gap(answer.revision))) this.retry();
        else {
          this.applyRemote(answer.change);
          this.set({ revision: answer.revision });
          this.saving('saved');
        }
        return true;
      }
      return false;
    });
  }

  /** Undoes the last change made here, or redoes it. What is typed while the server answers is not touched. */
  undo(redo = false): Promise<string | null> {
    const fence = new Map([...this.editors].map(([section, e]) => [section, e.settled + e.unsaved]));
    this.fences.push(fence);
    return this.enqueue(async () => {
      try {
        return await this.askUndo(redo);
      } finally {
        this.fences.shift();
        if ([...this.editors.values()].some((e) => e.unsaved > 0)) this.later();
      }
    });
  }
  private async askUndo(redo: boolean): Promise<string | null> {
    await this.sendText();
    const answer = await this.line.post<{ undone: { label: string } | null }>('undo', {
      client: this.client,
      redo,
      known: this.snapshot.revision,
      others: await otherTabs(this.client),
    });
    if (answer === 'offline') {
      this.tell(AWAY);
      this.retry();
      return null;
    }
    if ('message' in answer) {
      this.tell(answer.message);
      return null;
    }
    const { undone } = answer;
    if (!undone) return null;
    await this.catchUp();
    this.saving('saved');
    return undone.label;
  }

  /** The page is going away: what is not sent yet goes by itself, and the server moves it over whatever came between. */
  private sendLast(): void {
    this.note();
    for (const [section, e] of this.editors) {
      const body = e.refused === null ? this.request(section, e, { all: true }) : null;
      if (body && this.line.last('changes', { ...body, final: true })) e.flew(body.request);
    }
  }
  /** Whether leaving now would take words along that are in this browser alone. */
  private leavesWords(): boolean {
    const { state } = this.snapshot.saving;
    if (state === 'offline' || state === 'refused') return true;
    const size = [...this.editors].reduce(
      (n, [section, e]) => n + JSON.stringify(this.request(section, e, { all: true }) ?? '').length,
      0,
    );
    return size > KEEPALIVE;
  }

  async make(edition: string): Promise<void> {
    await this.flush();
    const answer = await this.line.post('make', { edition });
    if (answer === 'offline') this.tell(AWAY);
    else if ('message' in answer) this.tell(answer.message as string);
  }
}
