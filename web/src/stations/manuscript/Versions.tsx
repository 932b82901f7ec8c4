'use client';
/** Versions of the book: named ones and the ends of sittings; compared word by word, put back by section. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { format, isSameDay } from 'date-fns';
import { toast } from 'sonner';
import { inSentence } from '@pagina/core/base';
import { bookFromJson, compareTexts, emptyContent, type Book } from '@pagina/core/book';
import type { Outcome } from '@pagina/core/base';
import type { Change } from '@pagina/core/book';
import { headingsOf, putBookBack, putSectionBack, sameFacts, sectionsThenAndNow } from '@pagina/core/order';
import type { NamedVersion, Sitting } from '@pagina/data';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Compared, differenceOf } from '@/ui/Compared';
import { Button } from '@/ui/Button';
import { DayField } from '@/ui/DayField';
import { LineForm } from '@/ui/LineForm';
import { versionName } from '@/forms/lines';

interface Known {
  named: NamedVersion[];
  sittings: Sitting[];
}
interface Chosen {
  revision: number;
  name: string;
}

/** How long typing must rest before the list is fetched again, in milliseconds. */
const REST = 2_000;
const day = (at: number): string => format(at, 'd MMMM, HH:mm');

export function Versions({ onClose }: { onClose: () => void }) {
  const { session } = useTitle();
  const { revision } = useBook();
  const [known, setKnown] = useState<Known | null>(null);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [on, setOn] = useState<Date | null>(null);
  const address = `/api/titles/${session.id}/versions`;
  const load = useCallback(async () => {
    const r = await fetch(address);
    if (r.ok) setKnown((await r.json()) as Known);
  }, [address]);
  const rests = known === null ? 0 : REST;
  useEffect(() => {
    const timer = setTimeout(() => void load().catch(() => undefined), rests);
    return () => clearTimeout(timer);
  }, [load, revision, rests]);
  const keep = async (name: string): Promise<boolean> => {
    await session.flush();
    const r = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name }),
    });
    const answer = (await r.json()) as { message?: string };
    if (!r.ok) toast(answer.message ?? 'The version wasn’t saved.');
    else await load();
    return r.ok;
  };
  const forget = async (id: string): Promise<void> => {
    await fetch(`${address}?version=${id}`, { method: 'DELETE' });
    await load();
  };
  const sittings = (known?.sittings ?? []).filter((s) => !on || isSameDay(s.until, on));
  if (chosen)
    return (
      <OneVersion key={chosen.revision} chosen={chosen} onBack={() => setChosen(null)} onClose={onClose} />
    );
  return (
    <Aside
      title="Versions"
      onClose={onClose}
      note="Pagina keeps every change. Name the book as it is now, or look back at where earlier work ended."
    >
      <LineForm
        className="border-b border-rule px-4 py-2.5"
        label="Name of this version"
        schema={versionName}
        placeholder="As sent to the editor"
        maxLength={200}
        action="Name it"
        onSend={keep}
      />
      {known?.named.length ? <h3 className="column-head px-4 pt-3">Named</h3> : null}
      <ul>
        {known?.named.map((v) => (
          <li
            key={v.id}
            className="flex items-center gap-2 border-b border-rule py-1 pr-3 pl-4"
            data-version={v.name}
          >
            <button
              type="button"
              className="min-w-0 flex-1 truncate text-left hover:text-spruce"
              onClick={() => setChosen({ revision: v.revision, name: v.name })}
            >
              <span className="font-serif text-[15px]">{v.name}</span>{' '}
              <span className="text-[13px] text-ink-soft">{day(v.at)}</span>
            </button>
            <Button kind="quiet" className="h-7 px-2" onClick={() => void forget(v.id)}>
              Delete the name
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-3 px-4 pt-3 pb-1">
        <h3 className="column-head">Where work ended</h3>
        <span className="ml-auto" />
        {on ? (
          <Button kind="quiet" className="h-7 px-2" onClick={() => setOn(null)}>
            All days
          </Button>
        ) : null}
        <DayField
          label="Day to show"
          none="Any day"
          value={on}
          days={known?.sittings.map((s) => new Date(s.until)) ?? []}
          onChoose={setOn}
        />
      </div>
      <ul>
        {sittings.map((s) => (
          <li key={s.revision} className="border-b border-rule px-4 py-1.5" data-sitting={s.revision}>
            <button
              type="button"
              className="w-full text-left hover:text-spruce"
              onClick={() =>
                setChosen({
                  revision: s.revision,
                  name: s.revision === 0 ? 'At the beginning' : day(s.until),
                })
              }
            >
              <span>{s.revision === 0 ? `At the beginning, ${day(s.until)}` : day(s.until)}</span>
              {s.revision === 0 ? null : (
                <span className="block truncate text-[13px] text-ink-soft">
                  {s.changes.toLocaleString('en-GB')} {s.changes === 1 ? 'change' : 'changes'}
                  {s.actions.length > 0 ? `: ${s.actions.map(inSentence).join('; ')}` : ': typing only'}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </Aside>
  );
}

function OneVersion({
  chosen,
  onBack,
  onClose,
}: {
  chosen: Chosen;
  onBack: () => void;
  onClose: () => void;
}) {
  const { session } = useTitle();
  const [then, setThen] = useState<Book | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    void (async () => {
      await session.flush();
      const r = await fetch(`/api/titles/${session.id}/versions/${chosen.revision}`);
      const answer = (await r.json()) as { book: unknown; message?: string };
      const parsed = r.ok ? bookFromJson(answer.book) : null;
      if (parsed?.ok) setThen(parsed.value);
      else setTrouble(answer.message ?? 'This version can’t be read.');
    })().catch(() => setTrouble('Pagina can’t be reached just now.'));
  }, [session, chosen]);
  return (
    <Aside
      title={chosen.name}
      onClose={onClose}
      note="Added text is underlined; deleted text is struck out."
      tools={
        <>
          <Button kind="quiet" className="h-7" onClick={onBack}>
            All versions
          </Button>
          <Button
            className="h-7"
            disabled={!then}
            onClick={() =>
              then &&
              void session
                .change((b) => putBookBack(b, then))
                .then(
                  (ok) =>
                    ok &&
                    toast('The book hasn’t changed since then.', {
                      action: { label: 'Undo', onClick: () => void session.undo() },
                    }),
                )
            }
          >
            Restore this version
          </Button>
        </>
      }
    >
      {trouble ? <p className="px-4 py-3 text-rubric">{trouble}</p> : null}
      {!then && !trouble ? <p className="px-4 py-3 text-ink-soft">Loading the version …</p> : null}
      {then ? <Differences then={then} /> : null}
    </Aside>
  );
}

function Differences({ then }: { then: Book }) {
  const { session } = useTitle();
  const { book } = useBook();
  const [open, setOpen] = useState<string | null>(null);
  const rows = useMemo(() => {
    const nowNamed = headingsOf(book.sections, book);
    const thenNamed = headingsOf(then.sections, then);
    return sectionsThenAndNow(book, then)
      .map((s) => ({
        ...s,
        name: (nowNamed.get(s.id) ?? thenNamed.get(s.id))?.label ?? '',
        comparison: compareTexts(s.then?.content ?? emptyContent(''), s.now?.content ?? emptyContent('')),
      }))
      .filter((s) => !s.then || !s.now || s.comparison.paragraphs.length > 0 || !sameFacts(s.then, s.now));
  }, [book, then]);
  const back = (id: string): void =>
    void session.change((b) => {
      const r: Outcome<Change> = putSectionBack(b, then, id);
      if (r.ok) return r.value;
      toast(r.refusal.message);
      return null;
    });
  if (rows.length === 0) return <p className="px-4 py-3">All sections are the same as now.</p>;
  return (
    <ul>
      {rows.map((s) => (
        <li key={s.id} className="border-b border-rule px-4 py-1.5" data-differs={s.id}>
          <div className="flex items-center gap-2">
            <button
              type="button"
              aria-expanded={open === s.id}
              className="min-w-0 flex-1 truncate text-left hover:text-spruce"
              onClick={() => setOpen(open === s.id ? null : s.id)}
            >
              <span className="font-serif text-[15px]">{s.name}</span>{' '}
              <span className="text-[13px] text-ink-soft">
                {!s.then
                  ? 'added since'
                  : !s.now
                    ? 'deleted since'
                    : s.comparison.paragraphs.length > 0
                      ? differenceOf(s.comparison)
                      : 'title, kind or editions changed'}
              </span>
            </button>
            {s.then ? (
              <Button className="h-7 px-2" onClick={() => back(s.id)}>
                Restore
              </Button>
            ) : null}
          </div>
          {open === s.id ? (
            <div className="py-2">
              <Compared comparison={s.comparison} />
            </div>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
