'use client';
/** What went to an outlet and what came back, what it found, the days of its clock, and the end of the sale. */
import { format } from 'date-fns';
import { toast } from 'sonner';
import type { Outlet } from '@pagina/core/outlets';
import type { Listing } from '@pagina/data';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import { Confirm } from '@/ui/Dialog';
import { Found } from './Found';
import { STATE_COLOUR, type Loaded } from './useOutlets';

export function Happened({
  outlet,
  loaded,
  onLoad,
  onWithdraw,
}: {
  outlet: Outlet;
  loaded: Loaded | null;
  onLoad: () => Promise<void>;
  onWithdraw: () => void;
}) {
  const { listings } = useBook();
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
      <div className="mb-2 flex items-center gap-3">
        <h2 className="column-head">What happened</h2>
        <span className="ml-auto text-[13px] text-ink-soft">
          {!loaded ? (
            ''
          ) : loaded.day === null ? (
            'the shop can’t be reached'
          ) : (
            <a className="underline" href={loaded.desk} target="_blank" rel="noreferrer">
              day {loaded.day} at the shop
            </a>
          )}
        </span>
      </div>
      <div className="mb-3 flex gap-3">
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
        <One key={l.id} of={l} outlet={outlet} onWithdraw={onWithdraw} />
      ))}
    </div>
  );
}

function One({ of: l, outlet, onWithdraw }: { of: Listing; outlet: Outlet; onWithdraw: () => void }) {
  const { products } = useBook();
  const there = l.delivered !== '' && l.state !== 'withdrawn';
  return (
    <article className="mb-5 border-t border-rule pt-2" data-listing={l.state}>
      <p>
        <strong className={STATE_COLOUR[l.state] ?? ''}>{l.state}</strong>
        {l.reference ? <span className="text-ink-soft"> · {l.reference}</span> : null}
        {l.link ? <span className="break-all text-ink-soft"> · {l.link}</span> : null}
      </p>
      <p className="text-[13px] text-ink-soft">
        {products.find((p) => (l.delivered ? p.sha256 === l.delivered : p.id === l.product))?.name}
        {l.delivered ? `, SHA-256 ${l.delivered.slice(0, 12)}…` : ''}
      </p>
      {l.state === 'held' ? (
        <ul aria-label="Why it is held" className="mt-2 space-y-1 border-l-2 border-rubric pl-3 text-[13px]">
          {l.found.reasons.map((r, i) => (
            <li key={i}>{r.words}</li>
          ))}
        </ul>
      ) : null}
      <Found of={l.found} outlet={outlet} />
      <ol className="mt-2">
        {l.events.map((e, i) => (
          <li key={i} className="grid grid-cols-[110px_100px_1fr] border-t border-rule py-1 text-[13px]">
            <time className="text-ink-soft">{format(e.at, 'd MMM, HH:mm:ss')}</time>
            <span>{e.state}</span>
            <span>{e.words}</span>
          </li>
        ))}
      </ol>
      {there ? (
        <Confirm
          question={`Withdraw the book from ${outlet.name}?`}
          consequence={`${outlet.name} stops selling it. Readers keep the copies they bought. You can send it again later; it’s then reviewed like a new book.`}
          action="Withdraw it"
          onConfirm={onWithdraw}
        >
          <Button className="mt-3 h-7">Withdraw from {outlet.name}</Button>
        </Confirm>
      ) : null}
    </article>
  );
}
