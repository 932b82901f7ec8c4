'use client';
/** The imprint's own settings, which belong to no title. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Account, Imprint, ImprintChange } from '@pagina/core/outlets';

export interface ImprintLoaded {
  imprint: Imprint;
  accounts: Record<string, Account>;
  /** Where the simulated outlets' own page is. */
  desk: string;
}

export function useImprint(): {
  loaded: ImprintLoaded | null;
  trouble: string | null;
  load: () => Promise<void>;
  /** Answers whether it was kept. */
  change: (change: ImprintChange) => Promise<boolean>;
} {
  const [loaded, setLoaded] = useState<ImprintLoaded | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const load = useCallback(async () => {
    const r = await fetch('/api/imprint').catch(() => null);
    if (r?.ok) setLoaded((await r.json()) as ImprintLoaded);
    setTrouble(r?.ok ? null : 'Pagina can’t be reached. Is it running?');
  }, []);
  useEffect(() => {
    void load();
  }, [load]);
  const change = useCallback(async (c: ImprintChange) => {
    const r = await fetch('/api/imprint', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(c),
    }).catch(() => null);
    if (!r) {
      toast('Pagina can’t be reached. Nothing was changed.');
      return false;
    }
    const answer = (await r.json()) as { imprint?: Imprint; message?: string };
    if (answer.imprint) setLoaded((now) => now && { ...now, imprint: answer.imprint as Imprint });
    else toast(answer.message ?? 'Nothing was changed.');
    return r.ok;
  }, []);
  return { loaded, trouble, load, change };
}
