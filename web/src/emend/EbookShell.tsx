'use client';
/** The frame of an ebook that is open as it is: its name, the views, what is saved, and the strip below. */
import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useCallback, useEffect, useState, type ReactNode } from 'react';
import { format } from 'date-fns';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Shelf } from '@/ui/Shelf';
import { Tip } from '@/ui/Tip';
import { useEbook, useSnapshot } from './context';
import { DocumentStrip } from './DocumentStrip';
import { EbookPalette } from './EbookPalette';
import { SaveCopy } from './SaveCopy';
import { Strays } from './Strays';
import { VIEWS } from './views';

function SavedWords() {
  const { saving } = useSnapshot();
  const words =
    saving.state === 'saved'
      ? `Saved ${format(saving.at, 'HH:mm')}`
      : saving.state === 'typing'
        ? 'Typing …'
        : saving.state === 'saving'
          ? 'Saving …'
          : `Not saved: ${saving.why}`;
  return (
    <span
      role="status"
      data-saving={saving.state}
      className={`text-[13px] ${saving.state === 'offline' ? 'text-rubric' : 'text-ink-soft'}`}
    >
      {words}
    </span>
  );
}

const KEYS: [keys: string, what: string][] = [
  ['Ctrl+K', 'Go to a document or view'],
  ['Ctrl+Z', 'Undo'],
  ['Ctrl+Shift+Z or Ctrl+Y', 'Redo'],
  ['↑ ↓ in the page', 'The passage above or below'],
  ['Enter in the page', 'Open its source'],
  ['Alt+↑ ↓ in a source', 'The source of the passage above or below'],
  ['Ctrl+click on a link', 'Follow it'],
  ['Ctrl+F in a source', 'Find and replace'],
  ['Esc', 'Close the source'],
  ['← → in the strip', 'The document before or after'],
  ['Alt+← → in the strip', 'Move the document'],
  ['Delete in the strip', 'Remove the document'],
  ['?', 'Show this list'],
];

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA)$/.test(target.tagName));

export function EbookShell({ id, children }: { id: string; children: ReactNode }) {
  const path = usePathname();
  const router = useRouter();
  const { undo } = useEbook();
  const { view, findings } = useSnapshot();
  const [saving, setSaving] = useState(false);
  const [palette, setPalette] = useState(false);
  const [shortcuts, setShortcuts] = useState(false);
  const showShortcuts = useCallback(() => setShortcuts(true), []);
  const save = useCallback(() => setSaving(true), []);
  const serious = findings?.filter((f) => f.severity !== 'note').length ?? 0;
  useEffect(() => {
    const key = (e: globalThis.KeyboardEvent): void => {
      if (e.key === '?' && !isTyping(e.target)) return setShortcuts(true);
      if (!(e.ctrlKey || e.metaKey) || e.altKey) return;
      const letter = e.key.toLowerCase();
      if (letter === 'k' && !e.shiftKey) {
        e.preventDefault();
        return setPalette(true);
      }
      if ((letter !== 'z' && letter !== 'y') || isTyping(e.target)) return;
      e.preventDefault();
      undo(letter === 'y' || e.shiftKey);
    };
    addEventListener('keydown', key);
    return () => removeEventListener('keydown', key);
  }, [undo]);
  return (
    <div className="flex h-dvh flex-col">
      <header className="no-print border-b border-rule">
        <div className="flex h-11 items-center gap-3 px-4 whitespace-nowrap max-[1199px]:gap-2">
          <Tip words="All titles">
            <Link href="/titles" className="font-serif text-[18px] hover:underline">
              Pagina
            </Link>
          </Tip>
          <Tip words={`${view.name}: an EPUB${view.version ? ` ${view.version}` : ''}, as it is`}>
            <span className="max-w-56 min-w-0 truncate font-serif text-[18px] text-ink-soft">
              {view.title || view.name}
            </span>
          </Tip>
          <nav aria-label="Views" className="flex self-stretch">
            {VIEWS.map(([key, name]) => {
              const here = path?.endsWith(`/${key}`);
              return (
                <Link
                  key={key}
                  href={`/ebooks/${id}/${key}`}
                  aria-current={here ? 'page' : undefined}
                  className={`flex items-center gap-1.5 border-b-2 px-2.5 max-[1199px]:px-1.5 ${here ? 'border-spruce text-ink' : 'border-transparent text-ink-soft hover:text-ink'}`}
                >
                  {name}
                  {key === 'findings' && serious > 0 ? (
                    <span className="text-[12px] text-rubric">{serious}</span>
                  ) : null}
                </Link>
              );
            })}
          </nav>
          <span className="ml-auto" />
          <SavedWords />
          <Button
            kind="quiet"
            className="px-2"
            disabled={view.steps.undo === ''}
            onClick={() => undo(false)}
            tip={view.steps.undo ? `${view.steps.undo} (Ctrl+Z)` : undefined}
          >
            Undo
          </Button>
          <Button
            kind="quiet"
            className="px-2"
            disabled={view.steps.redo === ''}
            onClick={() => undo(true)}
            tip={view.steps.redo ? `${view.steps.redo} (Ctrl+Shift+Z)` : undefined}
          >
            Redo
          </Button>
          <Button kind="primary" onClick={save}>
            Save a copy
          </Button>
        </div>
      </header>
      <Shelf below={<DocumentStrip onFindings={() => router.push(`/ebooks/${id}/findings`)} />}>
        <main className="flex h-full flex-col overflow-hidden">
          <Strays />
          <div className="min-h-0 flex-1 overflow-hidden">{children}</div>
        </main>
      </Shelf>
      <SaveCopy open={saving} onOpenChange={setSaving} />
      <EbookPalette open={palette} onOpenChange={setPalette} onShortcuts={showShortcuts} onSave={save} />
      <Dialog title="Keyboard shortcuts" open={shortcuts} onOpenChange={setShortcuts}>
        <dl className="grid grid-cols-[220px_1fr] gap-y-1">
          {KEYS.map(([keys, what]) => (
            <div key={keys} className="contents">
              <dt className="text-ink-soft">{keys}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    </div>
  );
}
