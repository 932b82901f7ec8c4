/** Reading the open novel's .docx, as times of what `mammoth.convertToHtml` takes in the same process, both cold. */
import { spawnSync } from 'node:child_process';

/**
 * Our times together over theirs together. In each process one begins and the other follows, as often the one as the
 * other: whoever follows finds warm what both use.
 */
export function docxRatio(file: string, runs: number): number {
  const sum = { ours: 0, theirs: 0 };
  for (let i = 0; i < runs; i++)
    for (const first of ['ours', 'theirs']) {
      const once = ['--import', 'tsx', 'bench/docx-once.ts', file, first];
      const r = spawnSync(process.execPath, once, { encoding: 'utf8' });
      if (r.status !== 0) throw new Error(r.stderr.slice(-400));
      const taken = JSON.parse(r.stdout) as typeof sum;
      sum.ours += taken.ours;
      sum.theirs += taken.theirs;
    }
  return sum.ours / sum.theirs;
}
