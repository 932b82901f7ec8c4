import { pictureInfo } from '@pagina/core/base';
import { keepBytes } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { store } from '@/server/store';

const MOST_BYTES = 60_000_000;

/** Keeps a picture's bytes and tells what it is; the book takes it in by a change of its own. */
export async function POST(request: Request): Promise<Response> {
  const bytes = new Uint8Array(await request.arrayBuffer());
  if (bytes.length > MOST_BYTES) return refuse('The picture is larger than 60 MB.', 413);
  const info = pictureInfo(bytes);
  if (!info) return refuse('This is no picture that a book can carry. Save it as PNG or JPEG.', 415);
  const { sha256 } = await keepBytes(await store(), bytes);
  return answer({ ...info, sha256 }, 201);
}
