'use client';
import Link from 'next/link';
import { useBook, useFindings, useTitle } from './context';
import { STATIONS, viewOf } from './stations';

/** The next useful thing to do, in one line that leads there. */
export function NextThing() {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const findings = useFindings();
  const first =
    findings.find((f) => f.severity === 'blocker') ?? findings.find((f) => f.severity === 'caution');
  const same = findings.filter((f) => f.rule === first?.rule).length;
  const waits = first ? (STATIONS.find((s) => s.waits(first))?.key ?? 'manuscript') : 'proof';
  const station = first && waits === 'manuscript' ? viewOf(book, first.place?.section) : waits;
  const words = !first
    ? 'No findings. Read the proof, then make the editions.'
    : same > 1
      ? `${first.message} (and ${same - 1} more like this)`
      : first.message;
  return (
    <Link
      href={`/titles/${session.id}/${station}`}
      className="min-w-0 truncate underline decoration-rule underline-offset-4 hover:text-ink hover:decoration-current"
      onClick={() => first?.place && goTo(first.place)}
    >
      {words}
    </Link>
  );
}
