'use client';
/** The frame of an open title: its name, the route of stations, the edition, what is saved; and the strip below. */
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { format } from 'date-fns';
import { toast } from 'sonner';
import { Strip } from '@/strip/Strip';
import { Shelf } from '@/ui/Shelf';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Tip } from '@/ui/Tip';
import { useBook, useTitle } from './context';
import { useFindings } from './findings';
import { Palette } from './Palette';
import { Shortcuts } from './Shortcuts';
import { stationOf, STATIONS, waits } from './stations';
import { StrandedWords } from './StrandedWords';

function Saved() {
  const { saving } = useBook();
  const words = {
    saved: `Saved ${format(saving.at, 'HH:mm')}`,
    waiting: 'Typing …',
    saving: 'Saving …',
    offline: `Not saved: ${saving.why}`,
    refused: 'Some words are not saved',
  }[saving.state];
  return (
    <span
      role="status"
      className={`text-[13px] ${saving.state === 'offline' || saving.state === 'refused' ? 'text-rubric' : 'text-ink-soft'}`}
      data-saving={saving.state}
    >
      {words}
    </span>
  );
}

/** Whether a key was pressed where text is typed. */
const isTyping = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement &&
  (e.target.isContentEditable || /^(INPUT|TEXTAREA)$/.test(e.target.tagName));

export function Shell({ id, children }: { id: string; children: ReactNode }) {
  const path = usePathname();
  const { session } = useTitle();
  const { book, edition } = useBook();
  const findings = useFindings();
  const waiting = useMemo(() => {
    const at = findings.filter(waits).map(stationOf);
    return STATIONS.map((s) => at.filter((key) => key === s.key).length);
  }, [findings]);
  const [palette, setPalette] = useState(false);
  const [shortcuts, setShortcuts] = useState(false);
  const undo = useCallback(
    (redo: boolean): void =>
      void session
        .undo(redo)
        .then((label) =>
          toast(
            label === null
              ? `There is nothing to ${redo ? 'redo' : 'undo'}.`
              : `${redo ? 'Redone' : 'Undone'}: ${label.toLowerCase()}.`,
            { duration: 1600 },
          ),
        ),
    [session],
  );
  const showShortcuts = useCallback(() => setShortcuts(true), []);
  useEffect(() => {
    const key = (e: KeyboardEvent): void => {
      if ((e.ctrlKey || e.metaKey) && !e.altKey && !e.shiftKey && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        return setPalette(true);
      }
      if (e.key === '?' && !isTyping(e)) return setShortcuts(true);
      if (!(e.ctrlKey || e.metaKey) || e.altKey) return;
      const back = e.key.toLowerCase() === 'z' && !e.shiftKey;
      const forth = (e.key.toLowerCase() === 'z' && e.shiftKey) || e.key.toLowerCase() === 'y';
      if (!back && !forth) return;
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
      e.preventDefault();
      undo(forth);
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [undo]);
  return (
    <div className="flex h-dvh flex-col">
      <header className="no-print border-b border-rule">
        <div className="flex h-11 items-center gap-4 px-4 whitespace-nowrap max-[1199px]:gap-2">
          <Tip words="All titles">
            <Link href="/titles" className="font-serif text-[18px] hover:underline">
              Pagina
            </Link>
          </Tip>
          <Tip words={book.record.title}>
            <span className="max-w-72 min-w-0 truncate font-serif text-[18px] text-ink-soft">
              {book.record.title || 'Untitled'}
            </span>
          </Tip>
          <nav aria-label="Stations" className="flex self-stretch">
            {STATIONS.map((s, i) => {
              const here = [s.key, ...(s.views ?? [])].some((key) => path?.endsWith(`/${key}`));
              return (
                <Link
                  key={s.key}
                  href={`/titles/${id}/${s.key}`}
                  aria-current={here ? 'page' : undefined}
                  className={`flex items-center gap-1.5 border-b-2 px-3 max-[1199px]:px-2 ${here ? 'border-spruce text-ink' : 'border-transparent text-ink-soft hover:text-ink'}`}
                >
                  {s.name}
                  {waiting[i] ? (
                    <span
                      className="text-[12px] text-rubric"
                      aria-label={waiting[i] === 1 ? '1 finding' : `${waiting[i]} findings`}
                    >
                      {waiting[i]?.toLocaleString('en-GB')}
                    </span>
                  ) : null}
                </Link>
              );
            })}
          </nav>
          <span className="ml-auto" />
          <Saved />
          <Button kind="quiet" className="px-2" onClick={() => undo(false)} tip="Ctrl+Z">
            Undo
          </Button>
          <Button kind="quiet" className="px-2" onClick={() => undo(true)} tip="Ctrl+Shift+Z">
            Redo
          </Button>
          <Select
            label="Edition"
            value={edition}
            choices={book.editions.map((e) => ({ value: e.id, name: e.name }))}
            onChoose={(id) => session.chooseEdition(id)}
            className="max-w-40"
          />
        </div>
      </header>
      <Shelf below={<Strip />}>
        <main className="flex h-full flex-col overflow-hidden">
          <StrandedWords />
          <div className="min-h-0 flex-1 overflow-hidden">{children}</div>
        </main>
      </Shelf>
      <Palette open={palette} onOpenChange={setPalette} onShortcuts={showShortcuts} onUndo={undo} />
      <Shortcuts open={shortcuts} onOpenChange={setShortcuts} />
    </div>
  );
}
