import { Readable } from 'node:stream';
import * as z from 'zod';
import { fileStem } from '@pagina/core/record';
import { archiveOf, pageNameOf, readTitleBare, setPageName, type Archived } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { pageCover, pageOf } from '@/server/bookpage';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** The page with its name; `?cover` is its picture alone, `?download` both as an archive for any web server. */
export const GET = titleRoute(async (request, s, { id }) => {
  const query = new URL(request.url).searchParams;
  if (query.has('cover')) {
    const cover = await pageCover(s, id);
    return cover
      ? new Response(cover as unknown as BodyInit, { headers: { 'Content-Type': 'image/jpeg' } })
      : problem('The book has no cover yet.', 404);
  }
  if (!query.has('download')) {
    const html = await pageOf(s, id, `/api/titles/${id}/page?cover`);
    return answer({ name: await pageNameOf(s, id), html });
  }
  const [html, cover, loaded] = await Promise.all([
    pageOf(s, id, 'cover.jpg'),
    pageCover(s, id),
    readTitleBare(s, id),
  ]);
  const parts: Archived[] = [
    { name: 'index.html', bytes: new TextEncoder().encode(html ?? '') },
    ...(cover ? [{ name: 'cover.jpg', bytes: cover }] : []),
  ];
  return new Response(Readable.toWeb(archiveOf(s, parts)) as unknown as ReadableStream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="${fileStem(loaded?.book.record.title ?? '') || 'book'}-page.zip"`,
    },
  });
});

const asked = z.object({ name: z.string().trim().nullable() });

/** Gives the page its short address, or takes it away. */
export const PUT = titleRoute(async (request, s, { id }) => {
  const { name } = await bodyOf(request, asked, 'Name the page.');
  const set = await setPageName(s, id, name);
  return set.ok ? answer({ name }) : problem(set.refusal.message, 409);
});
