/**
 * An open title in the browser. It holds the book, sends what is done to the server's log, and takes in what others did.
 *
 * Text lives in one editor state a section, kept here and not in the views, so that a section scrolled out of sight
 * loses nothing. Typing is sent in batches by prosemirror-collab's protocol; structure changes are sent one at a time
 * after all typing before them. Undo is the server's: it runs over text, structure and record alike, across reloads.
 */
import { collab, receiveTransaction, sendableSteps } from 'prosemirror-collab';
import { EditorState, type Plugin, type Transaction } from 'prosemirror-state';
import { Step } from 'prosemirror-transform';
import { apply, bookFromJson, schema, type Book, type Change } from '@pagina/core/book';
import type { Job, Product } from '@pagina/data';
import { freshIds, shortId } from './ids';

export interface Saving {
  state: 'saved' | 'waiting' | 'saving' | 'offline';
  at: number;
}
export interface Snapshot {
  book: Book;
  revision: number;
  saving: Saving;
  jobs: Job[];
  products: Product[];
  edition: string;
}
interface Logged {
  revision: number;
  client: string;
  requests: string[];
  change: Change;
}
type Saved = { revision: number; change: Change } | { behind: Logged[]; revision: number };
/** The text of a section as it is written in. */
interface Written {
  state: EditorState;
  plugins: Plugin[];
  draw: Set<(s: EditorState) => void>;
  /** Requests that hold steps not known to be saved, and with how many: an answer may be lost and its request not. */
  sent: { request: string; steps: number }[];
}
const BATCH = 350;
const RETRY = 2_000;
const AWAY = 'The program cannot be reached just now. Try again in a moment.';

export class TitleSession {
  readonly client = shortId();
  private snapshot: Snapshot;
  private readonly listeners = new Set<() => void>();
  private readonly editors = new Map<string, Written>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** The next try after one that failed. */
  private again: ReturnType<typeof setTimeout> | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  private events: EventSource | null = null;

  constructor(
    readonly id: string,
    loaded: { book: unknown; revision: number; jobs: Job[]; products: Product[] },
    edition: string | null,
    private readonly tell: (message: string) => void,
  ) {
    const parsed = bookFromJson(loaded.book);
    if (!parsed.ok) throw new Error(parsed.refusal.message);
    const book = parsed.value;
    const chosen = book.editions.find((e) => e.id === edition) ?? book.editions[0];
    this.snapshot = {
      book,
      revision: loaded.revision,
      saving: { state: 'saved', at: Date.now() },
      jobs: loaded.jobs,
      products: loaded.products,
      edition: chosen?.id ?? '',
    };
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): Snapshot => this.snapshot;

  private set(part: Partial<Snapshot>): void {
    this.snapshot = { ...this.snapshot, ...part };
    for (const f of this.listeners) f();
  }

