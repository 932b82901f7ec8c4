import { Readable } from 'node:stream';
import { storedSize, streamStored } from '@pagina/data';
import { problem } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';

const TYPES: Record<string, string> = {
  pdf: 'application/pdf',
  epub: 'application/epub+zip',
  png: 'image/png',
  jpg: 'image/jpeg',
  gif: 'image/gif',
};

/** A kept file by its checksum. `name` offers it for download; without one only pictures are shown. */
export const GET = route<{ sha: string }>(async (request, { sha }) => {
  const s = await store();
  const size = await storedSize(s, sha);
  if (size === null) return problem('That file no longer exists.', 404);
  const query = new URL(request.url).searchParams;
  const name = query.get('name');
  const type =
    TYPES[(name ?? `x.${query.get('type') ?? ''}`).split('.').at(-1)?.toLowerCase() ?? ''] ??
    'application/octet-stream';
  const headers: Record<string, string> = {
    'Content-Type': type,
    'Content-Length': String(size),
    'Cache-Control': 'private, max-age=31536000, immutable',
    ETag: `"${sha}"`,
  };
  if (name) headers['Content-Disposition'] = `attachment; filename="${name.replace(/[^\w.-]/g, '_')}"`;
  return new Response(Readable.toWeb(streamStored(s, sha) as Readable) as unknown as ReadableStream, {
    headers,
  });
});
