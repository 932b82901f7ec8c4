'use client';
/** Goes to any document or view, and does any action, by typing a part of its name (Ctrl+K). */
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { Palette, type PaletteGroup } from '@/ui/Palette';
import { useEbook, useSnapshot } from './context';
import { VIEWS } from './views';

export function EbookPalette({
  open,
  onOpenChange,
  onShortcuts,
  onSave,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onShortcuts: () => void;
  onSave: () => void;
}) {
  const router = useRouter();
  const { session, goTo, undo } = useEbook();
  const { view } = useSnapshot();
  const groups = useMemo((): PaletteGroup[] => {
    const to = (key: string) => (): void => router.push(`/ebooks/${session.id}/${key}`);
    return [
      ['Views', VIEWS.map(([key, name]) => ({ key, name, run: to(key) }))],
      [
        'Actions',
        [
          { key: 'undo', name: 'Undo', hint: 'Ctrl+Z', run: () => undo(false) },
          { key: 'redo', name: 'Redo', hint: 'Ctrl+Shift+Z', run: () => undo(true) },
          { key: 'save', name: 'Save a copy', run: onSave },
          { key: 'keys', name: 'Keyboard shortcuts', hint: '?', run: onShortcuts },
          { key: 'titles', name: 'All titles', run: () => router.push('/titles') },
        ],
      ],
      [
        'Documents',
        view.documents.map((d) => ({
          key: d.path,
          name: d.label,
          hint: d.path,
          run: () => {
            goTo({ path: d.path, offset: null });
            to('documents')();
          },
        })),
      ],
    ];
  }, [router, session, view, goTo, undo, onShortcuts, onSave]);
  return (
    <Palette
      placeholder="A document, a view or an action"
      groups={groups}
      open={open}
      onOpenChange={onOpenChange}
    />
  );
}
