'use client';
/** Goes to any section, station or edition, and does any action, by typing a part of its name (Ctrl+K). */
import { inSentence } from '@pagina/core/base';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { Command } from 'cmdk';
import { kindRule } from '@pagina/core/book';
import { headingsOf } from '@pagina/core/order';
import { Dialog } from '@/ui/Dialog';
import { useBook, useTitle } from './context';
import { STATIONS, viewOf } from './stations';

interface Choice {
  key: string;
  name: string;
  hint?: string;
  run: () => void;
}

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
  const groups = useMemo((): [string, Choice[]][] => {
    const to = (station: string) => (): void => router.push(`/titles/${session.id}/${station}`);
    const headings = headingsOf(book.sections, book);
    return [
      ['Stations', STATIONS.map((s) => ({ key: s.key, name: s.name, run: to(s.key) }))],
      [
        'Actions',
        [
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
    <Dialog title="Go to or do" open={open} onOpenChange={onOpenChange} bare>
      <Command label="Go to or do" loop>
        <Command.Input
          placeholder="A section, a station or an action"
          className="h-11 w-full border-b border-rule bg-sheet px-4 outline-none focus-visible:outline-none placeholder:text-ink-soft"
        />
        <Command.List className="max-h-[50vh] overflow-auto py-1">
          <Command.Empty className="px-4 py-3 text-ink-soft">No matches.</Command.Empty>
          {groups.map(([heading, choices]) => (
            <Command.Group
              key={heading}
              heading={heading}
              className="[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:py-1"
            >
              {choices.map((c) => (
                <Command.Item
                  key={c.key}
                  value={`${c.name} ${c.key}`}
                  onSelect={() => {
                    onOpenChange(false);
                    c.run();
                  }}
                  className="flex h-8 cursor-default items-center gap-6 px-4 data-[selected=true]:bg-table data-[selected=true]:text-spruce"
                >
                  <span className="min-w-0 truncate">{c.name}</span>
                  {c.hint ? <span className="ml-auto text-[12px] text-ink-soft">{c.hint}</span> : null}
                </Command.Item>
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
