'use client';
/** How far the proof is read, what has changed since an earlier file, and the sign-off. */
import { format } from 'date-fns';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { compareLines, type Comparison } from '@pagina/core/book';
import { linesMoved, type Impression, type Match, type Viewed } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Compared } from '@/ui/Compared';
import { Progress } from '@/ui/Progress';
import { Select } from '@/ui/Select';
import { stretchesOf, summaryOf, type Stretch } from './changes';
import { SignOffPart } from './SignOffPart';
import type { Changes } from './useChanges';
import type { Proofing } from './useProofing';

const HOW: Record<Stretch['how'], string> = {
  changed: 'changed',
  moved: 'moved',
  added: 'new',
  removed: 'gone',
};
/** Lines that are listed; a book in which more have moved is read again anyway. */
const MOST_LINES = 200;

/** What another version of the typesetting set otherwise. */
function NewerEngine({ before, now }: { before: Impression; now: Impression }) {
  const lines = useMemo(() => linesMoved(before, now), [before, now]);
  return (
    <div className="text-[13px]">
      <p className="text-ochre">
        Version {before.engine} of the typesetting engine set the file; version {now.engine} set these pages.
      </p>
      <Collapsible
        heading={lines.length === 1 ? '1 line moved' : `${lines.length.toLocaleString('en-GB')} lines moved`}
      >
        <ul aria-label="Lines that moved" className="space-y-1.5 pb-1">
          {lines.slice(0, MOST_LINES).map((l, i) => (
            <li key={i}>
              {l.before ? (
                <span className="block">
                  <span className="text-ink-soft">{l.from} before:</span>{' '}
                  <span className="font-serif">{l.before}</span>
                </span>
              ) : null}
              {l.now ? (
                <span className="block">
                  <span className="text-ink-soft">{l.to} now:</span>{' '}
                  <span className="font-serif">{l.now}</span>
                </span>
              ) : null}
            </li>
          ))}
          {lines.length > MOST_LINES ? (
            <li className="text-ink-soft">and {(lines.length - MOST_LINES).toLocaleString('en-GB')} more</li>
          ) : null}
        </ul>
      </Collapsible>
    </div>
  );
}

/** What of a document’s words is different. */
function wordsOf(m: Match | undefined, before: Impression, now: Impression): Comparison {
  const lines = (of: Impression, n: number | null | undefined) =>
    (of.views[n ?? -1]?.words ?? []).map((text) => ({ text, id: '' }));
  return compareLines(lines(before, m?.before), lines(now, m?.now));
}

export const fileName = (p: Product): string =>
  `${p.signedOffAt !== null ? 'Signed off' : 'Made'} ${format(p.signedOffAt ?? p.madeAt, 'd MMM, HH:mm')}`;

