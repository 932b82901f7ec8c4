'use client';
/** The tidying as a list of changes with what stands around them: made or dismissed one by one, by kind, or all at once. */
import { useEffect, useState } from 'react';
import { ChevronRight } from 'lucide-react';
import { toast } from 'sonner';
import {
  changeOfEdits,
  firstWords,
  lastWords,
  RULE_NAMES,
  styleFor,
  type RuleName,
  type TidyItem,
} from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { Tip } from '@/ui/Tip';
import { showNothing, showStretch } from './highlight';
import { useTidying } from './tidying';

/** Shown of a kind at first, and with each asking for more. */
const SOME = 40;
const places = (n: number): string => `${n.toLocaleString('en-GB')} ${n === 1 ? 'place' : 'places'}`;

export function Tidy({ onClose }: { onClose: () => void }) {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const { items, dismissed, dismiss } = useTidying(session.id, true);
  useEffect(() => showNothing, []);
  const kinds = [...new Set(items.map((i) => i.rule))];

  const make = async (chosen: readonly TidyItem[], label: string): Promise<void> => {
    await session.flush();
    const done = await session.change((b) => changeOfEdits(b, chosen, label));
    if (!done) return void toast('The text has changed since; the list has been updated.');
    if (chosen.length > 1)
      toast(`${places(chosen.length)} changed.`, {
        action: { label: 'Undo', onClick: () => void session.undo() },
      });
  };
  const turnDown = (chosen: readonly TidyItem[]): void => {
    const keys = [...new Set(chosen.map((i) => i.key))];
    void dismiss(keys);
    if (chosen.length > 1)
      toast(`${places(chosen.length)} ignored.`, {
        action: { label: 'Offer them again', onClick: () => void dismiss(keys, true) },
      });
  };

  return (
    <Aside
      title="Tidying"
      onClose={onClose}
      note={`Follows the rules of ${styleFor(book.record.language).name}. Monospace text and addresses are left alone.`}
      tools={
        items.length > 0 ? (
          <Button kind="primary" className="h-7" onClick={() => void make(items, 'Tidy the text')}>
            Apply all {items.length.toLocaleString('en-GB')}
          </Button>
        ) : null
      }
    >
      {dismissed === null ? <p className="px-4 py-3 text-ink-soft">Reading the text …</p> : null}
      {dismissed !== null && items.length === 0 ? (
        <p className="px-4 py-3">Nothing is left to tidy.</p>
      ) : null}
      {kinds.map((rule) => (
        <Kind
          key={rule}
          rule={rule}
          items={items.filter((i) => i.rule === rule)}
          onMake={(chosen) => void make(chosen, `Tidy: ${RULE_NAMES[rule].toLowerCase()}`)}
          onRefuse={turnDown}
          onShow={(i) => {
            if (i.section) goTo(i.block ? { section: i.section, block: i.block } : { section: i.section });
            if (i.block) showStretch(i.block, i.from, Math.max(i.to, i.from + 1));
          }}
        />
      ))}
    </Aside>
  );
}

function Kind({
  rule,
  items,
  onMake,
  onRefuse,
  onShow,
}: {
  rule: RuleName;
  items: readonly TidyItem[];
  onMake: (chosen: readonly TidyItem[]) => void;
  onRefuse: (chosen: readonly TidyItem[]) => void;
  onShow: (i: TidyItem) => void;
}) {
  const [open, setOpen] = useState(false);
  const [shown, setShown] = useState(SOME);
  return (
    <section className="border-b border-rule" data-rule={rule} aria-label={RULE_NAMES[rule]}>
      <div className="flex items-center gap-1 py-1 pr-3 pl-2">
        <button
          type="button"
          className="flex min-w-0 flex-1 items-center gap-2 px-2 py-1 text-left hover:text-spruce"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={14} aria-hidden className={`shrink-0 ${open ? 'rotate-90' : ''}`} />
          <span className="truncate">{RULE_NAMES[rule]}</span>
          <span className="whitespace-nowrap text-ink-soft">{places(items.length)}</span>
        </button>
        <Button kind="quiet" className="h-7 px-2" onClick={() => onRefuse(items)}>
          Ignore all
        </Button>
        <Button className="h-7 px-2" onClick={() => onMake(items)}>
          Apply all
        </Button>
      </div>
      {open ? (
        <ul className="pb-2">
          {items.slice(0, shown).map((i) => (
            <li
              key={`${i.block} ${i.from} ${i.to}`}
              className="flex items-center gap-1 py-0.5 pr-3 pl-4"
              data-tidy={rule}
            >
              <Tip words="Show it in the text">
                <button
                  type="button"
                  className="min-w-0 flex-1 truncate text-left font-serif text-[14px] leading-5 hover:text-spruce"
                  onClick={() => onShow(i)}
                >
                  <Shown item={i} />
                </button>
              </Tip>
              <Button kind="quiet" className="h-7 px-2" onClick={() => onRefuse([i])}>
                Ignore
              </Button>
              <Button kind="quiet" className="h-7 px-2" onClick={() => onMake([i])}>
                Apply
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      {open && items.length > shown ? (
        <Button kind="quiet" className="mb-2 ml-3 h-7" onClick={() => setShown(shown + SOME * 5)}>
          Show more of {places(items.length)}
        </Button>
      ) : null}
    </section>
  );
}

/** Spaces are shown by what they are, since they cannot be seen. */
const visible = (t: string): string =>
  t
    .replace(/ /g, '␣')
    .replace(/\u00a0|\u202f/g, '⍽')
    .replace(/\t/g, '→');

function Shown({ item: i }: { item: TidyItem }) {
  if (i.rule === 'empty-paragraphs') return <em className="text-ink-soft">an empty paragraph goes</em>;
  if (i.remark)
    return (
      <>
        <span className="text-ink-soft">{lastWords(i.before, 14)}</span>
        <em>{i.was}</em>
        <span className="text-ink-soft">{firstWords(i.after, 14)}</span>
      </>
    );
  if (i.refer)
    return (
      <>
        <span className="text-ink-soft">{lastWords(i.before, 14)}</span>
        {i.was}
        <span className="px-1 text-ink-soft">to</span>
        <span className="text-spruce">{i.by}</span>
      </>
    );
  return (
    <>
      <span className="text-ink-soft">{lastWords(i.before, 14)}</span>
      <span className="mx-1 inline-block border border-rule bg-table px-1.5 whitespace-nowrap">
        <del className="text-rubric no-underline">{visible(i.was) || '∅'}</del>
        <span className="px-1 text-ink-soft">›</span>
        <ins className="text-spruce no-underline">{visible(i.by) || '∅'}</ins>
      </span>
      <span className="text-ink-soft">{firstWords(i.after, 14)}</span>
    </>
  );
}
