import { randomUUID } from 'node:crypto';
import { isManuscriptName, MANUSCRIPT_ENDINGS } from '@pagina/core/base';
import { enqueue, keepFile, TooLarge, DiskFull } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { store } from '@/server/store';

const MOST_BYTES = 200_000_000;

/** A manuscript's bytes as the body. The file is kept first; reading it is a job. */
export async function POST(request: Request): Promise<Response> {
  const name = decodeURIComponent(request.headers.get('x-file-name') ?? 'manuscript.docx');
  if (!isManuscriptName(name))
    return refuse(
      `"${name}" is of a kind that cannot be read. These can: ${MANUSCRIPT_ENDINGS.join(', ')}.`,
      415,
    );
  if (!request.body) return refuse('The file is empty.');
  const s = await store();
  try {
    const { sha256, size } = await keepFile(
      s,
      request.body as unknown as AsyncIterable<Uint8Array>,
      MOST_BYTES,
    );
    if (size === 0) return refuse('The file is empty.');
    const title = randomUUID();
    return answer({ job: await enqueue(s, 'read', { sha256, title, name }), title }, 202);
  } catch (e) {
    if (e instanceof TooLarge)
      return refuse(
        `The file is larger than ${MOST_BYTES / 1e6} MB. Make the pictures smaller, or bring the text in without them.`,
        413,
      );
    if (e instanceof DiskFull)
      return refuse(
        'There is no room left on the disk. Free some and bring the file in again; nothing was changed.',
        507,
      );
    throw e;
  }
}
