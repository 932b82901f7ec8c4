'use client';
/** Sends a manuscript to be read and follows the work to its end. */
import { toast } from 'sonner';
import { MANUSCRIPT_ENDINGS } from '@pagina/core/base';
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

const headersOf = (f: File): Record<string, string> => ({
  'x-file-name': encodeURIComponent(f.name),
  'Content-Type': 'application/octet-stream',
});

/**
 * The file among several that is most likely the manuscript, and the others: the reader looks into all of them and has
 * the last word. Null where none can be one.
 */
export function manuscriptAmong(files: readonly File[]): { manuscript: File; beside: File[] } | null {
  const order = MANUSCRIPT_ENDINGS.map(String);
  const rank = (f: File): number => order.findIndex((e) => f.name.toLowerCase().endsWith(e));
  // An empty one is sent with the others, and said to be empty.
  const texts = files
    .filter((f) => rank(f) >= 0 && f.size > 0)
    .sort((a, b) => rank(a) - rank(b) || b.size - a.size);
  const manuscript = texts[0] ?? (files.length === 1 ? files[0] : undefined);
  return manuscript ? { manuscript, beside: files.filter((f) => f !== manuscript) } : null;
}

/**
 * Sends what comes with the manuscript first. Answers the job when it is done, null when it was stopped. `tell` hears of
 * progress. Throws an error whose message is a sentence for the author, or empty when nothing could be learned.
 */
export async function readFile(
  address: string,
  file: File,
  tell: (reading: Reading) => void,
  others: readonly File[] = [],
): Promise<(Job & { title: string | null }) | null> {
  const beside: { sha256: string; name: string }[] = [];
  for (const f of others) {
    tell({ name: f.name, job: null });
    const kept = await fetch(`${address}/beside`, { method: 'POST', headers: headersOf(f), body: f });
    const { sha256, message } = (await kept.json()) as { sha256?: string; message?: string };
    // One that is empty or too large does not keep the others back.
    if (!kept.ok || !sha256) {
      toast(`${f.name} was left out. ${message ?? 'It couldn’t be sent.'}`, { duration: 20_000 });
      continue;
    }
    beside.push({ sha256, name: f.name.slice(-60) });
  }
  tell({ name: file.name, job: null });
  const r = await fetch(address, {
    method: 'POST',
    headers: {
      ...headersOf(file),
      ...(beside.length > 0 ? { 'x-beside': encodeURIComponent(JSON.stringify(beside)) } : {}),
    },
    body: file,
  });
  return followed(r, file.name, tell);
}

/** Follows the job that an answer names to its end. */
export async function followed(
  r: Response,
  name: string,
  tell: (reading: Reading) => void,
): Promise<(Job & { title: string | null }) | null> {
  const sent = (await r.json()) as { job?: string; title?: string; message?: string };
  if (!r.ok || !sent.job) throw new Error(sent.message);
  for (;;) {
    const job = (await (await fetch(`/api/jobs/${sent.job}`)).json()) as Job;
    tell({ name, job });
    if (job.state === 'done') return { ...job, title: sent.title ?? job.title };
    if (job.state === 'failed') throw new Error(job.error ?? '');
    if (job.state === 'stopped') return null;
    await new Promise((done) => setTimeout(done, POLL));
  }
}
