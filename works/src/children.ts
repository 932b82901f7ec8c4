/**
 * The runner's child processes. One that has made a file is kept, since starting another and having its code compiled takes
 * longer than making a short book; it goes after some files, or when it has grown. A manuscript may be hostile: whoever reads
 * one does nothing else.
 */
import { Child } from './child-process';
import { runTask, type TaskEnd } from './task';
import type { Task } from './tasks';

/** Files that a process makes before another takes its place. */
const MOST_TASKS = 25;
/** Megabytes beyond which one that has nothing to do is let go: a long book leaves a large process behind. */
const MOST_MEMORY = 600;

export interface TaskLimits {
  /** Megabytes of memory. */
  memory: number;
  /** Milliseconds. */
  time: number;
}

export class Children {
  private readonly all = new Set<Child>();
  private readonly idle: Child[] = [];
  private open = true;

  constructor(
    /** Path of the bundled child. */
    private readonly path: string,
    /** How many are kept without work. */
    private readonly kept: number,
  ) {}

  /** Starts one and has it compile what making a file needs, before anybody asks for one. */
  warmUp(memory: number): void {
    this.start(memory).send({ kind: 'warm-up' });
  }

  /** Has a task done. `onProgress` answers false when the work should stop. */
  async run(
    task: Task,
    { memory, time }: TaskLimits,
    onProgress: (stage: string, share: number) => Promise<boolean>,
  ): Promise<TaskEnd> {
    const warm = task.kind === 'make' ? this.take(memory) : null;
    const child = warm ?? this.start(memory);
    const end = await runTask(child, task, time, onProgress);
    if (task.kind === 'read') child.kill();
    // One that waited may have ended just then: that is no fault of the task.
    if (warm && this.open && end.type === 'died' && end.why === 'unknown')
      return runTask(this.start(memory), task, time, onProgress);
    return end;
  }

  stop(): void {
    this.open = false;
    for (const child of this.all) child.kill();
  }

  private start(memory: number): Child {
    const child = new Child(
      this.path,
      memory,
      (c) => this.rest(c),
      (c) => {
        this.all.delete(c);
        this.drop(c);
      },
    );
    this.all.add(child);
    if (!this.open) child.kill();
    return child;
  }
  private take(memory: number): Child | null {
    const found = this.idle.find((c) => !c.gone && c.limit === memory);
    if (found) this.drop(found);
    return found ?? null;
  }
  private drop(child: Child): void {
    const at = this.idle.indexOf(child);
    if (at >= 0) this.idle.splice(at, 1);
  }
  /** One has nothing more to do. */
  private rest(child: Child): void {
    if (child.gone) return;
    const worn = child.tasks >= MOST_TASKS || child.memory > MOST_MEMORY;
    if (worn || !this.open || this.idle.length >= this.kept) {
      child.kill();
      // Whoever comes next finds one ready all the same.
      if (worn && this.open && this.idle.length === 0) this.warmUp(child.limit);
    } else this.idle.push(child);
  }
}
