/** Pages on their way to the screen: a few are with the worker, the others wait until it has room for them. */
import type { TextLine } from '@pagina/core/compose';
import type { DrawAsked } from '@/workers/messages';

export interface Drawn {
  picture: ImageBitmap;
  lines: TextLine[];
}

interface Drawing {
  asked: DrawAsked;
  resolve: (d: Drawn | null) => void;
}

/** Pages that the worker has before it at a time: what is asked for later may matter more, or what was asked for no more. */
const AT_ONCE = 3;

export class Drawings {
  private readonly underWay = new Map<number, Drawing>();
  private waiting: Drawing[] = [];
  private ids = 0;

  constructor(private readonly send: (asked: DrawAsked) => void) {}

  /** The page drawn; null when it cannot be, or when it is unwanted before it was begun. Large pages come before small ones. */
  draw(page: Omit<DrawAsked, 'id'>, unwanted: AbortSignal): Promise<Drawn | null> {
    return new Promise((resolve) => {
      const drawing = { asked: { ...page, id: ++this.ids }, resolve };
      this.waiting.push(drawing);
      unwanted.addEventListener('abort', () => {
        const left = this.waiting.filter((w) => w !== drawing);
        if (left.length === this.waiting.length) return;
        this.waiting = left;
        resolve(null);
      });
      this.next();
    });
  }

  /** Every page that was sent is answered once. */
  answer(id: number, drawn: Drawn | null): void {
    this.underWay.get(id)?.resolve(drawn);
    this.underWay.delete(id);
    this.next();
  }

  private next(): void {
    while (this.underWay.size < AT_ONCE && this.waiting.length > 0) {
      const widest = this.waiting.reduce((a, b) => (b.asked.width > a.asked.width ? b : a));
      this.waiting = this.waiting.filter((w) => w !== widest);
      this.underWay.set(widest.asked.id, widest);
      this.send(widest.asked);
    }
  }
}
