'use client';
/** What is known of the numbers of the title's editions, and the next one of the imprint's block. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { inSentence } from '@pagina/core/base';
import type { Edition } from '@pagina/core/book';
import type { IsbnUse } from '@pagina/data';
import { useBook, useTitle } from '@/title/context';

export interface IsbnKnown {
  /** The outlet that has the edition under its number; null while none has. */
  fixedBy: string | null;
  /** Another edition that carries the same number. */
  other: IsbnUse | null;
}
interface Known {
  editions: Record<string, IsbnKnown>;
  block: number;
  free: number;
}

export function useIsbns(): { known: Known | null; next: (edition: Edition) => Promise<void> } {
  const { session } = useTitle();
  const { revision, listings } = useBook();
  const [known, setKnown] = useState<Known | null>(null);
  useEffect(() => {
    let gone = false;
    void fetch(`/api/titles/${session.id}/isbn`)
      .then(async (r) => (r.ok ? ((await r.json()) as Known) : null))
      .catch(() => null)
      .then((k) => !gone && k && setKnown(k));
    return () => {
      gone = true;
    };
  }, [session.id, revision, listings]);
  const next = useCallback(
    async (edition: Edition) => {
      await session.flush();
      const r = await fetch(`/api/titles/${session.id}/isbn`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ edition: edition.id }),
      }).catch(() => null);
      const answer = r && ((await r.json()) as { number?: string; message?: string });
      if (!answer?.number)
        return void toast(answer?.message ?? 'Pagina can’t be reached. Nothing was changed.');
      void session.change({
        type: 'group',
        label: `Give the ${inSentence(edition.name)} its ISBN`,
        changes: [{ type: 'set-edition', id: edition.id, fields: { isbn: answer.number } }],
      });
    },
    [session],
  );
  return { known, next };
}
