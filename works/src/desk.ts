/** What a job's work is given, and how a task's end becomes the job's. */
import { createReadStream } from 'node:fs';
import { keepFile, type Job, type JobEnd, type Store } from '@pagina/data';
import type { TaskLimits } from './children';
import type { TaskEnd } from './task';
import type { Task } from './tasks';

export interface Desk {
  store: Store;
  job: Job;
  /** A folder of the job's own, removed when it ends. */
  folder: string;
  /** Tells how far the job is; answers false when it should stop. */
  report: (stage: string, share: number) => Promise<boolean>;
  /** Has a child process do a task. */
  task: (task: Task, limits?: Partial<TaskLimits>) => Promise<TaskEnd>;
}

/** The end of a job whose task gave no result. */
export function endOf(answer: TaskEnd): JobEnd {
  if (answer.type === 'stopped') return { state: 'stopped' };
  if (answer.type === 'refused') return { state: 'failed', error: answer.message };
  const why = answer.type === 'died' ? answer.why : 'unknown';
  return {
    state: 'failed',
    error: {
      time: 'This took too long and was stopped.',
      memory: 'This needed too much memory and was stopped.',
      unknown: 'Pagina stopped unexpectedly while working on this. Try again.',
    }[why],
  };
}

/** Keeps the impression that a child wrote, and answers its checksum; '' where none was taken. */
export const keepImpression = async (store: Store, path: string | null): Promise<string> =>
  path === null ? '' : (await keepFile(store, createReadStream(path))).sha256;
