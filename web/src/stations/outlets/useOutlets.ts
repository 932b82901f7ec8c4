'use client';
/** What the outlets are told of the open title, and what is known of each. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import {
  demandsOf,
  editionsFor,
  factsOf,
  NEW_IMPRINT,
  type Account,
  type Demand,
  type Facts,
  type Imprint,
  type Outlet,
} from '@pagina/core/outlets';
import type { Edition, Placing, SingleChange } from '@pagina/core/book';
import type { Listing } from '@pagina/data';
import { useBook, useTitle } from '@/title/context';

const EVERY = 1_000;

export interface Loaded {
  accounts: Record<string, Account>;
  imprint: Imprint;
  /** Day of the stand-in shops' clock; null while they can't be reached. */
  day: number | null;
}

/** Asked for anew every second: the shops' days pass. */
export function useLoaded(): { loaded: Loaded | null; load: () => Promise<void> } {
  const { session } = useTitle();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const load = useCallback(async () => {
    const r = await fetch(`/api/titles/${session.id}/outlets`).catch(() => null);
    if (r?.ok) setLoaded((await r.json()) as Loaded);
  }, [session.id]);
  useEffect(() => {
    void load();
    const timer = setInterval(() => void load(), EVERY);
    return () => clearInterval(timer);
  }, [load]);
  return { loaded, load };
}

/** An outlet beside the title: what it would be told of the edition that is meant for it. */
export interface Beside {
  outlet: Outlet;
  /** Editions that it sells; the first is meant unless another is chosen. */
  editions: readonly Edition[];
  edition: Edition | null;
  facts: Facts | null;
  demands: readonly Demand[];
  listing: Listing | null;
}

export function useBeside(
  outlets: readonly Outlet[],
  loaded: Loaded | null,
  chosen: Readonly<Record<string, string>>,
): Beside[] {
  const { book, revision, products, listings } = useBook();
  const accounts = loaded?.accounts;
  const imprint = loaded?.imprint;
  // The clock brings the same answer every second.
  const known = JSON.stringify([accounts, imprint]);
  return useMemo(
    () =>
      outlets.map((outlet): Beside => {
        const editions = editionsFor(outlet, book);
        const edition = editions.find((e) => e.id === chosen[outlet.id]) ?? editions[0] ?? null;
        if (!edition) return { outlet, editions, edition, facts: null, demands: [], listing: null };
        const listing = listings.find((l) => l.outlet === outlet.id && l.edition === edition.id) ?? null;
        const account = accounts?.[outlet.id] ?? null;
        const facts = factsOf({
          outlet,
          book,
          edition,
          revision,
          files: products,
          account,
          imprint: imprint ?? NEW_IMPRINT,
          live: listing?.link ? listing.listed : null,
        });
        return { outlet, editions, edition, facts, demands: demandsOf(outlet, facts), listing };
      }),
    [outlets, book, revision, products, listings, known, chosen],
  );
}

/** Sets the author's choices at an outlet, as a step of Undo with a name. */
export function usePlacing(outlet: string): (fields: Partial<Placing>, label: string) => void {
  const { session } = useTitle();
  return (fields, label) =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-placing', outlet, fields }] });
}

/** Changes at an outlet that are one step of Undo with a name. */
export function useAtOutlet(): (label: string, ...changes: SingleChange[]) => void {
  const { session } = useTitle();
  return (label, ...changes) => void session.change({ type: 'group', label, changes });
}

/** In a word. */
export function standsAt(listing: Listing | null, placing: Placing, connected: boolean): string {
  if (connected) return listing?.state ?? (placing.chosen ? 'not sent' : '–');
  if (!placing.chosen) return '–';
  return placing.state === 'waiting' ? 'not entered' : placing.state;
}
