/**
 * Brings a file to an outlet in pieces, each where the one before ended, as the outlet says: after a cut it goes on from
 * there. After the IETF's draft of resumable uploads for HTTP (draft-ietf-httpbis-resumable-upload), from memory.
 */
import { type Parcel, type ParcelFile } from './adapter';
import { NotSent } from './notsent';
import { refusal, type Line, type Reply } from './line';

const PIECE = 4_194_304;
/** An outlet that says again and again that a piece began in the wrong place isn't told a thousandth time. */
const MOST_TURNS = 20;

/** Bytes that the outlet has. */
function offsetIn(reply: Reply): number {
  const offset = Number(reply.header('upload-offset'));
  return Number.isInteger(offset) && offset >= 0 ? offset : 0;
}

/** `done` is told how many bytes are there by now. */
export async function bringInPieces(
  line: Line,
  file: ParcelFile,
  done: (bytes: number) => void,
): Promise<void> {
  const path = `/files/${file.sha256}`;
  for (let turn = 0; turn < MOST_TURNS; turn++) {
    const head = await line.call(path, { method: 'HEAD' });
    if (head.status >= 400 && head.status !== 404) throw refusal(head, undefined);
    let at = head.status === 404 ? 0 : offsetIn(head);
    if (at > file.size) throw new NotSent('The outlet’s copy of the upload is longer than the file.', true);
    done(at);
    if (at === file.size && file.size > 0) return;
    for await (const piece of inPieces(file.bytes(at))) {
      const reply = await line.call(path, {
        method: 'PATCH',
        headers: {
          'Content-Type': 'application/partial-upload',
          'Upload-Offset': String(at),
          'Upload-Length': String(file.size),
        },
        body: piece,
      });
      if (reply.status === 409) break;
      if (reply.status >= 400) throw refusal(reply, messageOf(reply.text));
      at += piece.length;
      done(at);
    }
    if (at >= file.size) return;
  }
  throw new NotSent('The outlet couldn’t keep track of the upload.', true);
}

/** All files of a parcel, one after another; `share` is told how much of them all is there. */
export async function bringAll(line: Line, { files }: Parcel, share: (done: number) => void): Promise<void> {
  const all = files.reduce((n, f) => n + f.size, 0);
  let before = 0;
  for (const file of files) {
    await bringInPieces(line, file, (bytes) => share(all === 0 ? 1 : (before + bytes) / all));
    before += file.size;
  }
}

async function* inPieces(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let held: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of chunks) {
    held.push(chunk);
    size += chunk.length;
    if (size < PIECE) continue;
    yield Buffer.concat(held);
    held = [];
    size = 0;
  }
  if (size > 0) yield Buffer.concat(held);
}

function messageOf(text: string): string | undefined {
  try {
    const { message } = JSON.parse(text) as { message?: unknown };
    return typeof message === 'string' ? message : undefined;
  } catch {
    return undefined;
  }
}

/** What an outlet is told of a file that it has been brought. */
export const announced = (parcel: Parcel): { part: string; name: string; sha256: string; size: number }[] =>
  parcel.files.map(({ part, name, sha256, size }) => ({ part, name, sha256, size }));
