'use client';
/** The frame of an open title: its name, the route of stations, the edition, what is saved; and the strip below. */
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useMemo, type ReactNode } from 'react';
import { format } from 'date-fns';
import { toast } from 'sonner';
import { Strip } from '@/strip/Strip';
import { Button } from '@/ui/controls';
import { useBook, useFindings, useTitle } from './context';
import { StrandedWords } from './StrandedWords';
import type { Finding } from '@pagina/core/base';

export const STATIONS: { key: string; name: string; waits: (f: Finding) => boolean }[] = [
  {
    key: 'order',
    name: 'Running order',
    waits: (f) =>
      /^book\/(no-title-page|no-copyright-page|empty-section|untitled-chapter|doubled-number)/.test(f.rule),
  },
  {
    key: 'manuscript',
    name: 'Manuscript',
    waits: (f) => /^(book\/(no-alt|placeholder)|type\/)/.test(f.rule),
  },
  { key: 'design', name: 'Design', waits: () => false },
  { key: 'proof', name: 'Proof', waits: () => false },
  { key: 'record', name: 'Record', waits: (f) => f.rule.startsWith('agree/') },
  { key: 'editions', name: 'Editions', waits: () => false },
  { key: 'outlets', name: 'Outlets', waits: () => false },
];

function Saved() {
  const { saving } = useBook();
  const words = {
    saved: `saved ${format(saving.at, 'HH:mm')}`,
    waiting: 'typing …',
    saving: 'saving …',
    offline: 'not saved: Pagina can’t be reached',
    refused: 'some words are not saved',
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

/** The next useful thing to do, in one line. */
function nextThing(findings: readonly Finding[]): string {
  const first =
    findings.find((f) => f.severity === 'blocker') ?? findings.find((f) => f.severity === 'caution');
  if (!first) return 'Nothing waits. Read the proof, then make the editions.';
  const same = findings.filter((f) => f.rule === first.rule).length;
  return same > 1 ? `${first.message} (and ${same - 1} more like it)` : first.message;
}

export function Shell({ id, children }: { id: string; children: ReactNode }) {
  const path = usePathname();
  const { session } = useTitle();
  const { book, edition } = useBook();
  const findings = useFindings();
  const waits = useMemo(() => STATIONS.map((s) => findings.filter(s.waits).length), [findings]);
  useEffect(() => {
    const key = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey) return;
      const back = e.key.toLowerCase() === 'z' && !e.shiftKey;
      const forth = (e.key.toLowerCase() === 'z' && e.shiftKey) || e.key.toLowerCase() === 'y';
      if (!back && !forth) return;
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
      e.preventDefault();
      void session
        .undo(forth)
        .then((label) =>
          toast(
            label === null
              ? `There is nothing to ${forth ? 'put back' : 'take back'}.`
              : `${forth ? 'Put back' : 'Taken back'}: ${label.toLowerCase()}.`,
            { duration: 1600 },
          ),
        );
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [session]);
  return (
    <div className="grid h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto]">
      <header className="no-print border-b border-rule">
        <div className="flex h-11 items-center gap-4 px-4">
          <Link href="/titles" className="font-serif text-[18px] hover:underline" title="All titles">
            Pagina
          </Link>
          <span className="max-w-72 truncate font-serif text-[18px] text-ink-soft" title={book.record.title}>
            {book.record.title || 'Untitled'}
          </span>
          <nav aria-label="Stations" className="flex self-stretch">
            {STATIONS.map((s, i) => {
              const here = path?.endsWith(`/${s.key}`);
              return (
                <Link
                  key={s.key}
                  href={`/titles/${id}/${s.key}`}
                  aria-current={here ? 'page' : undefined}
                  className={`flex items-center gap-1.5 border-b-2 px-3 ${here ? 'border-spruce text-ink' : 'border-transparent text-ink-soft hover:text-ink'}`}
                >
                  {s.name}
                  {waits[i] ? (
                    <span
                      className="text-[12px] text-rubric"
                      aria-label={waits[i] === 1 ? '1 finding' : `${waits[i]} findings`}
                    >
                      {waits[i]}
                    </span>
                  ) : null}
                </Link>
              );
            })}
          </nav>
          <span className="ml-auto" />
          <Saved />
          <Button kind="quiet" onClick={() => void session.undo()} title="Ctrl+Z">
            Undo
          </Button>
          <Button kind="quiet" onClick={() => void session.undo(true)} title="Ctrl+Shift+Z">
            Redo
          </Button>
          <label className="flex items-center gap-2">
            <span className="sr-only">Edition</span>
            <select
              className="h-8 rounded-[2px] border border-edge bg-sheet px-2"
              value={edition}
              onChange={(e) => session.chooseEdition(e.target.value)}
            >
              {book.editions.map((e) => (
                <option key={e.id} value={e.id}>
                  {e.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <p className="flex h-7 items-center border-t border-rule px-4 text-[13px] text-ink-soft">
          <span className="truncate">{nextThing(findings)}</span>
        </p>
      </header>
      <main className="flex min-h-0 flex-col overflow-hidden">
        <StrandedWords />
        <div className="min-h-0 flex-1 overflow-hidden">{children}</div>
      </main>
      <Strip />
    </div>
  );
}
