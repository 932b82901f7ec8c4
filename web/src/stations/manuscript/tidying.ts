'use client';
/** What the tidying rules would change in the open book, section by section as it changes, without what was dismissed. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { styleFor, tidyFields, tidyReferences, tidySection, type TidyItem } from '@pagina/core/tidy';
import type { Section } from '@pagina/core/book';
import { useBook } from '@/title/context';

const known = new WeakMap<Section['content'], { style: string; section: string; items: TidyItem[] }>();

function itemsOf(section: Section, language: string): TidyItem[] {
  const style = styleFor(language);
  const before = known.get(section.content);
  if (before && before.style === style.name && before.section === section.id) return before.items;
  const items = tidySection(section, style);
  known.set(section.content, { style: style.name, section: section.id, items });
  return items;
}

/** How long typing must rest before the list is made again, in milliseconds. */
const REST = 400;

export interface Tidying {
  items: TidyItem[];
  /** Null while the dismissals are fetched. */
  dismissed: ReadonlySet<string> | null;
  dismiss: (keys: string[], again?: boolean) => Promise<void>;
}

export function useTidying(title: string, open: boolean): Tidying {
  const { book } = useBook();
  const [dismissed, setDismissed] = useState<ReadonlySet<string> | null>(null);
  const [seen, setSeen] = useState(book);
  useEffect(() => {
    const timer = setTimeout(() => setSeen(book), REST);
    return () => clearTimeout(timer);
  }, [book]);
  useEffect(() => {
    if (!open || dismissed) return;
    let gone = false;
    void fetch(`/api/titles/${title}/dismissals`)
      .then((r) => r.json() as Promise<{ keys: string[] }>)
      .then(({ keys }) => {
        if (!gone) setDismissed(new Set(keys));
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [open, dismissed, title]);
  const items = useMemo(() => {
    if (!open || !dismissed) return [];
    const fields = tidyFields(seen, styleFor(seen.record.language));
    const items = seen.sections.flatMap((s) => itemsOf(s, seen.record.language));
    return [...items, ...fields, ...tidyReferences(seen)].filter((i) => !dismissed.has(i.key));
  }, [open, dismissed, seen]);
  const dismiss = useCallback(
    async (keys: string[], again = false): Promise<void> => {
      const r = await fetch(`/api/titles/${title}/dismissals`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ keys, again }),
      });
      if (r.ok) setDismissed(new Set(((await r.json()) as { keys: string[] }).keys));
    },
    [title],
  );
  return { items, dismissed, dismiss };
}
