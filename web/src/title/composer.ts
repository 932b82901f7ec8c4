/** The page's side of the composing worker: sends the book, keeps the last composition, and hands out drawn pages. */
import type { Book, Edition, Section } from '@pagina/core/book';
import type { Impression } from '@pagina/core/proof';
import type {
  BookSent,
  Composed,
  CoverAsked,
  CoverShown,
  DrawAsked,
  FoundOnPage,
  FromWorker,
  Look,
  ToWorker,
} from '@/workers/messages';
import { Drawings, type Drawn } from './drawings';

const WAIT = 120;
const FIRST = 250;

export interface Specimen {
  composed: Composed;
  generation: number;
}
interface State {
  composed: Composed | null;
  generation: number;
  refusal: string | null;
  working: boolean;
  /** Specimens of the design looked at, and of the one beside it. */
  own: Specimen | null;
  beside: Specimen | null;
  /** The whole book in the design beside. */
  besideWhole: Composed | null;
  besideRefusal: string | null;
}

/** What a composition is made from: the same things again need none. */
type Sent = Pick<Book, 'sections' | 'record' | 'editions' | 'numbering' | 'pictures'> & { edition: string };

export class Composer {
  private readonly worker: Worker;
  private readonly listeners = new Set<() => void>();
  private readonly drawings = new Drawings((asked) => this.post({ type: 'draw', ...asked }));
  private state: State = {
    composed: null,
    generation: 0,
    refusal: null,
    working: false,
    own: null,
    beside: null,
    besideWhole: null,
    besideRefusal: null,
  };
  private readonly covering = new Map<number, (cover: CoverShown | { message: string }) => void>();
  private readonly finding = new Map<number, (places: FoundOnPage[]) => void>();
  private readonly looking = new Map<number, (impression: Impression | null) => void>();
  private ids = 0;
  private texts = new Map<string, Section['content']>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private sent: Sent | null = null;

  constructor() {
    this.worker = new Worker(new URL('../workers/composer.ts', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.hear(data);
  }

  /** Tells a checking worker of every book that is sent, and of its pages. */
  feed(port: MessagePort): void {
    this.worker.postMessage({ type: 'checker', port } satisfies ToWorker, [port]);
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): State => this.state;
  private set(part: Partial<State>): void {
    this.state = { ...this.state, ...part };
    for (const f of this.listeners) f();
  }

  /** Shows an edition as it is about to be, while the change is still being saved. */
  try(edition: Edition): void {
    this.post({ type: 'try', edition });
  }

  private hear(m: FromWorker): void {
    switch (m.type) {
      case 'composed':
        return this.set({ composed: m.composed, generation: m.generation, refusal: null, working: false });
      case 'specimen':
        return this.set({
          [m.which]: { composed: m.specimen, generation: m.generation },
          ...(m.which === 'beside' ? { besideRefusal: null } : { refusal: null }),
        });
      case 'beside':
        return this.set({ besideWhole: m.composed });
      case 'refused':
        return this.set(
          m.which === 'beside' ? { besideRefusal: m.message } : { refusal: m.message, working: false },
        );
      case 'cover':
        this.covering.get(m.id)?.(m.cover);
        this.covering.delete(m.id);
        return;
      case 'found':
        this.finding.get(m.id)?.(m.places);
        this.finding.delete(m.id);
        return;
      case 'impression':
        this.looking.get(m.id)?.(m.impression);
        this.looking.delete(m.id);
        return;
      default:
        this.drawings.answer(m.id, m.type === 'drawn' ? m : null);
    }
  }

  /** Looks at a design: its specimen is set before the book is. Null when nobody looks any more. */
  look(look: Look | null): void {
    if (!look) this.set({ own: null, beside: null, besideWhole: null, besideRefusal: null });
    else if (!look.beside) this.set({ beside: null, besideWhole: null, besideRefusal: null });
    this.post({ type: 'look', look });
  }

  /** Composes the book soon; called at every change, it waits for a short pause. */
  show(book: Book, edition: string): void {
    const { sections, record, editions, numbering, pictures } = book;
    const now: Sent = { sections, record, editions, numbering, pictures, edition };
    const before = this.sent;
    if (before && (Object.keys(now) as (keyof Sent)[]).every((k) => before[k] === now[k])) return;
    const first = this.sent === null;
    // Typing is waited for; a setting of the design or the record is shown at once.
    const typed = this.sent?.sections !== sections && this.sent?.edition === edition;
    this.sent = now;
    if (this.timer) clearTimeout(this.timer);
    this.set({ working: true });
    const send = (): void => this.post({ type: 'book', book: this.parcel(book), edition });
    // The first time the text is shown first: a long book takes both of a small machine's threads.
    if (first) requestAnimationFrame(() => (this.timer = setTimeout(send, FIRST)));
    else this.timer = setTimeout(send, typed ? WAIT : 0);
  }

  /** The book with the text of those sections alone that have changed since it was sent last. */
  private parcel(book: Book): BookSent {
    const before = this.texts;
    this.texts = new Map(book.sections.map((s) => [s.id, s.content]));
    const sections = book.sections.map((s) => ({
      ...s,
      content: before.get(s.id) === s.content ? null : (s.content.toJSON() as unknown),
    }));
    return { ...book, sections };
  }

  /** Draws a page of the present composition at a width in screen pixels; null when it has changed meanwhile. */
  draw(page: Omit<DrawAsked, 'id' | 'generation'>, unwanted: AbortSignal): Promise<Drawn | null> {
    const { generation } = page.of === 'book' ? this.state : (this.state[page.of] ?? { generation: 0 });
    return this.drawings.draw({ ...page, generation }, unwanted);
  }

  /** The sheet of a cover, drawn. */
  cover(asked: CoverAsked): Promise<CoverShown | { message: string }> {
    const id = ++this.ids;
    return new Promise((resolve) => {
      this.covering.set(id, resolve);
      this.post({ type: 'cover', id, ...asked });
    });
  }

  /** Places on the pages where the words stand. */
  find(words: string): Promise<FoundOnPage[]> {
    const id = ++this.ids;
    return new Promise((resolve) => {
      this.finding.set(id, resolve);
      this.post({ type: 'find', id, words });
    });
  }

  /** What the pages show as they are set now; null where there are none. */
  impression(): Promise<Impression | null> {
    const id = ++this.ids;
    return new Promise((resolve) => {
      this.looking.set(id, resolve);
      this.post({ type: 'impression', id });
    });
  }

  private post(m: ToWorker): void {
    this.worker.postMessage(m);
  }
  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.worker.terminate();
  }
}
