import * as z from 'zod';
import { demandsOf, isReady, OUTLETS } from '@pagina/core/outlets';
import { enqueue, jobsOf, listingsOf, openListing, productsOf, readTitle } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { outletDay } from '@/server/outlet';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };
export const dynamic = 'force-dynamic';

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  return answer({ listings: await listingsOf(await store(), (await params).id), day: await outletDay() });
}

/** Sends the newest ebook to an outlet, when all it asks for is met. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const parsed = z.object({ outlet: z.string() }).safeParse(await bodyOf(request));
  const outlet = OUTLETS.find((o) => o.id === parsed.data?.outlet);
  if (!outlet) return refuse('There is no such outlet.');
  const { id } = await params;
  const s = await store();
  const loaded = await readTitle(s, id);
  const edition = loaded?.book.editions.find((e) => e.form === 'reflow');
  if (!loaded || !edition) return refuse('The title has no ebook edition.', 404);
  const product = (await productsOf(s, id)).find((p) => p.edition === edition.id) ?? null;
  const demands = demandsOf(outlet, loaded.book, edition, product, loaded.revision);
  const missing = demands.find((d) => d.standing === 'not met');
  if (!isReady(demands) || !product)
    return refuse(`${missing?.name ?? 'Ebook'}: ${missing?.why ?? 'Make the ebook first.'}`, 409);
  const listing = await openListing(s, {
    title: id,
    outlet: outlet.id,
    edition: edition.id,
    product: product.id,
  });
  const active = (await jobsOf(s, id)).some(
    (j) =>
      j.kind === 'send' &&
      (j.state === 'queued' || j.state === 'running') &&
      (j.payload as { listing: string }).listing === listing.id,
  );
  const job = active ? null : await enqueue(s, 'send', { listing: listing.id }, id);
  return answer({ listing: listing.id, job }, 202);
}
