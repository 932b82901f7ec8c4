'use client';
/** A newer manuscript beside the book: row by row what it would change, before anything does. */
import { useEffect, useMemo, useState } from 'react';
import { compareTexts, emptyContent, type Book, type Comparison } from '@pagina/core/book';
import {
  addAfter,
  compareNewer,
  firstChoice,
  headingsOf,
  previewOf,
  renew,
  type Choice,
  type Heading,
  type NewerRow,
} from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { Compared, differenceOf } from '@/ui/Compared';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Picker } from '@/ui/Picker';
import { RadioGroup } from '@/ui/RadioGroup';
import { choicesOf } from '@/ui/Select';
import { act } from './actions';

const newId = (): string => `k${shortId()}`;
/** How long the page may be busy comparing before it is drawn again, in milliseconds. */
const BUSY = 24;
/** Everything that a row offers, for looking at. */
const ALL: Choice = { follow: true, title: true, theirs: true };

export interface NewerManuscript {
  name: string;
  book: Book;
  /** The manuscript as it was read before; null for a title that began blank. */
  before: Book | null;
  /** The file of the reading. */
  sha256: string;
}

/** Comparisons of all rows, made bit by bit. */
function useComparisons(
  book: Book,
  fresh: Book,
  rows: readonly NewerRow[],
): ReadonlyMap<NewerRow, Comparison> {
  const [made, setMade] = useState<ReadonlyMap<NewerRow, Comparison>>(new Map());
  useEffect(() => {
    let gone = false;
    const all = new Map<NewerRow, Comparison>();
    const compared = (row: NewerRow): Comparison => {
      const old = book.sections.find((s) => s.id === row.old)?.content ?? emptyContent('');
      const coming = fresh.sections.find((s) => s.id === row.fresh)?.content ?? emptyContent('');
      return compareTexts(old, row.how === 'changed' ? (previewOf(book, fresh, row, ALL) ?? old) : coming);
    };
    const go = (): void => {
      if (gone) return;
      const until = performance.now() + BUSY;
      for (const row of rows) {
        if (all.has(row)) continue;
        all.set(row, compared(row));
        if (performance.now() > until) break;
      }
      setMade(new Map(all));
      if (all.size < rows.length) setTimeout(go, 0);
    };
    go();
    return () => {
      gone = true;
    };
  }, [book, fresh, rows]);
  return made;
}

export function Renewal({ newer, onDone }: { newer: NewerManuscript; onDone: () => void }) {
  const { name, book: fresh, before } = newer;
  const { session } = useTitle();
  const { book: now } = useBook();
  // What was compared stays what is shown: typing elsewhere would make the list jump.
  const [book] = useState(now);
  const [way, setWay] = useState<'replace' | 'add'>('replace');
  const [after, setAfter] = useState<string>(
    book.sections.findLast((s) => s.matter === 'body')?.id ?? book.sections.at(-1)?.id ?? '',
  );
  const compared = useMemo(() => compareNewer(book, fresh, before), [book, fresh, before]);
  const { rows, same } = compared;
  const comparisons = useComparisons(book, fresh, rows);
  const [choices, setChoices] = useState<readonly Choice[]>(() => rows.map(firstChoice));
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const freshHeadings = useMemo(() => headingsOf(fresh.sections, fresh), [fresh]);
  const taken = choices.filter((c) => c.follow || c.title || c.theirs).length;
  const contested = rows.reduce((n, r) => n + r.pieces.filter((p) => p.contested).length, 0);
  const set = (i: number, more: Partial<Choice>): void =>
    setChoices(choices.map((c, k) => (k === i ? { ...c, ...more } : c)));
  const accept = async (): Promise<void> => {
    const done = await act(session, (b) =>
      way === 'add'
        ? addAfter(b, fresh, after, newId)
        : // The book may have changed since it was compared: places are found again, choices stay with their sections.
          renewed(b, newer, rows, choices),
    );
    if (done) onDone();
  };
  const coming = fresh.sections.length;
  return (
    <section aria-label="A newer manuscript" className="flex h-full min-h-0 flex-col bg-sheet">
      <header className="flex items-center gap-4 border-b border-edge px-4 py-2 [&_label]:whitespace-nowrap">
        <div className="min-w-0">
          <h2 className="truncate font-serif text-[17px]">{name}</h2>
          <p className="text-[13px] text-ink-soft">
            {way === 'add'
              ? `${coming} ${coming === 1 ? 'section is' : 'sections are'} added. Nothing else in the book changes.`
              : before
                ? `Compared with the manuscript that you imported before. ${toldOf(same, contested)}`
                : 'Compared with the book, since it began without a manuscript. Nothing is chosen yet.'}
          </p>
        </div>
        <span className="ml-auto" />
        <RadioGroup
          row
          label="What to do with the new manuscript"
          value={way}
          choices={choicesOf({ replace: 'Replace the text', add: 'Add after' })}
          onChoose={setWay}
        />
        {way === 'add' ? (
          <Picker
            label="Section to add after"
            className="w-52"
            value={after}
            choices={book.sections.map((s) => ({ value: s.id, name: headings.get(s.id)?.label ?? '' }))}
            onChoose={setAfter}
          />
        ) : null}
        <Button kind="primary" disabled={way === 'replace' && taken === 0} onClick={() => void accept()}>
          {way === 'add'
            ? 'Add it'
            : taken === 0
              ? 'Nothing to apply'
              : `Update ${taken} ${taken === 1 ? 'section' : 'sections'}`}
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Leave the book as it is
        </Button>
      </header>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Sections compared">
        {way === 'replace' && rows.length > 0 ? (
          <div className="column-head sticky top-0 z-10 flex gap-4 border-b border-rule bg-sheet px-4 py-1">
            <span className="w-64">In the book</span>
            <span className="w-64">In the newer manuscript</span>
            <span className="w-60">What changes</span>
          </div>
        ) : null}
        {way === 'replace' && rows.length === 0 ? (
          <p className="px-4 py-6 font-serif text-[17px]">This manuscript changes nothing in the book.</p>
        ) : null}
        {way === 'add'
          ? fresh.sections.map((s) => (
              <p key={s.id} className="border-b border-rule px-4 py-2 font-serif">
                {freshHeadings.get(s.id)?.label}
              </p>
            ))
          : rows.map((row, i) => (
              <Row
                key={`${row.old ?? ''}/${row.fresh ?? ''}`}
                row={row}
                old={headings.get(row.old ?? '')}
                fresh={freshHeadings.get(row.fresh ?? '')}
                comparison={comparisons.get(row)}
                choice={choices[i] as Choice}
                onChoice={(more) => set(i, more)}
              />
            ))}
      </div>
    </section>
  );
}

