'use client';
/** The intake sheet: the manuscript as it was read on one side, the rows it became on the other, joined by lines. */
import type { ReactElement } from 'react';
import { toast } from 'sonner';
import { depthOf, type Arrival, type Section } from '@pagina/core/book';
import { headingsOf, putBack, type Heading } from '@pagina/core/order';
import { authorsLine, withAuthors, type BookRecord } from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { Button } from '@/ui/Button';
import type { Reading } from '@/title/reading';
import { ReadingLine } from '@/ui/ReadingLine';
import { SeverityMark } from '@/ui/SeverityMark';
import { Text } from '@/ui/Text';
import { Account } from './Account';
import { useExample } from './example';
import { sureness, SheetRow } from './SheetRow';

export function IntakeSheet({
  arrival,
  accepted,
  onAccept,
  onBack,
  reading,
  onAgain,
}: {
  arrival: Arrival;
  accepted: boolean;
  onAccept: () => void;
  onBack: (index: number) => Promise<void>;
  /** While the manuscript is read again. */
  reading: Reading | null;
  /** Reads it again with tracked changes accepted or rejected. */
  onAgain: (changes: 'accept' | 'reject') => void;
}) {
  const { session } = useTitle();
  const { book } = useBook();
  const example = useExample(session, arrival);
  const headings = headingsOf(book.sections, book);
  const rows = new Map(arrival.rows.map((r) => [r.section, r]));
  const isDoubtful = (s: Section): boolean => {
    const r = rows.get(s.id);
    return r !== undefined && sureness(r.score) === 'doubtful';
  };
  const doubtful = book.sections.filter(isDoubtful);
  const row = (s: Section, away: boolean): ReactElement => {
    const i = book.sections.indexOf(s);
    const before = book.sections[i - 1];
    return (
      <SheetRow
        key={s.id}
        section={s}
        row={rows.get(s.id) ?? null}
        heading={headings.get(s.id) as Heading}
        first={i === 0}
        others={example.othersOf(s.id)}
        onKind={(kind) => example.kind(s, kind)}
        onOthers={example.sameForOthers}
        depth={away ? 0 : depthOf(book, s)}
        onJoin={() => example.join(s)}
        partAbove={book.sections.slice(0, i).some((x) => x.kind === 'part')}
        onNest={(way) => example.nest(s, way)}
        onDivide={(block) => example.divide(s, block)}
        after={away && before ? headings.get(before.id)?.label : undefined}
      />
    );
  };

  const setRecord = (fields: Partial<BookRecord>): void =>
    void session.change({
      type: 'group',
      label: 'Change the record',
      changes: [{ type: 'set-record', fields }],
    });
  const restore = async (index: number): Promise<void> => {
    const item = arrival.setAside[index];
    if (!item) return;
    const done = await session.change((b) => {
      const r = putBack(b, item.section, item.text, shortId);
      return r.ok ? r.value : null;
    });
    if (!done) return;
    await onBack(index);
    const where = headings.get(item.section ?? '')?.label ?? headings.get(book.sections[0]?.id ?? '')?.label;
    toast(`Restored at the end of “${where ?? 'the book'}”.`);
  };

  return (
    <section aria-label="Intake sheet" className="flex h-full min-h-0 flex-col bg-sheet">
      <header className="flex items-center gap-4 border-b border-edge px-4 py-2">
        <div>
          <h2 className="font-serif text-[17px]">{arrival.name || 'The manuscript'}, as it was read</h2>
          <p className="text-[13px] text-ink-soft">
            {book.sections.length} sections were found.{' '}
            {doubtful.length > 0
              ? `${doubtful.length} ${doubtful.length === 1 ? 'is doubtful and comes' : 'are doubtful and come'} first. `
              : ''}
            Change what is wrong; nothing here is final.
          </p>
        </div>
        <span className="ml-auto" />
        <div className="grid w-[420px] shrink-0 grid-cols-2 gap-2">
          <Text
            aria-label="Title of the book"
            placeholder="Title of the book"
            value={book.record.title}
            onCommit={(title) => setRecord({ title })}
          />
          <Text
            aria-label="Author"
            placeholder="Author"
            value={authorsLine(book.record)}
            onCommit={(line) => setRecord({ contributors: withAuthors(book.record.contributors, line) })}
          />
        </div>
        <Button kind="primary" onClick={onAccept}>
          {accepted ? 'Back to the running order' : 'Accept the order'}
        </Button>
      </header>
      {reading ? <ReadingLine reading={reading} /> : null}
      <div className="min-h-0 flex-1 overflow-auto">
        {arrival.findings.map((f, i) => (
          <p key={i} className="flex items-baseline gap-3 border-b border-rule px-4 py-1.5">
            <SeverityMark severity={f.severity} />
            <span>
              {f.message} {f.remedy ?? ''}
            </span>
            {AGAIN[f.rule] && arrival.source.length > 0 && !accepted ? (
              <Button
                kind="quiet"
                className="h-7"
                disabled={reading !== null}
                onClick={() => onAgain(AGAIN[f.rule] as 'accept' | 'reject')}
              >
                {AGAIN[f.rule] === 'reject'
                  ? 'Import again with the changes rejected'
                  : 'Import again with the changes accepted'}
              </Button>
            ) : null}
          </p>
        ))}
        <div className="grid grid-cols-[minmax(0,5fr)_56px_minmax(0,7fr)]">
          <h3 className="column-head sticky top-0 z-10 bg-sheet px-4 py-1.5">In the manuscript</h3>
          <span className="sticky top-0 z-10 bg-sheet" />
          <h3 className="column-head sticky top-0 z-10 bg-sheet px-2 py-1.5">In the running order</h3>
          {doubtful.length > 0 ? (
            <>
              <GroupHead name={`Doubtful (${doubtful.length})`} />
              {doubtful.map((s) => row(s, true))}
              <GroupHead name={`The others, in order (${book.sections.length - doubtful.length})`} />
            </>
          ) : null}
          {book.sections.filter((s) => !doubtful.includes(s)).map((s) => row(s, false))}
        </div>
        <Account arrival={arrival} onBack={(index) => void restore(index)} />
      </div>
    </section>
  );
}

/** What to do with tracked changes where the other thing was done. */
const AGAIN: Readonly<Record<string, 'accept' | 'reject'>> = {
  'intake/tracked-changes': 'reject',
  'intake/changes-taken-back': 'accept',
};

const GroupHead = ({ name }: { name: string }) => (
  <h4 className="col-span-3 border-t border-edge bg-table px-4 py-1 font-serif text-[15px]">{name}</h4>
);
