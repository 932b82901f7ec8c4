import { titleOfPage } from '@pagina/data';
import { pageOf } from '@/server/bookpage';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** Nothing but what the page brings with it. */
const POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; base-uri 'none'; form-action 'none'";

/** The page about a book, for its readers. */
export async function GET(_: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  const { name } = await params;
  const s = await store();
  const title = await titleOfPage(s, name);
  const html = title === null ? null : await pageOf(s, title, `/b/${name}/cover.jpg`);
  return new Response(html ?? 'There is no book at this address.', {
    status: html === null ? 404 : 200,
    headers: {
      'Content-Type': html === null ? 'text/plain; charset=utf-8' : 'text/html; charset=utf-8',
      'Content-Security-Policy': POLICY,
      'Cache-Control': 'public, max-age=300',
    },
  });
}
