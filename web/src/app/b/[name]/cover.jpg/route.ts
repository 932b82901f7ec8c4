import { titleOfPage } from '@pagina/data';
import { pageCover } from '@/server/bookpage';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** The picture beside the page about a book. */
export async function GET(_: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  const s = await store();
  const title = await titleOfPage(s, (await params).name);
  const cover = title === null ? null : await pageCover(s, title);
  if (!cover) return new Response('There is no cover.', { status: 404 });
  return new Response(cover as unknown as BodyInit, {
    headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'public, max-age=3600' },
  });
}
