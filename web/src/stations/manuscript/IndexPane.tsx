'use client';
/** The entries of the index beside the text: where each stands, under which name, and where it leads. */
import { useDeferredValue, useMemo, useState } from 'react';
import { ChevronRight } from 'lucide-react';
import { toast } from 'sonner';
import type { Book, Change } from '@pagina/core/book';
import { indexOf, termParts, type Indexed, type IndexEntry, type IndexTerm } from '@pagina/core/order';
import { renamedEntry, withoutEntry } from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { lineOf } from '@/ui/Field';
import { Tip } from '@/ui/Tip';
import { showNothing, showStretch } from './highlight';
import { Occurrences } from './Occurrences';

const named = (e: IndexEntry, u: IndexTerm | null): string => (u ? `${e.term}: ${u.term}` : e.term);

export function IndexPane({ onClose }: { onClose: () => void }) {
  const { session } = useTitle();
  const now = useBook().book;
  const book = useDeferredValue(now);
  const entries = useMemo(() => indexOf(book.sections, book), [book]);
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const made = useMemo(() => book.sections.some((s) => s.kind === 'index'), [book.sections]);
  const change = async (make: (b: Book) => Change | null): Promise<void> => {
    await session.flush();
    if (!(await session.change(make))) toast('Nothing has changed.');
  };
  const close = (): void => {
    showNothing();
    onClose();
  };
  const count = entries.reduce((n, e) => n + 1 + e.under.length, 0);
  return (
    <Aside
      title="Index"
      onClose={close}
      tools={
        <Button className="h-7" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Add occurrences
        </Button>
      }
      note={
        made
          ? `${count.toLocaleString('en-GB')} ${count === 1 ? 'entry' : 'entries'}. Folios come from the pages of each edition.`
          : 'The book has no section “Index” yet. Add it from the running order to print these entries.'
      }
      head={adding ? <Occurrences book={book} onDone={() => setAdding(false)} /> : null}
    >
      {entries.length === 0 ? (
        <p className="px-4 py-3">
          The index is empty. Select words in the text and press Ctrl+Shift+X, or add every occurrence of some
          words at once.
        </p>
      ) : null}
      <ul aria-label="Entries">
        {entries.map((e, i) => (
          <li key={e.term}>
            {e.letter !== (entries[i - 1]?.letter ?? null) ? (
              <p className="column-head px-4 pt-3 pb-1">{e.letter || 'Figures and signs'}</p>
            ) : null}
            {[null, ...e.under].map((u) => {
              const name = named(e, u);
              return (
                <Entry
                  key={name}
                  name={name}
                  of={u ?? e}
                  open={open === name}
                  onOpen={() => setOpen(open === name ? null : name)}
                  onChange={change}
                  onRenamed={setOpen}
                />
              );
            })}
          </li>
        ))}
      </ul>
    </Aside>
  );
}

