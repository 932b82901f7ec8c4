'use client';
/** A newer manuscript beside the book: section by section what would change, before anything does. */
import { useEffect, useMemo, useState } from 'react';
import { compareTexts, emptyContent, type Book, type Comparison, type Section } from '@pagina/core/book';
import {
  addAfter,
  headingsOf,
  matchSections,
  renew,
  type Choice,
  type Heading,
  type Match,
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

/** Comparisons of all matches, made bit by bit. */
function useComparisons(book: Book, fresh: Book, matches: readonly Match[]): ReadonlyMap<Match, Comparison> {
  const [made, setMade] = useState<ReadonlyMap<Match, Comparison>>(new Map());
  useEffect(() => {
    let gone = false;
    const of = (b: Book, id: string | null): Section['content'] =>
      b.sections.find((s) => s.id === id)?.content ?? emptyContent('');
    const all = new Map<Match, Comparison>();
    const go = (): void => {
      if (gone) return;
      const until = performance.now() + BUSY;
      for (const m of matches) {
        if (all.has(m)) continue;
        all.set(m, compareTexts(of(book, m.old), of(fresh, m.fresh)));
        if (performance.now() > until) break;
      }
      setMade(new Map(all));
      if (all.size < matches.length) setTimeout(go, 0);
    };
    go();
    return () => {
      gone = true;
    };
  }, [book, fresh, matches]);
  return made;
}

export function Renewal({ name, fresh, onDone }: { name: string; fresh: Book; onDone: () => void }) {
  const { session } = useTitle();
  const { book: now } = useBook();
  // What was compared stays what is shown: typing elsewhere would make the list jump.
  const [book] = useState(now);
  const [way, setWay] = useState<'replace' | 'add'>('replace');
  const [after, setAfter] = useState<string>(
    book.sections.findLast((s) => s.matter === 'body')?.id ?? book.sections.at(-1)?.id ?? '',
  );
  const matches = useMemo(() => matchSections(book, fresh), [book, fresh]);
  const comparisons = useComparisons(book, fresh, matches);
  const [choices, setChoices] = useState<readonly Choice[]>(() =>
    matches.map((m) => ({ follow: m.fresh !== null, title: false })),
  );
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const freshHeadings = useMemo(() => headingsOf(fresh.sections, fresh), [fresh]);
  const differs = (m: Match): boolean =>
    m.old === null || m.fresh === null || (comparisons.get(m)?.paragraphs.length ?? 1) > 0;
  const taken = matches.filter((m, i) => choices[i]?.follow && differs(m)).length;
  const set = (i: number, more: Partial<Choice>): void =>
    setChoices(choices.map((c, k) => (k === i ? { ...c, ...more } : c)));
  const accept = async (): Promise<void> => {
    const done = await act(session, (b) =>
      way === 'add' ? addAfter(b, fresh, after, newId) : renew(b, fresh, matches, choices, newId),
    );
    if (done) onDone();
  };
  const coming = fresh.sections.length;
  return (
    <section aria-label="A newer manuscript" className="flex h-full min-h-0 flex-col bg-sheet">
      <header className="flex items-center gap-4 border-b border-edge px-4 py-2">
        <div>
          <h2 className="font-serif text-[17px]">{name}</h2>
          <p className="text-[13px] text-ink-soft">
            {way === 'replace'
              ? 'The new text replaces the old. Kinds, order, editions and design are kept, and so are paragraphs whose words haven’t changed.'
              : `${coming} ${coming === 1 ? 'section is' : 'sections are'} put in. Nothing else in the book changes.`}
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
              : `Take ${taken} ${taken === 1 ? 'section' : 'sections'}`}
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Leave the book as it is
        </Button>
      </header>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Sections compared">
        {way === 'replace' ? (
          <div className="column-head sticky top-0 z-10 flex gap-4 border-b border-rule bg-sheet px-4 py-1">
            <span className="w-72">In the book</span>
            <span className="w-72">In the newer manuscript</span>
            <span className="w-60">What differs</span>
          </div>
        ) : null}
        {way === 'add'
          ? fresh.sections.map((s) => (
              <p key={s.id} className="border-b border-rule px-4 py-2 font-serif">
                {freshHeadings.get(s.id)?.label}
              </p>
            ))
          : matches.map((m, i) => (
              <Pair
                key={`${m.old ?? ''}/${m.fresh ?? ''}`}
                match={m}
                old={headings.get(m.old ?? '')}
                fresh={freshHeadings.get(m.fresh ?? '')}
                comparison={comparisons.get(m)}
                choice={choices[i] as Choice}
                onChoice={(more) => set(i, more)}
              />
            ))}
      </div>
    </section>
  );
}

function Pair({
  match: m,
  old,
  fresh,
  comparison,
  choice,
  onChoice,
}: {
  match: Match;
  old: Heading | undefined;
  fresh: Heading | undefined;
  comparison: Comparison | undefined;
  choice: Choice;
  onChoice: (more: Partial<Choice>) => void;
}) {
  const [open, setOpen] = useState(false);
  const same = m.old !== null && m.fresh !== null && comparison?.paragraphs.length === 0;
  const retitled = old && fresh && old.title !== fresh.title && fresh.title !== '';
  const told = !comparison
    ? 'comparing …'
    : m.old === null
      ? 'new'
      : m.fresh === null
        ? 'not in the newer manuscript'
        : differenceOf(comparison);
  const what = m.old === null ? 'Add it' : m.fresh === null ? 'Delete it from the book' : 'Use the new text';
  return (
    <div
      className="border-b border-rule px-4 py-1.5"
      data-pair={m.old === null ? 'new' : m.fresh === null ? 'gone' : same ? 'same' : 'changed'}
    >
      <div className="flex items-center gap-4">
        <span className="w-72 truncate font-serif text-[15px]">
          {old?.label ?? <em className="text-ink-soft">not in the book</em>}
        </span>
        <span className="w-72 truncate font-serif text-[15px] text-ink-soft">
          {fresh?.label ?? <em>not in it</em>}
        </span>
        <span className="w-60 truncate text-[13px]">{told}</span>
        {same ? null : <Checkbox label={what} on={choice.follow} onSet={(follow) => onChoice({ follow })} />}
        {retitled && !same ? (
          <Checkbox label="and its title" on={choice.title} onSet={(title) => onChoice({ title })} />
        ) : null}
        <span className="ml-auto" />
        {comparison && !same ? (
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
