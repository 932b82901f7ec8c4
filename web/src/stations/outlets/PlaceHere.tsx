'use client';
/** Whether the title is placed at an outlet. */
import { placingAt } from '@pagina/core/book';
import type { Outlet } from '@pagina/core/outlets';
import { useBook } from '@/title/context';
import { Checkbox } from '@/ui/Checkbox';
import { usePlacing } from './useOutlets';

export function PlaceHere({ outlet, short }: { outlet: Outlet; short?: boolean }) {
  const { book } = useBook();
  const set = usePlacing(outlet.id);
  const { chosen } = placingAt(book, outlet.id);
  return (
    <Checkbox
      label={
        short ? (
          <span className="sr-only">{`Place this title at ${outlet.name}`}</span>
        ) : (
          `Place this title at ${outlet.name}`
        )
      }
      on={chosen}
      onSet={(on) => set({ chosen: on }, on ? `Place it at ${outlet.name}` : `Leave out ${outlet.name}`)}
    />
  );
}
