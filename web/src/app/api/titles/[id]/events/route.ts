import { jobsOf, productsOf, revisionOf } from '@pagina/data';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';
const EVERY = 300;

/** Server-sent events: revision, jobs and products of a title, whenever one of them changes. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const { id } = await params;
  const s = await store();
  if ((await revisionOf(s, id)) === null) return new Response('', { status: 404 });
  const encoder = new TextEncoder();
  let open = true;
  request.signal.addEventListener('abort', () => (open = false));
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      let last = '';
      let quiet = 0;
      while (open) {
        const now = JSON.stringify({
          revision: (await revisionOf(s, id)) ?? 0,
          jobs: await jobsOf(s, id),
          products: await productsOf(s, id),
        });
        try {
          if (now !== last) controller.enqueue(encoder.encode(`data: ${now}\n\n`));
          else if (++quiet % 50 === 0) controller.enqueue(encoder.encode(': still here\n\n'));
        } catch {
          open = false;
        }
        last = now;
        await new Promise((r) => setTimeout(r, EVERY));
      }
      try {
        controller.close();
      } catch {
        // The reader has gone already.
      }
    },
    cancel() {
      open = false;
    },
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' },
  });
}