function Entry({
  name,
  of,
  open,
  onOpen,
  onChange,
  onRenamed,
}: {
  name: string;
  of: IndexTerm;
  open: boolean;
  onOpen: () => void;
  onChange: (make: (b: Book) => Change | null) => Promise<void>;
  onRenamed: (name: string) => void;
}) {
  const { goTo } = useTitle();
  const { book } = useBook();
  const [, under] = termParts(name);
  const places = of.places.length;
  /** While its new name is being saved, nothing is typed into what will be gone. */
  const [renaming, setRenaming] = useState(false);
  const rename = (to: string): void => {
    const next = to.trim();
    if (next === '' || next === name) return;
    setRenaming(true);
    void onChange((b) => renamedEntry(b, name, next))
      .then(() => onRenamed(next))
      .finally(() => setRenaming(false));
  };
  const lead = (typed: string): void => {
    const see = typed
      .split(';')
      .map((t) => t.trim())
      .filter((t) => t !== '' && t !== name);
    void onChange((b) => ({
      type: 'group',
      label: `Change where “${name}” leads`,
      changes: [
        {
          type: 'set-index-see',
          see: [...b.indexSee.filter((s) => s.term !== name), ...see.map((to) => ({ term: name, to }))],
        },
      ],
    }));
  };
  return (
    <div className={open ? 'bg-table' : ''}>
      <button
        type="button"
        className={`flex w-full items-baseline gap-2 py-0.5 pr-4 text-left hover:text-spruce ${under ? 'pl-8' : 'pl-4'}`}
        aria-expanded={open}
        onClick={onOpen}
      >
        <ChevronRight size={12} aria-hidden className={`shrink-0 self-center ${open ? 'rotate-90' : ''}`} />
        <span className="min-w-0 truncate font-serif text-[15px]">{of.term}</span>
        <span className="text-[13px] whitespace-nowrap text-ink-soft">
          {places > 0 ? places : ''}{' '}
          {of.see.length > 0 ? `${places > 0 ? 'see also' : 'see'} ${of.see.join('; ')}` : ''}
        </span>
      </button>
      {open ? (
        <fieldset disabled={renaming} className={`space-y-2 pt-1 pr-4 pb-3 ${under ? 'pl-12' : 'pl-8'}`}>
          <Line label="Entry" value={name} onCommit={rename} />
          <Line
            label="See, or see also"
            value={of.see.join('; ')}
            placeholder="other entries, with ; between"
            onCommit={lead}
          />
          <ol aria-label={`Places of ${name}`}>
            {of.places.map((p) => (
              <li key={`${p.block} ${p.from}`}>
                <Tip words="Show it in the text">
                  <button
                    type="button"
                    className="min-h-6 w-full truncate text-left font-serif text-[14px] hover:text-spruce"
                    onClick={() => {
                      goTo({ section: p.section, block: p.block });
                      showStretch(p.block, p.from, p.until === p.block ? p.to : p.from + 1);
                    }}
                  >
                    <Words book={book} place={p} />
                  </button>
                </Tip>
              </li>
            ))}
          </ol>
          <Button
            kind="quiet"
            className="h-7 px-2"
            onClick={() => void onChange((b) => withoutEntry(b, name) ?? withoutSee(b, name))}
          >
            Delete the entry
          </Button>
        </fieldset>
      ) : null}
    </div>
  );
}

/** An entry that only leads elsewhere has no marks in the text. */
function withoutSee(b: Book, name: string): Change | null {
  const see = b.indexSee.filter((s) => s.term !== name);
  if (see.length === b.indexSee.length) return null;
  const change: Change = { type: 'set-index-see', see };
  return { type: 'group', label: `Delete the index entry “${name}”`, changes: [change] };
}

function Line({
  label,
  value,
  placeholder,
  onCommit,
}: {
  label: string;
  value: string;
  placeholder?: string;
  onCommit: (typed: string) => void;
}) {
  return (
    <label className="flex items-center gap-2 text-[13px]">
      <span className="w-24 shrink-0 text-ink-soft">{label}</span>
      <input
        key={value}
        className={lineOf('h-7')}
        defaultValue={value}
        placeholder={placeholder}
        onBlur={(e) => e.target.value !== value && onCommit(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') {
            e.currentTarget.value = value;
            e.stopPropagation();
            e.currentTarget.blur();
          }
        }}
      />
    </label>
  );
}

const AROUND = 28;

/** The passage with what stands around it. */
function Words({ book, place }: { book: Book; place: Indexed }) {
  const content = book.sections.find((s) => s.id === place.section)?.content;
  let text = '';
  content?.descendants((n) => {
    if (n.isTextblock && n.attrs.id === place.block) text = n.textBetween(0, n.content.size, '', '\ufffc');
    return !n.isTextblock;
  });
  const to = place.until === place.block ? place.to : text.length;
  const shown = (t: string): string => t.replaceAll('\ufffc', '');
  return (
    <>
      <span className="text-ink-soft">{shown(text.slice(Math.max(0, place.from - AROUND), place.from))}</span>
      {shown(text.slice(place.from, Math.min(to, place.from + AROUND * 2)))}
      {place.until === place.block ? (
        <span className="text-ink-soft">{shown(text.slice(to, to + AROUND))}</span>
      ) : (
        ' …'
      )}
    </>
  );
}
