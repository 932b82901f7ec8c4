'use client';
/** What an outlet said of a book beside what happened: files, contents, doubts, subjects, territories, shops. */
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Found as FoundThere, Outlet } from '@pagina/core/outlets';
import { territoryNames } from '@pagina/core/outlets';
import { subjectOf } from '@pagina/core/record';
import { useTitle } from '@/title/context';
import { Collapsible } from '@/ui/Collapsible';
import { STATE_COLOUR } from './useOutlets';

/** A code of Thema; else it’s a shelf of the outlet’s own. */
const isCode = (subject: string): boolean => /^[A-Z][A-Z0-9]*$/.test(subject);

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-ink-soft">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}

/** Territories by how they stand, those on sale first. */
function byState(territories: Readonly<Record<string, string>>): [state: string, codes: string[]][] {
  const groups = new Map<string, string[]>();
  for (const [code, state] of Object.entries(territories))
    groups.set(state, [...(groups.get(state) ?? []), code]);
  return [...groups].sort(([a], [b]) => Number(b === 'on sale') - Number(a === 'on sale'));
}

export function Found({ of, outlet }: { of: FoundThere; outlet: Outlet }) {
  const { session } = useTitle();
  const { files, contents, doubts, barriers, subjects, territories, shops, calls, assigned } = of;
  const nothing =
    [files, contents, doubts, barriers, subjects, shops, calls].every((l) => l.length === 0) &&
    Object.keys(territories).length === 0;
  if (nothing) return null;
  return (
    <section aria-label={`What ${outlet.name} found`} className="mt-2 text-[13px]">
      <dl className="grid grid-cols-[110px_1fr] gap-y-1">
        {files.length > 0 ? (
          <Row name="Files">{files.map((f) => `${f.part}: ${f.state}`).join('; ')}</Row>
        ) : null}
        {assigned ? <Row name="ISBN">{assigned}, assigned there</Row> : null}
        {subjects.length > 0 ? (
          <Row name="Listed under">
            {subjects.every(isCode)
              ? subjects.map((s) => `${s} ${subjectOf(s)?.name ?? ''}`.trim()).join('; ')
              : subjects.join(' › ')}
          </Row>
        ) : null}
        {byState(territories).map(([state, codes]) => (
          <Row
            key={state}
            name={state.startsWith('held') ? 'Held' : state === 'on sale' ? 'On sale' : 'Not yet'}
          >
            {territoryNames(codes)}
            {state.startsWith('held: ') ? `: ${state.slice(6)}` : ''}
          </Row>
        ))}
        {shops.map((s) => (
          <Row key={s.name} name={s.name}>
            <span className={STATE_COLOUR[s.state] ?? ''}>{s.state}</span>
            {s.words ? `. ${s.words}` : ''}
            {s.link ? <span className="block break-all text-ink-soft">{s.link}</span> : null}
          </Row>
        ))}
        {doubts.length > 0 ? (
          <Row name="Spelling">
            Unsure about{' '}
            {doubts.map((word, i) => (
              <span key={word}>
                {i === 0 ? '' : i === doubts.length - 1 ? ' and ' : ', '}
                <Link
                  className="underline"
                  href={`/titles/${session.id}/manuscript?find=${encodeURIComponent(word)}`}
                >
                  {word}
                </Link>
              </span>
            ))}
            . These may be right.
          </Row>
        ) : null}
        {barriers.length > 0 ? <Row name="Accessibility">{barriers.join(' ')}</Row> : null}
        {calls.length > 0 ? (
          <Row name="It also says">
            “{calls.join(' ')}”{outlet.cries ? ' It says so of every book, and there is nothing to do.' : ''}
          </Row>
        ) : null}
      </dl>
      {contents.length > 0 ? (
        <Collapsible
          heading={`The contents as it read them, ${contents.length === 1 ? '1 entry' : `${contents.length} entries`}`}
        >
          <ol className="space-y-0.5 pb-2 font-serif">
            {contents.map((c, i) => (
              <li key={i}>{c}</li>
            ))}
          </ol>
        </Collapsible>
      ) : null}
    </section>
  );
}
