'use client';
/** Designs that the author has saved for use in any title. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { KeptChoice, KeptDesign } from '@pagina/data';

export function useOwnDesigns() {
  const [list, setList] = useState<readonly KeptDesign[]>([]);
  const read = useCallback(async () => {
    const r = await fetch('/api/designs');
    if (r.ok) setList((await r.json()) as KeptDesign[]);
  }, []);
  useEffect(() => void read().catch(() => undefined), [read]);
  return {
    list,
    async save(name: string, choice: KeptChoice): Promise<boolean> {
      const r = await fetch('/api/designs', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ name, ...choice }),
      });
      if (!r.ok) {
        toast(((await r.json()) as { message: string }).message);
        return false;
      }
      toast(`Saved as “${name}”. You can use it in any title.`);
      await read();
      return true;
    },
    async remove(id: string): Promise<void> {
      await fetch(`/api/designs?id=${encodeURIComponent(id)}`, { method: 'DELETE' });
      await read();
    },
  };
}
