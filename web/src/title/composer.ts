/** The page's side of the composing worker: sends the book, keeps the last composition, and hands out drawn pages. */
import type { Book, Section } from '@pagina/core/book';
import type { BookSent, Composed, FromWorker, TextLine, ToWorker } from '@/workers/messages';

export interface Drawn {
  picture: ImageBitmap;
  lines: TextLine[];
}
const WAIT = 120;

export class Composer {
  private readonly worker: Worker;
  private readonly listeners = new Set<() => void>();
  private readonly drawing = new Map<number, (d: Drawn | null) => void>();
  private state: { composed: Composed | null; generation: number; refusal: string | null; working: boolean } =
    { composed: null, generation: 0, refusal: null, working: false };
  private ids = 0;
  private texts = new Map<string, Section['content']>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private sent: { sections: unknown; record: unknown; editions: unknown; edition: string } | null = null;

  constructor() {
    this.worker = new Worker(new URL('../workers/composer.ts', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.hear(data);
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): typeof this.state => this.state;
  private set(part: Partial<typeof this.state>): void {
    this.state = { ...this.state, ...part };
    for (const f of this.listeners) f();
  }

  private hear(m: FromWorker): void {
    if (m.type === 'composed')
      this.set({ composed: m.composed, generation: m.generation, refusal: null, working: false });
    else if (m.type === 'refused') this.set({ refusal: m.message, working: false });
    else {
      this.drawing.get(m.id)?.(m.type === 'drawn' ? m : null);
      this.drawing.delete(m.id);
    }
  }

  /** Composes the book soon; called at every change, it waits for a short pause. */
  show(book: Book, edition: string): void {
    const { sections, record, editions } = book;
    if (
      this.sent &&
      this.sent.sections === sections &&
      this.sent.record === record &&
      this.sent.editions === editions &&
      this.sent.edition === edition
    )
      return;
    const first = this.sent === null || this.sent.edition !== edition;
    this.sent = { sections, record, editions, edition };
    if (this.timer) clearTimeout(this.timer);
    this.set({ working: true });
    this.timer = setTimeout(
      () => this.post({ type: 'book', book: this.parcel(book), edition }),
      first ? 0 : WAIT,
    );
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
  draw(page: number, width: number, ink = '#20242a'): Promise<Drawn | null> {
    const id = ++this.ids;
    return new Promise((resolve) => {
      this.drawing.set(id, resolve);
      this.post({ type: 'draw', id, page, width, ink, generation: this.state.generation });
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
