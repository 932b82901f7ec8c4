'use client';
/** Goes to any section, station or edition, and does any action, by typing a part of its name (Ctrl+K). */
import { inSentence } from '@pagina/core/base';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { kindRule } from '@pagina/core/book';
import { headingsOf } from '@pagina/core/order';
import { Palette as Commands, type PaletteGroup } from '@/ui/Palette';
import { useBook, useTitle } from './context';
import { STATIONS, viewOf } from './stations';

export function Palette({
  open,
  onOpenChange,
  onShortcuts,
  onUndo,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onShortcuts: () => void;
  onUndo: (redo: boolean) => void;
}) {
  const router = useRouter();
  const { session, goTo } = useTitle();
  const { book, edition } = useBook();
  const groups = useMemo((): PaletteGroup[] => {
    const to = (station: string) => (): void => router.push(`/titles/${session.id}/${station}`);
    const headings = headingsOf(book.sections, book);
    return [
      ['Stations', STATIONS.map((s) => ({ key: s.key, name: s.name, run: to(s.key) }))],
      [
        'Actions',
        [
          { key: 'findings', name: 'All findings', run: to('findings') },
          { key: 'undo', name: 'Undo', hint: 'Ctrl+Z', run: () => onUndo(false) },
          { key: 'redo', name: 'Redo', hint: 'Ctrl+Shift+Z', run: () => onUndo(true) },
          ...book.editions.map((e) => ({
            key: `make-${e.id}`,
            name: `Make the ${inSentence(e.name)}`,
            run: () => {
              void session.make(e.id);
              to('editions')();
            },
          })),
          { key: 'keys', name: 'Keyboard shortcuts', hint: '?', run: onShortcuts },
          { key: 'titles', name: 'All titles', run: () => router.push('/titles') },
        ],
      ],
      [
        'Editions',
        book.editions
          .filter((e) => e.id !== edition)
          .map((e) => ({
            key: `edition-${e.id}`,
            name: `Show the ${inSentence(e.name)}`,
            run: () => session.chooseEdition(e.id),
          })),
      ],
      [
        'Sections',
        book.sections.map((s) => ({
          key: `section-${s.id}`,
          name: headings.get(s.id)?.label || s.title || kindRule(s.kind).label,
          hint: kindRule(s.kind).label,
          run: () => {
            goTo({ section: s.id });
            to(viewOf(book, s.id))();
          },
        })),
      ],
    ];
  }, [book, edition, router, session, goTo, onShortcuts, onUndo]);
  return (
    <Commands
      placeholder="A section, a station or an action"
      groups={groups}
      open={open}
      onOpenChange={onOpenChange}
    />
  );
}