  open(): () => void {
    this.events = new EventSource(`/api/titles/${this.id}/events`);
    this.events.onmessage = ({ data }: MessageEvent<string>) => {
      const now = JSON.parse(data) as { revision: number; jobs: Job[]; products: Product[] };
      this.set({ jobs: now.jobs, products: now.products });
      if (now.revision > this.snapshot.revision) void this.enqueue(() => this.catchUp());
    };
    const leave = (): void => this.sendLast();
    window.addEventListener('pagehide', leave);
    return () => {
      if (this.again) clearTimeout(this.again);
      this.again = null;
      this.events?.close();
      window.removeEventListener('pagehide', leave);
      this.sendLast();
    };
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
      const own = [...plugins(), freshIds, collab({ version: 0, clientID: this.client })];
      e = {
        state: EditorState.create({ schema, doc, plugins: own }),
        plugins: own,
        draw: new Set(),
        sent: [],
      };
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
    this.set({ saving: { ...this.snapshot.saving, state: 'waiting' } });
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), BATCH);
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

  private async sendText(): Promise<void> {
    for (const [section, e] of this.editors) {
      for (let tries = 0; tries < 20; tries++) {
        const body = this.unsent(section, e);
        if (!body) break;
        this.set({ saving: { ...this.snapshot.saving, state: 'saving' } });
        const answer = await this.send<Saved>('changes', body);
        if (answer === 'offline') return this.retry();
        if ('message' in answer) {
          this.tell(`${answer.message} Your words are kept here: copy them before you reload.`);
          return;
        }
        if ('behind' in answer) {
          this.takeIn(answer.behind);
          continue;
        }
        // What others did in between comes first; where it cannot be had, the next try is told of all.
        if (!(await this.gap(answer.revision))) return this.retry();
        this.takeIn([
          {
            revision: answer.revision,
            client: this.client,
            requests: [body.request, ...body.earlier],
            change: body.change,
          },
        ]);
      }
    }
    this.set({ saving: { state: 'saved', at: Date.now() } });
  }

  /** What a section has that is not known to be saved, as a request; sent again unchanged it keeps its name. */
  private unsent(section: string, e: Written) {
    const sendable = sendableSteps(e.state);
    if (!sendable) return null;
    const steps = sendable.steps.map((s) => s.toJSON() as unknown);
    const before = e.sent.find((s) => s.steps === steps.length);
    const request = before?.request ?? shortId();
    const earlier = e.sent.filter((s) => s !== before).map((s) => s.request);
    if (!before) e.sent.push({ request, steps: steps.length });
    const change: Extract<Change, { type: 'text' }> = { type: 'text', section, steps };
    return { base: this.snapshot.revision, client: this.client, request, earlier, change };
  }

  private retry(): void {
    this.set({ saving: { ...this.snapshot.saving, state: 'offline' } });
    this.again ??= setTimeout(() => {
      this.again = null;
      void this.flush();
      void this.enqueue(() => this.catchUp());
    }, RETRY);
  }

  /** What the server answers, also when it refuses; `offline` where nobody knows what became of the request. */
  private async send<T extends object>(
    what: string,
    body: object,
  ): Promise<T | { message: string } | 'offline'> {
    try {
      const r = await fetch(`/api/titles/${this.id}/${what}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
      return r.status >= 500 ? 'offline' : ((await r.json()) as T);
    } catch {
      return 'offline';
    }
  }

  /** Takes in what others did between our revision and one just saved; false where it cannot be had. */
  private gap(saved: number): Promise<boolean> {
    return saved > this.snapshot.revision + 1 ? this.catchUp(saved - 1) : Promise.resolve(true);
  }
  private async catchUp(until = Infinity): Promise<boolean> {
    try {
      const r = await fetch(`/api/titles/${this.id}/changes?since=${this.snapshot.revision}`);
      if (!r.ok) return false;
      const { changes } = (await r.json()) as { changes: Logged[] };
      this.takeIn(changes.filter((c) => c.revision <= until));
      return true;
    } catch {
      return false;
    }
  }
  private takeIn(list: readonly Logged[]): void {
    for (const l of list) {
      if (l.revision <= this.snapshot.revision) continue;
      if (!this.isOwn(l)) this.applyRemote(l.change);
      this.set({ revision: l.revision });
    }
  }

  /** Whether a change is typing of this session that is now known to be saved: it stands in the text already. */
  private isOwn({ requests, change }: Logged): boolean {
    const e = change.type === 'text' ? this.editors.get(change.section) : undefined;
    if (!e || change.type !== 'text' || !e.sent.some((s) => requests.includes(s.request))) return false;
    const steps = change.steps.map((j) => Step.fromJSON(schema, j));
    const clients = steps.map(() => this.client);
    this.replaceState(change.section, e.state.apply(receiveTransaction(e.state, steps, clients)));
    e.sent = e.sent
      .filter((s) => !requests.includes(s.request))
      .map((s) => ({ ...s, steps: s.steps - steps.length }));
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
      if (e) {
        const steps = change.steps.map((j) => Step.fromJSON(schema, j));
        this.replaceState(
          change.section,
          e.state.apply(
            receiveTransaction(
              e.state,
              steps,
              steps.map(() => 'server'),
              { mapSelectionBackward: true },
            ),
          ),
        );
        return;
      }
    }
    const applied = apply(this.snapshot.book, change);
    if (applied.ok) this.set({ book: applied.value.book });
    if (change.type === 'remove-section') this.editors.delete(change.id);
  }

  // Structure, record, editions

  /** Does a change that is no typing. Answers false, and says why, when it cannot be done. */
  change(make: Change | ((book: Book) => Change | null)): Promise<boolean> {
    return this.enqueue(async () => {
      await this.sendText();
      for (let tries = 0; tries < 5; tries++) {
        const change = typeof make === 'function' ? make(this.snapshot.book) : make;
        if (!change) return false;
        this.set({ saving: { ...this.snapshot.saving, state: 'saving' } });
        const body = { base: this.snapshot.revision, client: this.client, change };
        const answer = await this.send<Saved>('changes', body);
        if (answer === 'offline') {
          this.tell(
            'The program cannot be reached just now. If nothing has changed in a moment, do it again.',
          );
          this.retry();
          return false;
        }
        if ('message' in answer) {
          this.tell(answer.message);
          return false;
        }
        if ('behind' in answer) {
          this.takeIn(answer.behind);
          continue;
        }
        // Where it cannot be had now it comes with the next that is heard of.
        if (!(await this.gap(answer.revision))) this.retry();
        else {
          this.applyRemote(answer.change);
          this.set({ revision: answer.revision, saving: { state: 'saved', at: Date.now() } });
        }
        return true;
      }
      return false;
    });
  }

  undo(redo = false): Promise<string | null> {
    return this.enqueue(async () => {
      await this.sendText();
      const answer = await this.send<{ undone: { label: string } | null }>('undo', {
        client: this.client,
        redo,
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
      this.set({ saving: { state: 'saved', at: Date.now() } });
      return undone.label;
    });
  }

  /** The page is going away: what is not sent yet goes by itself, and the server moves it over whatever came between. */
  private sendLast(): void {
    for (const [section, e] of this.editors) {
      const body = this.unsent(section, e);
      if (!body) continue;
      fetch(`/api/titles/${this.id}/changes`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ ...body, final: true }),
        keepalive: true,
      }).catch(() => undefined);
    }
  }

  async make(edition: string): Promise<void> {
    await this.flush();
    const answer = await this.send('make', { edition });
    if (answer === 'offline') this.tell(AWAY);
    else if ('message' in answer) this.tell(answer.message);
  }
}
