/** A child process of the runner, as those who give it work see it: what it says, and its end. */
import { fork, type ChildProcess } from 'node:child_process';
import type { FromChild, ToChild } from './tasks';

export interface Hearing {
  message(m: FromChild): void;
  /** It has ended; `said` is the last of what it wrote on standard error. */
  closed(said: string): void;
}

export class Child {
  private readonly process: ChildProcess;
  private hearing: Hearing | null = null;
  private said = '';
  /** It has ended, or was told to. */
  gone = false;
  /** Tasks that it was given. */
  tasks = 0;
  /** Megabytes that it held after its last task. */
  memory = 0;

  constructor(
    path: string,
    /** Megabytes of heap that it may have. */
    readonly limit: number,
    onIdle: (child: Child) => void,
    onClose: (child: Child) => void,
  ) {
    this.process = fork(path, [], {
      execArgv: [
        `--max-old-space-size=${limit}`,
        '--max-semi-space-size=64',
        `--initial-old-space-size=${Math.min(256, limit)}`,
      ],
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      // It speaks to no one: certificates of the surroundings, which Node would read first of all, are not wanted.
      env: { ...process.env, NODE_EXTRA_CA_CERTS: undefined, PAGINA_TASK_MEMORY: String(limit) },
    });
    this.process.stderr?.on('data', (d: Buffer) => (this.said = (this.said + d.toString()).slice(-4_000)));
    this.process.on('message', (m: FromChild) => {
      if (m.type === 'idle') {
        this.memory = m.megabytes;
        onIdle(this);
      } else this.hearing?.message(m);
    });
    this.process.on('error', () => undefined);
    this.process.on('close', () => {
      this.gone = true;
      onClose(this);
      this.hearing?.closed(this.said);
    });
  }

  send(m: ToChild): void {
    if (m.kind !== 'warm-up') this.tasks++;
    // Whoever has ended meanwhile is told of by `closed`.
    if (!this.gone) this.process.send(m, () => undefined);
  }
  /** Listens from now on instead of whoever did before; null for nobody. */
  hear(hearing: Hearing | null): void {
    this.hearing = hearing;
    if (hearing && this.gone) hearing.closed(this.said);
  }
  kill(): void {
    this.gone = true;
    this.process.kill('SIGKILL');
  }
}
