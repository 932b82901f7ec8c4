'use client';
/** The intake sheet: the manuscript as it was read on one side, the rows it became on the other, joined by lines. */
import { useState } from 'react';
import { toast } from 'sonner';
import { countWords } from '@pagina/core/base';
import { kindRule, SECTION_KINDS, type Arrival, type Section, type SectionKind } from '@pagina/core/book';
import { changeKind, headingsOf, join, putBack, type Heading } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/session';
import { Button, SeverityMark } from '@/ui/controls';
import { Account } from './Account';

type Row = Arrival['rows'][number];

/** How sure a reading is, in a word; from the score of recognition. */
const sureness = (score: number): 'certain' | 'likely' | 'doubtful' =>
  score >= 8 ? 'certain' : score >= 3.4 ? 'likely' : 'doubtful';
const MARKS = { certain: '■', likely: '◧', doubtful: '□' };
/** "the words "Prologue" in a heading style" and the like differ only in what they quote. */
const sort = (reason: string): string => reason.replace(/"[^"]*"/g, '""').replace(/\d+/g, '#');

export function IntakeSheet({
  arrival,
  accepted,
  onAccept,
  onBack,
}: {
  arrival: Arrival;
  accepted: boolean;
  onAccept: () => void;
  onBack: (index: number) => Promise<void>;
}) {
  const { session } = useTitle();
  const { book } = useBook();
  const [changed, setChanged] = useState<{ id: string; from: SectionKind; to: SectionKind } | null>(null);
  const headings = headingsOf(book.sections, book);
  const rows = new Map(arrival.rows.map((r) => [r.section, r]));
  const doubtful = book.sections.filter((s) => {
    const r = rows.get(s.id);
    return r && sureness(r.score) === 'doubtful';
  }).length;

  /** Sections read as the changed one was, for the same sort of reason. */
  const others = (): string[] => {
    const own = changed && rows.get(changed.id);
    if (!changed || !own) return [];
    return book.sections
      .filter((s) => s.id !== changed.id && s.kind === changed.from)
      .filter((s) => sort(rows.get(s.id)?.reason ?? '') === sort(own.reason))
      .map((s) => s.id);
  };
  const change = (s: Section, to: SectionKind): void => {
    setChanged({ id: s.id, from: s.kind, to });
    void session.change((b) => {
      const r = changeKind(b, [s.id], to);
      return r.ok ? r.value : null;
    });
  };
  const sameForOthers = (): void => {
    const ids = others();
    if (!changed || ids.length === 0) return;
    void session.change((b) => {
      const r = changeKind(b, ids, changed.to);
      return r.ok ? r.value : null;
    });
    setChanged(null);
  };
  const joinUp = (s: Section): void =>
    void session.change((b) => {
      const r = join(b, s.id, shortId);
      if (r.ok) return r.value;
      toast(r.refusal.message);
      return null;
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
    toast(`Put back at the end of "${where ?? 'the book'}".`);
  };

  return (
    <section aria-label="Intake sheet" className="flex h-full min-h-0 flex-col bg-sheet">
      <header className="flex items-center gap-4 border-b border-edge px-4 py-2">
        <div>
          <h2 className="font-serif text-[17px]">{arrival.name || 'The manuscript'}, as it was read</h2>
          <p className="text-[13px] text-ink-soft">
            {book.sections.length} sections were found
            {doubtful > 0 ? `, ${doubtful} of them doubtful` : ''}. Change what is wrong; nothing here is
            final.
          </p>
        </div>
        <span className="ml-auto" />
        <Button kind="primary" onClick={onAccept}>
          {accepted ? 'Back to the running order' : 'Accept the order'}
        </Button>
      </header>
      <div className="min-h-0 flex-1 overflow-auto">
        {arrival.findings.map((f, i) => (
          <p key={i} className="flex items-baseline gap-3 border-b border-rule px-4 py-1.5">
            <SeverityMark severity={f.severity} />
            <span>
              {f.message} {f.remedy ?? ''}
            </span>
          </p>
        ))}
        <div className="grid grid-cols-[minmax(0,5fr)_56px_minmax(0,7fr)]">
          <h3 className="column-head sticky top-0 z-10 bg-sheet px-4 py-1.5">In the manuscript</h3>
          <span className="sticky top-0 z-10 bg-sheet" />
          <h3 className="column-head sticky top-0 z-10 bg-sheet px-2 py-1.5">In the running order</h3>
          {book.sections.map((s, i) => (
            <SheetRow
              key={s.id}
              section={s}
              row={rows.get(s.id) ?? null}
              heading={headings.get(s.id) as Heading}
              first={i === 0}
              others={changed?.id === s.id ? others().length : 0}
              onKind={(kind) => change(s, kind)}
              onOthers={sameForOthers}
              onJoin={() => joinUp(s)}
            />
          ))}
        </div>
        <Account arrival={arrival} onBack={(index) => void restore(index)} />
      </div>
    </section>
  );
}

function SheetRow({
  section: s,
  row,
  heading,
  first,
  others,
  onKind,
  onOthers,
  onJoin,
}: {
  section: Section;
  row: Row | null;
  heading: Heading;
  first: boolean;
  others: number;
  onKind: (kind: SectionKind) => void;
  onOthers: () => void;
  onJoin: () => void;
}) {
  const sure = row ? sureness(row.score) : 'certain';
  const words = countWords(s.content.textBetween(0, s.content.content.size, ' ', ' '));
  const ink = sure === 'doubtful' ? 'text-ochre' : 'text-ink-soft';
  return (
    <>
      <p className="truncate border-t border-rule px-4 py-2 font-serif" title={row?.typed}>
        {row ? (
          row.typed || <em className="text-ink-soft">a picture</em>
        ) : (
          <em className="text-ink-soft">not in it</em>
        )}
      </p>
      <span className="relative border-t border-rule" aria-hidden>
        {row ? (
          <span
            className={`absolute top-[18px] right-0 left-0 border-t ${sure === 'doubtful' ? 'border-dashed border-ochre' : 'border-spruce'}`}
          />
        ) : null}
      </span>
      <div className="group border-t border-rule px-2 py-1" data-intake={s.id} data-kind={s.kind}>
        <div className="flex items-center gap-3">
          <select
            aria-label={`Kind of ${heading.label}`}
            value={s.kind}
            onChange={(e) => onKind(e.target.value as SectionKind)}
            className="h-7 w-40 truncate rounded-[2px] border border-edge bg-sheet"
          >
            {SECTION_KINDS.map((k) => (
              <option key={k} value={k}>
                {kindRule(k).label}
              </option>
            ))}
          </select>
          <span className="min-w-0 truncate font-serif text-[15px]">
            {heading.number ? <span className="text-ink-soft">{heading.number} </span> : null}
            {heading.title ||
              (heading.number ? (
                ''
              ) : (
                <em className="text-ink-soft">{kindRule(s.kind).label.toLowerCase()}</em>
              ))}
          </span>
          <span className="ml-auto whitespace-nowrap text-ink-soft">
            {words.toLocaleString('en-GB')} words
          </span>
          <span className="w-40 text-right">
            {first ? null : (
              <button
                type="button"
                className="px-1 whitespace-nowrap underline hover:text-spruce"
                onClick={onJoin}
              >
                Join to the one before
              </button>
            )}
          </span>
        </div>
        {row ? (
          <p className={`text-[13px] ${ink}`}>
            <span aria-hidden>{MARKS[sure]}</span> {sure}: {row.reason}
            {others > 0 ? (
              <button type="button" className="ml-3 underline text-spruce" onClick={onOthers}>
                The same for {others === 1 ? 'the other one' : `the ${others} others`}
              </button>
            ) : null}
          </p>
        ) : null}
      </div>
    </>
  );
}