function toldOf(same: number, contested: number): string {
  const unchanged =
    same === 0 ? '' : `${same} ${same === 1 ? 'section hasn’t' : 'sections haven’t'} changed. `;
  if (contested === 0) return `${unchanged}What you changed here is kept.`;
  return `${unchanged}${contested} ${contested === 1 ? 'place was' : 'places were'} changed in both. Your version stays unless you choose the manuscript’s.`;
}

function renewed(b: Book, newer: NewerManuscript, rows: readonly NewerRow[], choices: readonly Choice[]) {
  const again = compareNewer(b, newer.book, newer.before);
  const chosen = (row: NewerRow): Choice => {
    const at = rows.findIndex((r) => r.old === row.old && (r.old !== null || r.fresh === row.fresh));
    return choices[at] ?? { follow: false, title: false, theirs: false };
  };
  return renew(b, newer.book, again, again.rows.map(chosen), newId, newer.before ? newer.sha256 : '');
}

const WHAT: Record<NewerRow['how'], string> = {
  new: 'Add it',
  gone: 'Delete it from the book',
  changed: 'Use the new text',
};

function Row({
  row,
  old,
  fresh,
  comparison,
  choice,
  onChoice,
}: {
  row: NewerRow;
  old: Heading | undefined;
  fresh: Heading | undefined;
  comparison: Comparison | undefined;
  choice: Choice;
  onChoice: (more: Partial<Choice>) => void;
}) {
  const [open, setOpen] = useState(false);
  const contested = row.pieces.filter((p) => p.contested).length;
  const free = row.how !== 'changed' || row.pieces.length > contested;
  const told = !comparison
    ? 'comparing …'
    : row.how === 'new'
      ? 'new'
      : row.how === 'gone'
        ? 'not in the newer manuscript'
        : row.pieces.length === 0
          ? 'another title'
          : differenceOf(comparison);
  return (
    <div className="border-b border-rule px-4 py-1.5" data-pair={row.how}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="w-64 truncate font-serif text-[15px]">
          {old?.label ?? <em className="text-ink-soft">not in the book</em>}
        </span>
        <span className="w-64 truncate font-serif text-[15px] text-ink-soft">
          {fresh?.label ?? <em>not in it</em>}
        </span>
        <span className="w-60 truncate text-[13px]">{told}</span>
        {free ? (
          <Checkbox
            label={WHAT[row.how]}
            on={choice.follow}
            onSet={(follow) => onChoice(follow ? { follow } : { follow, theirs: false })}
          />
        ) : null}
        {contested > 0 ? (
          <Checkbox
            label={
              contested === 1
                ? 'also replace your own change (1 place)'
                : `also replace your own changes (${contested} places)`
            }
            on={choice.theirs}
            onSet={(theirs) =>
              onChoice(theirs ? { theirs, follow: true } : { theirs, follow: free && choice.follow })
            }
          />
        ) : null}
        {row.title === 'same' ? null : (
          <Checkbox
            label={row.title === 'new' ? 'and its title' : 'and its title, in place of yours'}
            on={choice.title}
            onSet={(title) => onChoice({ title })}
          />
        )}
        <span className="ml-auto" />
        {comparison && comparison.paragraphs.length > 0 ? (
          <Button kind="quiet" className="h-7 px-2" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'Close' : 'Compare'}
          </Button>
        ) : null}
      </div>
      {open && comparison ? (
        <div className="mx-auto max-w-[680px] py-3">
          <Compared comparison={comparison} />
        </div>
      ) : null}
    </div>
  );
}
