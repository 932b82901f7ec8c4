'use client';
/** What the outlets are told of the open title, and what is known of each. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import {
  demandsOf,
  editionAt,
  editionsFor,
  factsOf,
  outletsOf,
  type Account,
  type Demand,
  type Facts,
  type Outlet,
} from '@pagina/core/outlets';
import type { Edition, Placing, SingleChange } from '@pagina/core/book';
import type { Listing } from '@pagina/data';
import { useBook, useTitle } from '@/title/context';

const EVERY = 1_000;

export interface Loaded {
  accounts: Record<string, Account>;
  /** Where the simulated outlets' own page is. */
  desk: string;
  /** Day of the stand-in shops' clock; null while they can't be reached. */
  day: number | null;
}

/** Asked for anew every second, since the shops' days pass; the same answer changes nothing. */
export function useLoaded(): { loaded: Loaded | null; load: () => Promise<void> } {
  const { session } = useTitle();
  const [loaded, setLoaded] = useState<{ text: string; value: Loaded } | null>(null);
  const load = useCallback(async () => {
    const r = await fetch(`/api/titles/${session.id}/outlets`).catch(() => null);
    if (!r?.ok) return;
    const text = await r.text();
    setLoaded((now) => (now?.text === text ? now : { text, value: JSON.parse(text) as Loaded }));
  }, [session.id]);
  useEffect(() => {
    void load();
    const timer = setInterval(() => void load(), EVERY);
    return () => clearInterval(timer);
  }, [load]);
  return { loaded: loaded?.value ?? null, load };
}

/** An outlet beside the title: what it would be told of the edition that is meant for it. */
export interface Beside {
  outlet: Outlet;
  /** Editions that it sells. */
  editions: readonly Edition[];
  edition: Edition | null;
  facts: Facts | null;
  demands: readonly Demand[];
  listing: Listing | null;
  /** Whether it is reached by its connection; else it is filled in by hand. */
  connected: boolean;
}

export function useBeside(loaded: Loaded | null): Beside[] {
  const { book, revision, products, listings, imprint } = useBook();
  const accounts = loaded?.accounts;
  return useMemo(
    () =>
      outletsOf(imprint).map((outlet): Beside => {
        const editions = editionsFor(outlet, book);
        const edition = editionAt(outlet, book);
        const account = accounts?.[outlet.id] ?? null;
        const connected = outlet.reached === 'connection' && account?.connected === true;
        const none = { facts: null, demands: [], listing: null };
        if (!edition) return { outlet, editions, edition, connected, ...none };
        const listing = listings.find((l) => l.outlet === outlet.id && l.edition === edition.id) ?? null;
        const live = listing?.link ? listing.listed : null;
        const facts = factsOf({ outlet, book, edition, revision, files: products, account, imprint, live });
        return { outlet, editions, edition, facts, demands: demandsOf(outlet, facts), listing, connected };
      }),
    [book, revision, products, listings, imprint, accounts],
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

export const STATE_COLOUR: Readonly<Record<string, string>> = {
  'on sale': 'text-spruce',
  'pre-order': 'text-spruce',
  held: 'text-rubric',
};

/** In a word. */
export function standsAt(listing: Listing | null, placing: Placing, connected: boolean): string {
  if (connected) return listing?.state ?? (placing.chosen ? 'not sent' : '–');
  if (!placing.chosen) return '–';
  return placing.state === 'waiting' ? 'not entered' : placing.state;
}
