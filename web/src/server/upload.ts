/** A manuscript's bytes as the body of a request: kept before anything else is done with them. */
import { isManuscriptName, MANUSCRIPT_ENDINGS } from '@pagina/core/base';
import { DiskFull, keepFile, TooLarge, type Store } from '@pagina/data';
import { refuse } from './answer';

const MOST_BYTES = 200_000_000;

/** Answers the kept file and its name, or the refusal to send back. */
export async function keepManuscript(
  s: Store,
  request: Request,
): Promise<{ sha256: string; name: string } | Response> {
  const name = decodeURIComponent(request.headers.get('x-file-name') ?? 'manuscript.docx');
  if (!isManuscriptName(name))
    return refuse(
      `“${name}” is of a kind that cannot be read. These can: ${MANUSCRIPT_ENDINGS.join(', ')}.`,
      415,
    );
  if (!request.body) return refuse('The file is empty.');
  try {
    const { sha256, size } = await keepFile(
      s,
      request.body as unknown as AsyncIterable<Uint8Array>,
      MOST_BYTES,
    );
    return size === 0 ? refuse('The file is empty.') : { sha256, name };
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
