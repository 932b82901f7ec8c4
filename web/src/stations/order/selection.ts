'use client';
/** Which sections are chosen in the ledger: one or many, by pointer and by keyboard. */
import { useCallback, useMemo, useState } from 'react';

export interface Selection {
  chosen: ReadonlySet<string>;
  /** The row that arrows move from. */
  at: string | null;
  /** Chooses one row; `extend` all from the last single choice to it, `add` it besides the others, or no longer. */
  choose: (id: string, how?: 'only' | 'extend' | 'add') => void;
  chooseAll: () => void;
  /** Chosen sections in the book's order. */
  ids: readonly string[];
}

export function useSelection(order: readonly string[]): Selection {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState<string | null>(null);
  const [anchor, setAnchor] = useState<string | null>(null);
  const choose = useCallback(
    (id: string, how: 'only' | 'extend' | 'add' = 'only') => {
      setAt(id);
      if (how === 'extend' && anchor !== null && order.includes(anchor)) {
        const [a, b] = [order.indexOf(anchor), order.indexOf(id)].sort((x, y) => x - y) as [number, number];
        return setChosen(new Set(order.slice(a, b + 1)));
      }
      setAnchor(id);
      if (how !== 'add') return setChosen(new Set([id]));
      setChosen((old) => {
        const next = new Set(old);
        if (!next.delete(id)) next.add(id);
        return next;
      });
    },
    [anchor, order],
  );
  const chooseAll = useCallback(() => setChosen(new Set(order)), [order]);
  return useMemo(
    () => ({ chosen, at, choose, chooseAll, ids: order.filter((id) => chosen.has(id)) }),
    [chosen, at, choose, chooseAll, order],
  );
}
