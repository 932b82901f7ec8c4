'use client';
/** People who are named in any title. */
import { useCallback, useEffect, useState } from 'react';
import type { Person } from '@pagina/data';
import { useBook } from '@/title/context';

export function usePeople(): { people: readonly Person[]; load: () => Promise<void> } {
  const [people, setPeople] = useState<readonly Person[]>([]);
  const { saving } = useBook();
  const load = useCallback(async () => {
    const r = await fetch('/api/people').catch(() => null);
    if (r?.ok) setPeople(((await r.json()) as { people: Person[] }).people);
  }, []);
  // Once more when what was typed here has been kept.
  useEffect(() => {
    if (saving.state === 'saved') void load();
  }, [load, saving.state]);
  return { people, load };
}
