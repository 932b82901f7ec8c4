import { openEbook } from '@/server/ebook';
import { partAnswer, partPath } from '@/server/ebookpart';
import { route } from '@/server/route';

/** A part of a kept ebook, which never changes. */
export const GET = route<{ sha: string; path: string[] }>(async (request, { sha }) => {
  const base = `/api/files/${sha}/ebook/`;
  const path = partPath(request, base);
  const book = await openEbook(sha);
  const type = book.manifest.find((i) => i.path === path)?.type;
  return partAnswer(
    request,
    { base, path, read: () => book.zip.read(path), ...(type ? { type } : {}) },
    { 'Cache-Control': 'private, max-age=31536000, immutable' },
  );
});
