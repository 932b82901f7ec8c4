'use client';
/** The other titles, and what links this one with them both ways. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { namedAs, type Relation } from '@pagina/core/record';
import type { Relative } from '@pagina/data';
import { useTitle } from '@/title/context';
import { useRecord } from './useRecord';

export interface Relatives {
  /** Null until they are known. */
  all: readonly Relative[] | null;
  /** Names titles here, and this one in them; null removes both. */
  relate: (others: readonly Relative[], relation: Relation | null) => Promise<void>;
  /** Names this title in another as it is named here, or there no longer. */
  tellThere: (other: string, relation: Relation | null) => Promise<void>;
}

export function useRelatives(): Relatives {
  const { session } = useTitle();
  const { record, set } = useRecord();
  const [all, setAll] = useState<readonly Relative[] | null>(null);
  const address = `/api/titles/${session.id}/related`;
  const load = useCallback(async () => {
    const r = await fetch(address).catch(() => null);
    if (r?.ok) setAll(((await r.json()) as { titles: Relative[] }).titles);
  }, [address]);
  useEffect(() => {
    void load();
  }, [load]);
  const tell = async (others: readonly { title: string; relation: Relation | null }[]): Promise<void> => {
    await session.flush();
    const r = await fetch(address, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ others }),
    }).catch(() => null);
    if (!r?.ok) toast('Pagina can’t be reached. The other titles don’t name this one yet.');
    await load();
  };
  const relate: Relatives['relate'] = async (others, relation) => {
    const rest = record.related.filter((r) => !others.some((o) => o.id === r.title));
    const fresh = relation
      ? others.map((o) => [record.related.findIndex((r) => r.title === o.id), namedAs(o, relation)] as const)
      : [];
    const kept = fresh.filter(([at]) => at >= 0);
    const related =
      kept.length > 0
        ? record.related.map((r) => kept.find(([, e]) => e.title === r.title)?.[1] ?? r)
        : [...rest, ...fresh.map(([, e]) => e)];
    set({ related }, relation ? 'Change the related titles' : 'Remove a related title');
    await tell(others.map((o) => ({ title: o.id, relation })));
  };
  return { all, relate, tellThere: (title, relation) => tell([{ title, relation }]) };
}
