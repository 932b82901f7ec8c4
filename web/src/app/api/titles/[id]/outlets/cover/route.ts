import { outletsOf } from '@pagina/core/outlets';
import { coverJpeg, imprintOf, NoCover, readTitle } from '@pagina/data';
import { problem, Unanswerable } from '@/server/answer';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** The cover as an outlet wants it, for download under `name`. */
export const GET = titleRoute(async (request, s, { id }) => {
  const query = new URL(request.url).searchParams;
  const outlet = outletsOf(await imprintOf(s)).find((o) => o.id === query.get('outlet'));
  const loaded = outlet && (await readTitle(s, id));
  if (!loaded) return problem('Say for which outlet.');
  const height = outlet.cover.height || 2_400;
  const jpeg = await coverJpeg(s, id, loaded.book, { height, ratio: outlet.cover.ratio }).catch(
    (e: unknown) => {
      throw e instanceof NoCover ? new Unanswerable(e.message, 404) : e;
    },
  );
  const name = (query.get('name') ?? 'cover.jpg').replace(/[^\w.-]/g, '_');
  return new Response(jpeg as unknown as BodyInit, {
    headers: {
      'Content-Type': 'image/jpeg',
      'Content-Length': String(jpeg.length),
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'no-store',
    },
  });
});
