'use client';
/** How this title's manuscript was read, and what the author has done about it. */
import { useCallback, useEffect, useState } from 'react';
import type { Arrival } from '@pagina/core/book';

export interface KeptArrival {
  arrival: Arrival;
  acceptedAt: number | null;
}

export function useArrival(title: string): {
  kept: KeptArrival | null;
  accept: () => Promise<void>;
  markBack: (index: number) => Promise<void>;
} {
  const [kept, setKept] = useState<KeptArrival | null>(null);
  useEffect(() => {
    let gone = false;
    void fetch(`/api/titles/${title}/arrival`)
      .then((r) => (r.ok ? r.json() : null))
      .then((k: KeptArrival | null) => {
        if (!gone) setKept(k);
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [title]);
  const patch = useCallback(
    async (body: object): Promise<void> => {
      const r = await fetch(`/api/titles/${title}/arrival`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (r.ok) setKept((await r.json()) as KeptArrival);
    },
    [title],
  );
  return {
    kept,
    accept: useCallback(() => patch({ accept: true }), [patch]),
    markBack: useCallback((index: number) => patch({ back: index }), [patch]),
  };
}
