'use client';
/** The news of all outlets, and what falls due: read when one wants to, and never in the way. */
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { format, isToday } from 'date-fns';
import { OUTLETS } from '@pagina/core/outlets';
import type { NewsRow } from '@pagina/data';
import type { DueAt } from '@/server/due';
import { STATE_COLOUR } from '@/stations/outlets/useOutlets';
import { lookOfButton } from '@/ui/Button';
import { SheetPage } from '@/ui/SheetPage';

interface Loaded {
  news: NewsRow[];
  due: DueAt[];
}
const UNREACHABLE = 'Pagina can’t be reached. Is it running?';
const outletName = (id: string): string => OUTLETS.find((o) => o.id === id)?.name ?? id;
const dayOf = (at: number): string => (isToday(at) ? 'Today' : format(at, 'EEEE, d MMMM yyyy'));

/** Rows that came on one day, in the order in which they are. */
function byDay(news: readonly NewsRow[]): [day: string, rows: NewsRow[]][] {
  const days = new Map<string, NewsRow[]>();
  for (const n of news) days.set(dayOf(n.at), [...(days.get(dayOf(n.at)) ?? []), n]);
  return [...days];
}

export function NewsSheet() {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [seenAt, setSeenAt] = useState(0);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    void (async () => {
      const [r, i] = await Promise.all([fetch('/api/news'), fetch('/api/imprint')]);
      if (!r.ok || !i.ok) return setTrouble(UNREACHABLE);
      const found = (await r.json()) as Loaded;
      // What is new stays marked while the page is open.
      setSeenAt(((await i.json()) as { imprint: { seenAt: number } }).imprint.seenAt);
      setLoaded(found);
      const newest = found.news[0]?.at;
      if (newest !== undefined)
        await fetch('/api/imprint', {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ set: 'seen', at: newest }),
        });
    })().catch(() => setTrouble(UNREACHABLE));
  }, []);
  return (
    <SheetPage name="News" trouble={trouble}>
      {loaded ? (
        <div className="mx-auto grid max-w-[1080px] grid-cols-[1fr_360px] gap-x-12 px-6 py-6">
          <section aria-label="From the outlets">
            <h2 className="border-b border-rule pb-1 font-serif text-[18px]">From the outlets</h2>
            {loaded.news.length === 0 ? (
              <p className="mt-3 text-ink-soft">
                Nothing yet. Once you’ve sent a book, you’ll find here what its outlets say.
              </p>
            ) : null}
            {byDay(loaded.news).map(([day, rows]) => (
              <section key={day} aria-label={day} className="mt-4">
                <h3 className="column-head">{day}</h3>
                <ul>
                  {rows.map((n) => (
                    <li
                      key={n.id}
                      data-news={n.state}
                      className="grid grid-cols-[52px_150px_1fr] gap-x-3 border-b border-rule py-1.5"
                    >
                      <time className="text-[13px] text-ink-soft">{format(n.at, 'HH:mm')}</time>
                      <span className={`text-[13px] ${STATE_COLOUR[n.state] ?? ''}`}>
                        {n.state}
                        {n.at > seenAt ? <span className="text-ink-soft"> · new</span> : null}
                      </span>
                      <span>
                        <Link className="font-serif underline" href={`/titles/${n.title}/outlets`}>
                          {n.name || 'Untitled'}
                        </Link>{' '}
                        at {outletName(n.outlet)}
                        <span className="block text-[13px] text-ink-soft">{n.words}</span>
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            ))}
          </section>
          <section aria-label="Falling due">
            <h2 className="border-b border-rule pb-1 font-serif text-[18px]">Falling due</h2>
            {loaded.due.length === 0 ? (
              <p className="mt-3 text-ink-soft">
                Nothing. Days of publication, final files of pre-orders and reminders are listed here.
              </p>
            ) : (
              <ul>
                {loaded.due.map((d) => (
                  <li key={`${d.title} ${d.key}`} data-due={d.key} className="border-b border-rule py-1.5">
                    <span className="block text-[13px] text-ink-soft">
                      {format(new Date(`${d.day}T00:00`), 'd MMMM yyyy')}
                    </span>
                    <Link
                      className="hover:underline"
                      href={`/titles/${d.title}/${d.outlet ? 'outlets' : 'record'}`}
                    >
                      {d.words}
                    </Link>
                  </li>
                ))}
              </ul>
            )}
            <a className={lookOfButton('plain', 'mt-3')} href="/api/news/due.ics" download>
              Add to a calendar
            </a>
          </section>
        </div>
      ) : null}
    </SheetPage>
  );
}
