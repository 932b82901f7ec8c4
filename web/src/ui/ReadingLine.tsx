'use client';
import type { Reading } from '@/title/reading';
import { Button } from './Button';
import { Progress } from './Progress';

/** How far the reading of a manuscript is, with a way to stop it. */
export function ReadingLine({ reading }: { reading: Reading }) {
  return (
    <div className="flex items-center gap-4 border-y border-rule bg-sheet px-4 py-3" role="status">
      <span className="font-serif">{reading.name}</span>
      <Progress stage={reading.job?.stage || 'Uploading the file'} share={reading.job?.share ?? 0} />
      {reading.job ? (
        <Button onClick={() => void fetch(`/api/jobs/${reading.job?.id}`, { method: 'DELETE' })}>Stop</Button>
      ) : null}
    </div>
  );
}
