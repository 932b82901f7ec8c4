'use client';
/** Choices of editions that the author has kept for use in any title. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { choicesOfEdition, type Edition } from '@pagina/core/book';
import type { KeptEdition } from '@pagina/data';

/** Said to every list on the page when one of them has kept or removed something. */
const CHANGED = 'kept-editions';

export function useKeptEditions() {
  const [list, setList] = useState<readonly KeptEdition[]>([]);
  const read = useCallback(async () => {
    const r = await fetch('/api/editions');
    if (r.ok) setList((await r.json()) as KeptEdition[]);
  }, []);
  useEffect(() => {
    const again = (): void => void read().catch(() => undefined);
    again();
    window.addEventListener(CHANGED, again);
    return () => window.removeEventListener(CHANGED, again);
  }, [read]);
  return {
    list,
    async keep(name: string, edition: Edition): Promise<boolean> {
      const r = await fetch('/api/editions', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ name, choices: choicesOfEdition(edition) }),
      });
      if (!r.ok) {
        toast.error(((await r.json()) as { message: string }).message);
        return false;
      }
      toast(`Kept as “${name}”. You’ll find it under “Add an edition” in any title.`);
      window.dispatchEvent(new Event(CHANGED));
      return true;
    },
    async remove(name: string): Promise<void> {
      await fetch(`/api/editions?name=${encodeURIComponent(name)}`, { method: 'DELETE' });
      window.dispatchEvent(new Event(CHANGED));
    },
  };
}
