import { digestOf } from '@pagina/core/base';
import { bytesOf, isTooDeep, packageOf, textOfPart } from '@pagina/core/emend';
import { ebookCache } from '@/server/emended';
import { partAnswer, partPath } from '@/server/ebookpart';
import { problem, Unanswerable } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';

const TOO_DEEP = 'The elements of this document are nested too deep to be shown.';

/** A part of an ebook as it is now. */
export const GET = route<{ id: string; path: string[] }>(async (request, { id }) => {
  const base = `/api/ebooks/${id}/parts/`;
  const read = await ebookCache.read(await store(), id);
  if (!read) throw new Unanswerable('This ebook no longer exists.', 404);
  const path = partPath(request, base);
  const { state, row } = read;
  const content = state.parts.get(path);
  const tag = `"${digestOf(`${row.sha256} ${JSON.stringify(content ?? null)}`)}"`;
  if (request.headers.get('if-none-match') === tag)
    return new Response(null, { status: 304, headers: { ETag: tag } });
  const type = packageOf(state).manifest.find((i) => i.path === path)?.type;
  const isDocument = type === undefined || /xml|html/.test(type);
  if (isDocument && isTooDeep(textOfPart(state, path) ?? '')) return problem(TOO_DEEP, 422);
  return partAnswer(
    request,
    { base, path, read: () => bytesOf(state, path), ...(type ? { type } : {}) },
    { 'Cache-Control': 'private, no-cache', ETag: tag },
  );
});
