'use client';
/** Outlets: what a shop asks for and whether it is met, the sending, and the log of what went and what came back. */
import Link from 'next/link';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { format } from 'date-fns';
import { toast } from 'sonner';
import {
  demandsOf,
  isReady,
  linksToShops,
  OUTLETS,
  type Account,
  type Demand,
  type DemandState,
  type Outlet,
} from '@pagina/core/outlets';
import { isReflow, type Edition } from '@pagina/core/book';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Table, type Column } from '@/ui/Table';
import { Affiliate } from './Affiliate';
import { Sending, toSend, useFiles, type What } from './Sending';

const MARKS: Record<DemandState, [shape: string, colour: string]> = {
  met: ['✓', 'text-spruce'],
  'not met': ['■', 'text-rubric'],
  optional: ['○', 'text-ink-soft'],
  'not asked': ['–', 'text-ink-soft'],
};
const EVERY = 1_000;

interface Loaded {
  accounts: Record<string, Account>;
  day: number | null;
}

export function Outlets() {
  const { session } = useTitle();
  const { book } = useBook();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const load = useCallback(async () => {
    const r = await fetch(`/api/titles/${session.id}/outlets`);
    if (r.ok) setLoaded((await r.json()) as Loaded);
  }, [session.id]);
  useEffect(() => {
    void load();
    const timer = setInterval(() => void load(), EVERY);
    return () => clearInterval(timer);
  }, [load]);
  const ebooks = book.editions.filter(isReflow);
  const [chosen, setChosen] = useState<string | null>(null);
  const edition = ebooks.find((e) => e.id === chosen) ?? ebooks[0];
  if (!edition) return <p className="p-8 text-ink-soft">The title has no ebook edition to place.</p>;
  return (
    <div className="h-full overflow-auto bg-sheet" tabIndex={0} role="region" aria-label="Outlets">
      {OUTLETS.map((outlet) => (
        <section key={outlet.id} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-10 px-6 py-5">
          <div>
            <h1 className="font-serif text-[20px]">{outlet.name}</h1>
            {ebooks.length > 1 ? (
              <Select
                label={`Edition for ${outlet.name}`}
                value={edition.id}
                choices={ebooks.map((e) => ({ value: e.id, name: e.name }))}
                onChoose={setChosen}
              />
            ) : null}
            <p className="mb-3 text-ink-soft">{outlet.words}</p>
            <Placing outlet={outlet} edition={edition} loaded={loaded} onLoad={load} />
          </div>
          <Happened outlet={outlet} loaded={loaded} onLoad={load} />
        </section>
      ))}
    </div>
  );
}

/** What an outlet asks for, and the sending. */
function Placing({
  outlet,
  edition,
  loaded,
  onLoad,
}: {
  outlet: Outlet;
  edition: Edition;
  loaded: Loaded | null;
  onLoad: () => Promise<void>;
}) {
  const { session } = useTitle();
  const { book, revision, jobs, listings } = useBook();
  const files = useFiles(outlet.id, edition.id);
  const file = toSend(files, revision);
  const account = loaded?.accounts[outlet.id] ?? null;
  const made = file && { ...file.product, signedOff: file.signed.at !== null };
  const demands = demandsOf(outlet, book, edition, made, revision, account);
  const at = listings.find((l) => l.outlet === outlet.id && l.edition === edition.id);
  const send = async (what: What): Promise<void> => {
    await session.flush();
    const r = await fetch(`/api/titles/${session.id}/outlets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet: outlet.id, edition: edition.id, ...what }),
    });
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await onLoad();
  };
  return (
    <>
      <Demands of={demands} outlet={outlet.name} title={session.id} />
      {outlet.affiliate && loaded ? (
        <Affiliate
          key={account?.changedAt ?? 0}
          outlet={outlet}
          code={account?.affiliate ?? ''}
          used={linksToShops(book, edition.id)}
          onKept={onLoad}
        />
      ) : null}
      <Sending
        outlet={outlet}
        edition={edition}
        files={files ?? null}
        file={file}
        ready={isReady(demands)}
        at={at?.delivered ? at : null}
        job={jobs.find((j) => j.kind === 'send')}
        send={send}
      />
    </>
  );
}

/** What went to an outlet and what came back, and the days of its clock. */
function Happened({
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
    <div>
      <div className="mb-3 flex items-center gap-3">
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
              <li key={i} className="grid grid-cols-[110px_110px_1fr] border-t border-rule py-1 text-[13px]">
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

function Demands({ of: demands, outlet, title }: { of: readonly Demand[]; outlet: string; title: string }) {
  const columns = useMemo(
    (): Column<Demand>[] => [
      { id: 'asked', name: 'Asked for', heads: true, cell: (d) => d.name, className: 'h-8' },
      {
        id: 'status',
        name: 'Status',
        cell: (d) => (
          <span className={MARKS[d.state][1]}>
            <span aria-hidden>{MARKS[d.state][0]}</span> {d.state}
          </span>
        ),
        className: 'whitespace-nowrap',
      },
      {
        id: 'why',
        name: 'Current value',
        silent: true,
        cell: (d) =>
          d.state === 'not met' ? (
            <Link className="underline" href={`/titles/${title}/${d.station}`}>
              {d.why}
            </Link>
          ) : (
            d.why
          ),
        className: 'text-[13px] text-ink-soft',
      },
    ],
    [title],
  );
  return (
    <Table
      label={`What ${outlet} asks for`}
      columns={columns}
      rows={demands}
      keyOf={(d) => d.name}
      attributesOf={(d) => ({ 'data-demand': d.name })}
    />
  );
}
