import { digestOf } from '@pagina/core/base';
import { bytesOf } from '@pagina/core/emend';
import { packageIn } from '@pagina/core/package';
import { zipOf, type Emended } from '@pagina/core/emend';
import { ebookCache } from '@/server/emended';
import { partAnswer, partPath } from '@/server/ebookpart';
import { Unanswerable } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';

/** Media types by path, of an ebook as it was last asked for. */
const types = new WeakMap<Emended, Map<string, string>>();
function typesOf(state: Emended): Map<string, string> {
  const known = types.get(state) ?? new Map(packageIn(zipOf(state)).manifest.map((i) => [i.path, i.type]));
  types.set(state, known);
  return known;
}

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
  const type = typesOf(state).get(path);
  return partAnswer(
    request,
    { base, path, read: () => bytesOf(state, path), ...(type ? { type } : {}) },
    { 'Cache-Control': 'private, no-cache', ETag: tag },
  );
});
