'use client';
/** Find and replace over the whole book: what is found is shown with what would stand there, before anything is done. */
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { toast } from 'sonner';
import { headingsOf } from '@pagina/core/order';
import {
  changeOfEdits,
  MOST_FOUND,
  PLACES,
  type FindPlace,
  type TextQuery,
  type TextEdit,
  firstWords,
  lastWords,
} from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { choicesOf, Select } from '@/ui/Select';
import { input } from '@/ui/Field';
import { useFinding } from './finding';
import { showNothing, showStretch } from './highlight';

const SHOWN = 200;
const NOTHING: TextQuery = {
  find: '',
  by: '',
  matchCase: false,
  wholeWords: false,
  pattern: false,
  place: 'everywhere',
};

export function Find({
  sought = '',
  onClose,
}: {
  /** A word to begin with, gone to as soon as it is found. */
  sought?: string;
  onClose: () => void;
}) {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const [query, setQuery] = useState<TextQuery>({ ...NOTHING, find: sought, wholeWords: sought !== '' });
  const [at, setAt] = useState(-1);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.focus();
    return showNothing;
  }, []);
  const { found, whole, fault } = useFinding(book, query);
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const sections = new Set(found.map((e) => e.section)).size;
  const set = (more: Partial<TextQuery>): void => {
    setQuery({ ...query, ...more });
    setAt(-1);
  };
  const go = (by: 1 | -1): void => {
    if (found.length === 0) return;
    const next = (at + by + found.length) % found.length;
    show(next);
  };
  const show = (index: number): void => {
    const e = found[index];
    if (!e) return;
    setAt(index);
    if (e.section === '') return;
    goTo(e.field ? { section: e.section } : { section: e.section, block: e.block });
    if (!e.field) showStretch(e.block, e.from, e.to);
  };
  const first = useRef(sought !== '');
  useEffect(() => {
    if (!first.current || found.length === 0) return;
    first.current = false;
    show(0);
  });
  const replace = async (edits: readonly TextEdit[]): Promise<void> => {
    await session.flush();
    const what = query.by === '' ? 'Delete' : 'Replace';
    const label = `${what} “${query.find}”${edits.length === 1 ? '' : ' everywhere'}`;
    const done = await session.change((b) => changeOfEdits(b, edits, label));
    if (!done) return void toast('The text has changed since; the list has been updated.');
    if (edits.length > 1)
      toast(`${edits.length.toLocaleString('en-GB')} places ${query.by === '' ? 'deleted' : 'replaced'}.`, {
        action: { label: 'Undo', onClick: () => void session.undo() },
      });
  };
  const keys = (e: KeyboardEvent): void => {
    if (e.key === 'Enter' && e.target === field.current) {
      e.preventDefault();
      go(e.shiftKey ? -1 : 1);
    }
  };
  return (
    <Aside
      title="Find and replace"
      onClose={onClose}
      head={
        <div className="space-y-2 pt-2" onKeyDown={keys}>
          <label className="block">
            <span className="column-head mb-1 block">Find</span>
            <input
              ref={field}
              className={input}
              value={query.find}
              onChange={(e) => set({ find: e.target.value })}
            />
          </label>
          <label className="block">
            <span className="column-head mb-1 block">Replace with</span>
            <input className={input} value={query.by} onChange={(e) => set({ by: e.target.value })} />
          </label>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            {(
              [
                ['matchCase', 'Match case'],
                ['wholeWords', 'Whole words'],
                ['pattern', 'Regular expression'],
              ] as const
            ).map(([key, words]) => (
              <Checkbox key={key} label={words} on={query[key]} onSet={(on) => set({ [key]: on })} />
            ))}
            <span className="inline-flex items-center gap-1.5">
              <span className="text-ink-soft">in</span>
              <Select
                label="Where to look"
                className="h-7"
                value={query.place}
                choices={choicesOf<FindPlace>(PLACES)}
                onChoose={(place) => set({ place })}
              />
            </span>
          </div>
          <p role="status" className={fault ? 'text-rubric' : 'text-ink-soft'}>
            {fault ?? (whole ? told(query, found.length, sections) : 'Searching …')}
          </p>
          <div className="flex gap-1">
            <Button className="h-7" disabled={found.length === 0} onClick={() => go(-1)}>
              Previous
            </Button>
            <Button
              kind={query.by === '' ? 'primary' : 'plain'}
              className="h-7"
              disabled={found.length === 0}
              onClick={() => go(1)}
            >
              Next
            </Button>
            <Button
              kind={query.by === '' ? 'plain' : 'primary'}
              className="h-7"
              disabled={found.length === 0}
              onClick={() => void replace(found)}
            >
              Replace all
            </Button>
          </div>
        </div>
      }
    >
      <ol aria-label="Found">
        {found.slice(0, SHOWN).map((e, i) => (
          <li key={`${e.section} ${e.field ?? e.block} ${e.from}`} data-found>
            {i > 0 && found[i - 1]?.section === e.section ? null : (
              <p className="column-head border-t border-rule px-4 pt-2">
                {e.section === '' ? 'Record' : headings.get(e.section)?.label}
              </p>
            )}
            <div className={`flex items-center gap-1 py-0.5 pr-3 pl-4 ${i === at ? 'bg-table' : ''}`}>
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left font-serif text-[14px] hover:text-spruce"
                onClick={() => show(i)}
              >
                <span className="text-ink-soft">{lastWords(e.before, 16)}</span>
                <del className={`text-rubric ${e.by === '' ? 'no-underline' : ''}`}>{e.was}</del>
                {e.by === '' ? null : <ins className="ml-1 text-spruce no-underline">{e.by}</ins>}
                <span className="text-ink-soft">{firstWords(e.after, 24)}</span>
              </button>
              <Button kind="quiet" className="h-7 px-2" onClick={() => void replace([e])}>
                Replace
              </Button>
            </div>
          </li>
        ))}
        {found.length > SHOWN ? (
          <li className="px-4 py-2 text-ink-soft">The first {SHOWN} are shown.</li>
        ) : null}
      </ol>
    </Aside>
  );
}

function told({ find, by }: TextQuery, count: number, sections: number): string {
  if (find === '') return 'Type what to find. Enter goes to the next match, Shift+Enter to the previous one.';
  if (count === 0) return 'Not found in the book.';
  const more = count >= MOST_FOUND ? 'More than ' : '';
  const where = `${sections} ${sections === 1 ? 'section' : 'sections'}`;
  const places = `${more}${count.toLocaleString('en-GB')} ${count === 1 ? 'place' : 'places'} in ${where}`;
  return by === '' ? `${places}. Replaced with nothing, they are deleted.` : places;
}