export function ReadingPane({
  what,
  edition,
  proofing,
  now,
  setting = null,
  changes: { files, compared, compare, before, matches },
  here,
  onGo,
  onClose,
}: {
  what: Viewed;
  edition: { id: string; name: string };
  proofing: Proofing;
  /** What is to be read. */
  now: Impression | null;
  /** What the typesetting came to, in words. */
  setting?: string | null;
  changes: Changes;
  /** Views that are shown. */
  here: readonly number[];
  onGo: (match: Match) => void;
  onClose: () => void;
}) {
  const { read } = proofing;
  const unread = now?.views.flatMap((v, i) => (read.has(v.mark) ? [] : [i])) ?? [];
  const done = (now?.views.length ?? 0) - unread.length;
  const mark = async (views: readonly number[], said: string): Promise<void> => {
    const marks = views.flatMap((i) => now?.views[i]?.mark ?? []);
    await proofing.mark(marks, true);
    toast(said, { action: { label: 'Undo', onClick: () => void proofing.mark(marks, false) } });
  };
  const plural = `${what}s`;
  const next = unread.find((i) => i > Math.max(-1, ...here)) ?? unread[0];
  const moved = (matches ?? []).flatMap((m) =>
    m.how === 'moved' && m.now !== null && unread.includes(m.now) ? [m.now] : [],
  );
  const stretches = matches && before && now ? stretchesOf(matches, before, now) : [];
  return (
    <Aside title="Reading and sign-off" onClose={onClose}>
      <section className="space-y-2 border-b border-rule px-4 py-3" aria-label="Progress">
        {now && proofing.known ? (
          <>
            <Progress
              stage={
                what === 'sheet'
                  ? done > 0
                    ? 'The sheet is marked as read'
                    : 'The sheet is unread'
                  : `${done.toLocaleString('en-GB')} of ${now.views.length.toLocaleString('en-GB')} ${plural} read`
              }
              share={now.views.length === 0 ? 1 : Math.floor((done / now.views.length) * 100) / 100}
            />
            <div className="flex flex-wrap gap-2" hidden={what === 'sheet'}>
              <Button
                className="h-7 px-2"
                disabled={next === undefined}
                onClick={() => next !== undefined && onGo({ how: 'same', before: null, now: next })}
              >
                Next unread {what}
              </Button>
              <Button
                className="h-7 px-2"
                disabled={unread.length === 0}
                onClick={() => void mark(unread, `All ${plural} marked as read.`)}
              >
                Mark all as read
              </Button>
            </div>
            {setting ? <p className="text-[13px] text-ink-soft">{setting}</p> : null}
          </>
        ) : (
          <p className="text-ink-soft">Reading the {plural} …</p>
        )}
      </section>
      <section className="space-y-2 border-b border-rule px-4 py-3" aria-label="Changes">
        <h3 className="column-head">Changes</h3>
        {files.length === 0 ? (
          <p className="text-[13px] text-ink-soft">
            {what === 'page' && setting !== null
              ? 'Make the file first. Pages that change afterwards are listed here.'
              : 'There’s no earlier file to compare with yet.'}
          </p>
        ) : (
          <Select
            label="Compared with"
            className="h-7 w-full"
            value={compared?.id ?? ''}
            choices={files.map((p) => ({ value: p.id, name: fileName(p) }))}
            onChoose={compare}
          />
        )}
        {matches && before && now ? (
          <p role="status">{summaryOf(matches, before, now, what)}</p>
        ) : compared ? (
          <p className="text-ink-soft">Comparing …</p>
        ) : null}
        {before && now && before.engine !== now.engine && stretches.length > 0 ? (
          <NewerEngine before={before} now={now} />
        ) : null}
        {moved.length > 0 ? (
          <Button
            className="h-7 px-2"
            tip={
              what === 'page'
                ? 'Their words and lines are the same; only the folio, the running head or the position has changed'
                : 'Their text is the same; only its styles have changed'
            }
            onClick={() =>
              void mark(moved, `${moved.length} ${moved.length === 1 ? what : plural} marked as read.`)
            }
          >
            Mark {moved.length.toLocaleString('en-GB')} {what === 'page' ? 'moved' : 'restyled'}{' '}
            {moved.length === 1 ? what : plural} as read
          </Button>
        ) : null}
        <ul aria-label="What changed" className="-mx-4">
          {stretches.map((s, i) => {
            const waits = s.matches.filter((m) => m.now !== null && unread.includes(m.now)).length;
            const open = s.matches.some((m) => m.now !== null && here.includes(m.now));
            return (
              <li key={i}>
                <button
                  type="button"
                  aria-current={open ? 'true' : undefined}
                  className={`flex w-full items-baseline gap-3 px-4 py-1 text-left ${open ? 'bg-table' : 'hover:text-spruce'}`}
                  onClick={() => s.matches[0] && onGo(s.matches[0])}
                >
                  <span className="min-w-14 tabular-nums">{s.label}</span>
                  <span className="text-ink-soft">{HOW[s.how]}</span>
                  {waits > 0 ? (
                    <span className="ml-auto text-[13px] text-ochre">
                      {waits === s.matches.length ? 'unread' : `${waits} unread`}
                    </span>
                  ) : null}
                </button>
                {what === 'section' && open && before && now ? (
                  <div className="px-4 pb-2">
                    <Compared comparison={wordsOf(s.matches[0], before, now)} />
                  </div>
                ) : null}
              </li>
            );
          })}
        </ul>
      </section>
      <SignOffPart
        what={what}
        edition={edition}
        proofing={proofing}
        unread={unread}
        onGo={(view) => onGo({ how: 'same', before: null, now: view })}
      />
    </Aside>
  );
}
