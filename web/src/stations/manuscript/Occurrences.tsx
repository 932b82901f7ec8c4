'use client';
/** Adds every occurrence of some words to the index, or those of them that are meant. */
import { useDeferredValue, useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { Book } from '@pagina/core/book';
import { changeOfEdits, firstWords, lastWords, occurrences, type TextEdit } from '@pagina/core/tidy';
import { useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { input } from '@/ui/Field';
import { ScrollArea } from '@/ui/ScrollArea';
import { showStretch } from './highlight';

/** More than so many cannot be looked through. */
const SHOWN = 200;
const keyOf = (e: TextEdit): string => `${e.section} ${e.block} ${e.from}`;

export function Occurrences({ book, onDone }: { book: Book; onDone: () => void }) {
  const { session, goTo } = useTitle();
  const [sought, setSought] = useState({ find: '', matchCase: false, wholeWords: true });
  const [entry, setEntry] = useState('');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const asked = useDeferredValue(sought);
  const term = entry.trim() || sought.find.trim();
  const late = useDeferredValue(term);
  const found = useMemo(() => {
    const r =
      asked.find.trim() === '' ? null : occurrences(book, { ...asked, find: asked.find.trim() }, late);
    return r?.ok ? r.value : [];
  }, [book, asked, late]);
  const meant = found.filter((e) => !left.has(keyOf(e)));
  const mark = async (): Promise<void> => {
    await session.flush();
    const done = await session.change((b) => changeOfEdits(b, meant, `Add “${term}” to the index`));
    if (!done) return void toast('The text has changed since; the list has been updated.');
    toast(
      `${meant.length.toLocaleString('en-GB')} ${meant.length === 1 ? 'place' : 'places'} added to the index.`,
      {
        action: { label: 'Undo', onClick: () => void session.undo() },
      },
    );
    onDone();
  };
  return (
    <form
      aria-label="Add occurrences to the index"
      className="space-y-2 pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (meant.length > 0) void mark();
      }}
    >
      <label className="block">
        <span className="column-head mb-1 block">Words to look for</span>
        <input
          autoFocus
          className={input}
          value={sought.find}
          onChange={(e) => {
            setSought({ ...sought, find: e.target.value });
            setLeft(new Set());
          }}
        />
      </label>
      <label className="block">
        <span className="column-head mb-1 block">Entry</span>
        <input
          className={input}
          value={entry}
          placeholder={sought.find.trim() || 'tides: neap'}
          onChange={(e) => setEntry(e.target.value)}
        />
      </label>
      <div className="flex gap-4">
        <Checkbox
          label="Match case"
          on={sought.matchCase}
          onSet={(matchCase) => setSought({ ...sought, matchCase })}
        />
        <Checkbox
          label="Whole words"
          on={sought.wholeWords}
          onSet={(wholeWords) => setSought({ ...sought, wholeWords })}
        />
      </div>
      {asked.find.trim() === '' ? null : (
        <>
          <p role="status" className="text-[13px] text-ink-soft">
            {found.length === 0
              ? 'Nothing that isn’t in the index already.'
              : `${found.length.toLocaleString('en-GB')} not in the index yet${found.length > SHOWN ? `; the first ${SHOWN} are shown` : ''}.`}
          </p>
          <ScrollArea label="Occurrences" className="max-h-56">
            <ul>
              {found.slice(0, SHOWN).map((e) => (
                <li key={keyOf(e)} className="flex min-h-7 items-center gap-2">
                  <Checkbox
                    label={<span className="sr-only">{`${e.before}${e.was}${e.after}`}</span>}
                    on={!left.has(keyOf(e))}
                    onSet={(on) => {
                      const next = new Set(left);
                      if (on) next.delete(keyOf(e));
                      else next.add(keyOf(e));
                      setLeft(next);
                    }}
                  />
                  <button
                    type="button"
                    className="min-h-6 min-w-0 flex-1 truncate text-left font-serif text-[14px] hover:text-spruce"
                    onClick={() => {
                      goTo({ section: e.section, block: e.block });
                      showStretch(e.block, e.from, e.to);
                    }}
                  >
                    <span className="text-ink-soft">{lastWords(e.before, 20)}</span>
                    {e.was}
                    <span className="text-ink-soft">{firstWords(e.after, 24)}</span>
                  </button>
                </li>
              ))}
            </ul>
          </ScrollArea>
        </>
      )}
      <Button kind="primary" type="submit" className="h-7" disabled={meant.length === 0}>
        {meant.length === 1 ? 'Add this place' : `Add these ${meant.length.toLocaleString('en-GB')} places`}
      </Button>
    </form>
  );
}
