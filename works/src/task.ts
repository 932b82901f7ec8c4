/** A task done by a child process under limits of memory and time, so that a hostile file costs one job and no more. */
import { fork, type ChildProcess } from 'node:child_process';
import type { FromChild, Task } from './tasks';

export interface TaskLimits {
  /** Megabytes of memory. */
  memory: number;
  /** Milliseconds. */
  time: number;
}
export type TaskEnd =
  FromChild | { type: 'stopped' } | { type: 'died'; why: 'time' | 'memory' | 'unknown'; said: string };

/** How often the child's progress is told, and asked whether to go on, in milliseconds. */
const BEAT = 250;

/**
 * Has a child do the task and resolves with its last word. `onProgress` answers false when the work should stop. The
 * child is handed to `onStart`, so that whoever stops everything can end it.
 */
export function runTask(
  child: string,
  task: Task,
  limits: TaskLimits,
  onProgress: (stage: string, share: number) => Promise<boolean>,
  onStart: (child: ChildProcess) => void,
): Promise<TaskEnd> {
  return new Promise((resolve) => {
    const process_ = fork(child, [], {
      execArgv: [
        `--max-old-space-size=${limits.memory}`,
        '--max-semi-space-size=64',
        `--initial-old-space-size=${Math.min(256, limits.memory)}`,
      ],
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      // It speaks to no one: certificates of the surroundings, which Node would read first of all, are not wanted.
      env: { ...process.env, NODE_EXTRA_CA_CERTS: undefined, PAGINA_TASK_MEMORY: String(limits.memory) },
    });
    onStart(process_);
    let last: FromChild | null = null;
    let stage = task.kind === 'read' ? 'Reading the manuscript' : 'Starting';
    let share = 0;
    let killed: 'stopped' | 'time' | null = null;
    let stderr = '';
    process_.stderr?.on('data', (d: Buffer) => (stderr = (stderr + d.toString()).slice(-4_000)));
    const kill = (why: 'stopped' | 'time'): void => {
      killed ??= why;
      process_.kill('SIGKILL');
    };
    const beat = setInterval(() => {
      onProgress(stage, share).then(
        (go) => go || kill('stopped'),
        // The database may be busy or full for a moment: the lease outlasts that.
        () => undefined,
      );
    }, BEAT);
    const limit = setTimeout(() => kill('time'), limits.time);
    process_.on('message', (m: FromChild) => {
      if (m.type === 'progress') ({ stage, share } = m);
      else last = m;
    });
    process_.on('error', () => undefined);
    process_.on('close', () => {
      clearInterval(beat);
      clearTimeout(limit);
      if (last) return resolve(last);
      if (killed === 'stopped') return resolve({ type: 'stopped' });
      const fat = /heap out of memory|Invalid array buffer length|Array buffer allocation failed/;
      const why =
        killed === 'time' ? 'time' : fat.test(stderr) || stderr.includes(TOO_FAT) ? 'memory' : 'unknown';
      resolve({ type: 'died', why, said: stderr });
    });
    process_.send(task, () => undefined);
  });
}
/** What a child says on standard error before it ends itself over its memory. */
export const TOO_FAT = 'pagina: over the memory limit';
