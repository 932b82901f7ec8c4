'use client';
/** What went to an outlet and what came back, and the days of its clock. */
import { format } from 'date-fns';
import { toast } from 'sonner';
import type { Outlet } from '@pagina/core/outlets';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import type { Loaded } from './useOutlets';

export function Happened({
  outlet,
  loaded,
  onLoad,
}: {
  outlet: Outlet;
  loaded: Loaded | null;
  onLoad: () => Promise<void>;
}) {
  const { products, listings } = useBook();
  const mine = listings.filter((l) => l.outlet === outlet.id);
  const wait = async (days: number): Promise<void> => {
    const r = await fetch('/api/outlets/clock', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ days }),
    });
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await onLoad();
  };
  return (
    <div className="mt-6">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h2 className="column-head">What happened</h2>
        <span className="ml-auto text-[13px] text-ink-soft">
          {loaded
            ? loaded.day === null
              ? 'the shop can’t be reached'
              : `day ${loaded.day} at the shop`
            : ''}
        </span>
        <Button className="h-7" onClick={() => void wait(1)}>
          Advance one day
        </Button>
        <Button className="h-7" onClick={() => void wait(3)}>
          Advance three days
        </Button>
      </div>
      {mine.length === 0 ? (
        <p className="text-ink-soft">
          Nothing has been sent yet. The simulated shop’s days pass when you advance them.
        </p>
      ) : null}
      {mine.map((l) => (
        <article key={l.id} className="mb-5 border-t border-rule pt-2" data-listing={l.state}>
          <p>
            <strong
              className={l.state === 'on sale' ? 'text-spruce' : l.state === 'held' ? 'text-rubric' : ''}
            >
              {l.state}
            </strong>
            {l.reference ? <span className="text-ink-soft"> · {l.reference}</span> : null}
            {l.link ? <span className="text-ink-soft"> · {l.link}</span> : null}
          </p>
          <p className="text-[13px] text-ink-soft">
            {products.find((p) => (l.delivered ? p.sha256 === l.delivered : p.id === l.product))?.name}
            {l.delivered ? `, SHA-256 ${l.delivered.slice(0, 12)}…` : ''}
          </p>
          <ol className="mt-2">
            {l.events.map((e, i) => (
              <li key={i} className="grid grid-cols-[110px_100px_1fr] border-t border-rule py-1 text-[13px]">
                <time className="text-ink-soft">{format(e.at, 'd MMM, HH:mm:ss')}</time>
                <span>{e.state}</span>
                <span>{e.words}</span>
              </li>
            ))}
          </ol>
        </article>
      ))}
    </div>
  );
}
