'use client';
/** Sends a manuscript to be read and follows the work to its end. */
import type { Job } from '@pagina/data';

/** What was copied elsewhere as a file to read: with its markup where there is any. */
export function pastedManuscript(data: DataTransfer | null): File | null {
  if (!data) return null;
  if (data.files[0]) return data.files[0];
  const html = data.getData('text/html');
  const text = data.getData('text/plain');
  if (html.trim() !== '') return new File([`<!doctype html>${html}`], 'Pasted text.html');
  return text.trim() === '' ? null : new File([text], 'Pasted text.txt');
}

/** How far the reading of a file is; the job is null while the file is on its way. */
export interface Reading {
  name: string;
  job: Job | null;
}

const POLL = 250;

/**
 * Answers the job when it is done, null when it was stopped. `tell` hears of progress. Throws an error whose message is a
 * sentence for the author, or empty when nothing could be learned.
 */
export async function readFile(
  address: string,
  file: File,
  tell: (reading: Reading) => void,
): Promise<(Job & { title: string | null }) | null> {
  tell({ name: file.name, job: null });
  const r = await fetch(address, {
    method: 'POST',
    headers: { 'x-file-name': encodeURIComponent(file.name), 'Content-Type': 'application/octet-stream' },
    body: file,
  });
  const sent = (await r.json()) as { job?: string; title?: string; message?: string };
  if (!r.ok || !sent.job) throw new Error(sent.message);
  for (;;) {
    const job = (await (await fetch(`/api/jobs/${sent.job}`)).json()) as Job;
    tell({ name: file.name, job });
    if (job.state === 'done') return { ...job, title: sent.title ?? job.title };
    if (job.state === 'failed') throw new Error(job.error ?? '');
    if (job.state === 'stopped') return null;
    await new Promise((done) => setTimeout(done, POLL));
  }
}
