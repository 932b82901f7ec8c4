'use client';
/** The next useful thing to do, in one line that leads there, and the way to all that was found. */
import Link from 'next/link';
import type { Finding } from '@pagina/core/base';
import { useBook, useTitle } from './context';
import { useFound } from './findings';
import { stationOf, STATIONS, viewOfFinding, waits } from './stations';

const line =
  'min-w-0 truncate underline decoration-rule underline-offset-4 hover:text-ink hover:decoration-current';

/** What a shop would refuse first, then what waits at the earliest station of the route. */
function firstOf(open: readonly Finding[]): Finding | undefined {
  const blocker = open.find((f) => f.severity === 'blocker');
  if (blocker) return blocker;
  const cautions = open.filter((f) => f.severity === 'caution');
  for (const s of STATIONS) {
    const here = cautions.find((f) => stationOf(f) === s.key);
    if (here) return here;
  }
  return undefined;
}

export function NextThing() {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const { open, checking } = useFound();
  const first = firstOf(open);
  const same = open.filter((f) => f.rule === first?.rule).length;
  if (checking && !first) return <span>Checking the book …</span>;
  const to = (view: string): string => `/titles/${session.id}/${view}`;
  const words = !first
    ? 'The checks find nothing wrong. Read the proof, then make the editions.'
    : same > 1
      ? `${first.message} (and ${same - 1} more like this)`
      : first.message;
  const all = open.filter(waits).length;
  return (
    <>
      <Link
        href={to(first ? viewOfFinding(book, first) : 'proof')}
        className={line}
        onClick={() => first?.place && goTo(first.place)}
      >
        {words}
      </Link>
      <Link href={to('findings')} className={`${line} shrink-0`}>
        {all > 0 ? `All findings (${all.toLocaleString('en-GB')})` : 'All findings'}
      </Link>
    </>
  );
}
