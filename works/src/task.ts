/** A task done by a child process under limits of memory and time, so that a hostile file costs one job and no more. */
import type { Child } from './child-process';
import { TOO_FAT, type FromChild, type Task } from './tasks';

export type TaskEnd =
  | Extract<FromChild, { type: 'refused' | 'read' | 'made' | 'attached' }>
  | { type: 'stopped' }
  | { type: 'died'; why: 'time' | 'memory' | 'unknown'; said: string };

/** How often the child's progress is told, and asked whether to go on, in milliseconds. */
const BEAT = 250;

/**
 * Has a child do the task and resolves with its last word. `onProgress` answers false when the work should stop: then, and
 * when `time` milliseconds are over, the child is ended.
 */
export function runTask(
  child: Child,
  task: Task,
  time: number,
  onProgress: (stage: string, share: number) => Promise<boolean>,
): Promise<TaskEnd> {
  return new Promise((resolve) => {
    let stage = task.kind === 'read' ? 'Reading the manuscript' : 'Starting';
    let share = 0;
    let killed: 'stopped' | 'time' | null = null;
    const kill = (why: 'stopped' | 'time'): void => {
      killed ??= why;
      child.kill();
    };
    const beat = setInterval(() => {
      onProgress(stage, share).then(
        (go) => go || kill('stopped'),
        // The database may be busy or full for a moment: the lease outlasts that.
        () => undefined,
      );
    }, BEAT);
    const limit = setTimeout(() => kill('time'), time);
    const end = (with_: TaskEnd): void => {
      clearInterval(beat);
      clearTimeout(limit);
      child.hear(null);
      resolve(with_);
    };
    child.hear({
      message(m) {
        if (m.type === 'progress') ({ stage, share } = m);
        else if (m.type !== 'idle') end(m);
      },
      closed(said) {
        if (killed === 'stopped') return end({ type: 'stopped' });
        const fat = /heap out of memory|Invalid array buffer length|Array buffer allocation failed/;
        const why =
          killed === 'time' ? 'time' : fat.test(said) || said.includes(TOO_FAT) ? 'memory' : 'unknown';
        end({ type: 'died', why, said });
      },
    });
    child.send(task);
  });
}
