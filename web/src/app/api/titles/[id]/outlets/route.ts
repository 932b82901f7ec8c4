import * as z from 'zod';
import { demandsOf, fileFor, isReady, outletNamed } from '@pagina/core/outlets';
import { accountsOf, enqueue, jobsOf, listingsOf, openListing, productsOf, readTitle } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { outletDay } from '@/server/outlet';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };
export const dynamic = 'force-dynamic';

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const s = await store();
  const [listings, accounts, day] = await Promise.all([
    listingsOf(s, (await params).id),
    accountsOf(s),
    outletDay(),
  ]);
  return answer({ listings, accounts, day });
}

/** Sends the newest ebook to an outlet, when all it asks for is met. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const parsed = z.object({ outlet: z.string() }).safeParse(await bodyOf(request));
  const outlet = outletNamed(parsed.data?.outlet ?? null);
  if (!outlet) return refuse('There is no such outlet.');
  const { id } = await params;
  const s = await store();
  const loaded = await readTitle(s, id);
  const edition = loaded?.book.editions.find((e) => e.form === 'reflow');
  if (!loaded || !edition) return refuse('The title has no ebook edition.', 404);
  const file = fileFor(loaded.book, edition.id, outlet.id);
  const product = (await productsOf(s, id)).find((p) => p.edition === file) ?? null;
  const account = (await accountsOf(s))[outlet.id] ?? null;
  const demands = demandsOf(outlet, loaded.book, edition, product, loaded.revision, account);
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
