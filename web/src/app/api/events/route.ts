import { listen, pulseAfter, type Pulse } from '@/server/pulse';
import { route } from '@/server/route';

export const dynamic = 'force-dynamic';
const STILL_HERE = 15_000;

/** Server-sent events: the titles that have changed. `since` is the number last heard; a first visit has none. */
export const GET = route(async (request) => {
  const since = Number(new URL(request.url).searchParams.get('since'));
  const encoder = new TextEncoder();
  let end = (): void => undefined;
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (words: string): void => {
        try {
          controller.enqueue(encoder.encode(words));
        } catch {
          end();
        }
      };
      const tell = (p: Pulse): void => say(`data: ${JSON.stringify(p)}\n\n`);
      const stop = listen(tell);
      const beat = setInterval(() => say(': still here\n\n'), STILL_HERE);
      end = () => {
        stop();
        clearInterval(beat);
      };
      request.signal.addEventListener('abort', end);
      const missed = await pulseAfter(Number.isSafeInteger(since) && since > 0 ? since : 0);
      tell(since > 0 ? missed : { at: missed.at, titles: [] });
    },
    cancel: () => end(),
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' },
  });
});
