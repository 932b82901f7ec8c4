/** Jobs that read a manuscript: for a new title, or for one that exists already. */
import { createReadStream } from 'node:fs';
import { bookFromJson, bookToJson, type Arrival, type Book } from '@pagina/core/book';
import { withHouse } from '@pagina/core/outlets';
import { filePath, imprintIn, insertTitle, keepBytes, keepFile, storedSize, type JobEnd } from '@pagina/data';
import { endOf, type Desk } from './desk';

/** Time to read a manuscript, in milliseconds: a start, and some for each megabyte. */
const timeFor = (bytes: number): number => Math.min(600_000, 20_000 + (bytes / 1e6) * 20_000);

export async function readManuscriptJob(desk: Desk): Promise<JobEnd> {
  const { title, changes, ...main } = desk.job.payload as Named & {
    title: string;
    beside?: Named[];
    changes?: 'accept' | 'reject';
  };
  const files = [main, ...(main.beside ?? [])];
  const read = await reading(desk, files, changes);
  if (!('book' in read)) return read;
  const source = files.map(({ sha256, name = '' }) => ({ sha256, name }));
  const arrival = { ...read.arrival, source };
  return {
    state: 'done',
    result: { title },
    also: async (tx) => {
      const { house } = await imprintIn(tx);
      return insertTitle(tx, { book: withHouse({ ...read.book, id: title }, house), id: title, arrival });
    },
  };
}

/** Reads a manuscript for a title that exists already; what was read is kept for the author to compare. */
export async function readAgain(desk: Desk): Promise<JobEnd> {
  const main = desk.job.payload as Named;
  const read = await reading(desk, [main]);
  if (!('book' in read)) return read;
  const text = JSON.stringify({
    name: main.name,
    book: bookToJson(read.book),
    findings: read.arrival.findings,
  });
  const kept = await keepBytes(desk.store, new TextEncoder().encode(text));
  return { state: 'done', result: { reading: kept.sha256 } };
}

/** A file in the store, and the name that it was uploaded under. */
interface Named {
  sha256: string;
  name?: string;
}

/** A manuscript's book, with the files of its pictures kept. */
async function reading(
  { store, folder, task }: Desk,
  uploaded: readonly Named[],
  changes: 'accept' | 'reject' = 'accept',
): Promise<{ book: Book; arrival: Arrival } | JobEnd> {
  let size = 0;
  for (const { sha256 } of uploaded) {
    const one = await storedSize(store, sha256);
    if (one === null) return { state: 'failed', error: 'The uploaded file is gone. Bring it in again.' };
    size += one;
  }
  const files = uploaded.map(({ sha256, name = '' }) => ({ path: filePath(store, sha256), name }));
  const answer = await task({ kind: 'read', files, changes, folder }, { time: timeFor(size) });
  if (answer.type !== 'read') return endOf(answer);
  const parsed = bookFromJson(answer.book);
  if (!parsed.ok) return { state: 'failed', error: parsed.refusal.message };
  const kept = new Map<string, string>();
  for (const [id, path] of Object.entries(answer.pictures))
    kept.set(id, (await keepFile(store, createReadStream(path))).sha256);
  const pictures = parsed.value.pictures.map((p) => ({ ...p, sha256: kept.get(p.id) }));
  return { book: { ...parsed.value, pictures }, arrival: answer.arrival };
}
