/** The page's side of the checking worker: keeps what it found last. */
import type { Finding } from '@pagina/core/base';
import type { Composer } from './composer';

export class Checker {
  private readonly worker: Worker;
  private readonly listeners = new Set<() => void>();
  /** Null until the book was checked for the first time. */
  private found: readonly Finding[] | null = null;

  constructor(composer: Composer) {
    this.worker = new Worker(new URL('../workers/checker.ts', import.meta.url), { type: 'module' });
    const { port1, port2 } = new MessageChannel();
    this.worker.postMessage(port1, [port1]);
    composer.feed(port2);
    this.worker.onmessage = ({ data }: MessageEvent<Finding[]>) => {
      this.found = data;
      for (const f of this.listeners) f();
    };
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): readonly Finding[] | null => this.found;

  close(): void {
    this.worker.terminate();
  }
}
