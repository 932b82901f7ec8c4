/** Files as bodies of requests: streamed to the disk before anything else is done with them. */
import * as z from 'zod';
import { isManuscriptName, MANUSCRIPT_ENDINGS, MOST_BESIDE } from '@pagina/core/base';
import { CutShort, keepFile, TooLarge, type Store } from '@pagina/data';
import { Unanswerable } from './answer';
import { announced } from './body';

const MANUSCRIPT_BYTES = 200_000_000;

/** Keeps the request's body. Throws `Unanswerable` for one that is empty, larger than `most` bytes, or cut short. */
export async function keepBody(
  s: Store,
  request: Request,
  most: number,
): Promise<{ sha256: string; size: number }> {
  const tooLarge = new Unanswerable(`The file is larger than ${most / 1e6} MB.`, 413);
  const expected = announced(request);
  if ((expected ?? 0) > most) throw tooLarge;
  if (!request.body) throw new Unanswerable('The file is empty.');
  try {
    const kept = await keepFile(s, request.body as unknown as AsyncIterable<Uint8Array>, { most, expected });
    if (kept.size === 0) throw new Unanswerable('The file is empty.');
    return kept;
  } catch (e) {
    if (e instanceof TooLarge) throw tooLarge;
    // The one who sends it is gone, or stopped.
    const { name, code } = e as NodeJS.ErrnoException;
    if (e instanceof CutShort || name === 'AbortError' || code === 'ECONNRESET')
      throw new Unanswerable('The file did not arrive complete. Import it again; nothing was changed.');
    throw e;
  }
}

/** The kept manuscript and its name. */
export async function keepManuscript(s: Store, request: Request): Promise<{ sha256: string; name: string }> {
  const name = fileName(request.headers.get('x-file-name'));
  if (!isManuscriptName(name))
    throw new Unanswerable(
      `Pagina can’t read “${name}”. It reads ${MANUSCRIPT_ENDINGS.join(', ')} files.`,
      415,
    );
  return { sha256: (await keepBody(s, request, MANUSCRIPT_BYTES)).sha256, name };
}

/** A file that comes with a manuscript, and its name. */
export async function keepBeside(s: Store, request: Request): Promise<{ sha256: string; name: string }> {
  const name = fileName(request.headers.get('x-file-name'));
  return { sha256: (await keepBody(s, request, MANUSCRIPT_BYTES)).sha256, name };
}

const besideSchema = z.array(
  z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), name: z.string().max(300) }),
);

/** The files, kept before, that a request says belong with its own. */
export function besideOf(request: Request): z.infer<typeof besideSchema> {
  const header = request.headers.get('x-beside');
  if (!header) return [];
  try {
    return besideSchema.max(MOST_BESIDE).parse(JSON.parse(decodeURIComponent(header)));
  } catch {
    throw new Unanswerable('The list of the other files can’t be read. Drop them again.');
  }
}

/** The name that a file came with. Throws `Unanswerable` where it can’t be read. */
export function fileName(header: string | null, otherwise = 'manuscript.docx'): string {
  try {
    return bareName(decodeURIComponent(header ?? otherwise)) || otherwise;
  } catch {
    throw new Unanswerable('The file’s name can’t be read. Rename it and import it again.');
  }
}

/** A file’s name without folders and signs that no name has: it may become one again, in an archive or on a disk. */
export const bareName = (name: string): string =>
  (name.split(/[\\/]/).at(-1) ?? '')
    .replace(/\p{Cc}/gu, '')
    .replace(/^\.+$/, '')
    .slice(0, 300);
