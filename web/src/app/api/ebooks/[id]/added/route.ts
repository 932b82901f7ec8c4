import { addedTypeOf } from '@pagina/core/emend';
import { readStored } from '@pagina/data';
import { answer, Unanswerable } from '@/server/answer';
import { ebookRoute } from '@/server/emended';
import { fileName, keepBody } from '@/server/upload';

const MOST_BYTES = 60_000_000;

/** A picture, a typeface or a style sheet that a command will name. */
export const POST = ebookRoute(async (request, s) => {
  const name = fileName(request.headers.get('x-file-name'), 'file');
  const { sha256 } = await keepBody(s, request, MOST_BYTES);
  const type = addedTypeOf(await readStored(s, sha256), name);
  if (!type)
    throw new Unanswerable(
      `“${name}” isn’t a file that ebooks can hold. They hold JPEG, PNG, GIF, WebP and SVG pictures, TrueType, OpenType and WOFF typefaces, and style sheets.`,
      415,
    );
  return answer({ sha256, name, type });
});
