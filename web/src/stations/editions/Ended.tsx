'use client';
import type { Job } from '@pagina/data';

/** How the last making ended, where no file tells. */
export function Ended({ job }: { job: Job | undefined }) {
  if (job?.state === 'failed')
    return (
      <p role="alert" className="mt-1 max-w-80 text-left text-[13px] text-rubric">
        {job.error}
      </p>
    );
  if (job?.state === 'stopped')
    return <p className="mt-1 text-[13px] text-ink-soft">Stopped. Nothing was made.</p>;
  return null;
}
