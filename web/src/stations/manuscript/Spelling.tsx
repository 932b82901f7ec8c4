'use client';
/** Words that no dictionary knows: each with its places, what may be meant, and a way to say that it is right. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { changeOfEdits, lookedUp, type WordInBook } from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/controls';
import { showNothing, showStretch } from './highlight';
import { useMisspelt } from './spelling';

const SHOWN = 120;

export function Spelling({ onClose }: { onClose: () => void }) {
  const { session } = useTitle();
  const { book } = useBook();
  const { words, description, without } = useMisspelt();
  const [ownOpen, setOwnOpen] = useState(false);
  useEffect(() => showNothing, []);
  const setOwn = (list: readonly string[], label: string): void =>
    void session.change({
      type: 'group',
      label,
      changes: [{ type: 'set-words', words: [...new Set(list)].sort((a, b) => a.localeCompare(b)) }],
    });
  const name = (tag: string): string => new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  return (
    <Aside
      title="Spelling"
      onClose={onClose}
      note={
        without.length > 0
          ? `There is no dictionary for ${without.map(name).join(', ')}.`
          : `By the dictionary of ${name(book.record.language)}. Monospace text and addresses are left alone.`
      }
    >
      {words === null ? <p className="px-4 py-3 text-ink-soft">Looking the words up …</p> : null}
      {words?.length === 0 && without.length === 0 ? <p className="px-4 py-3">Every word is known.</p> : null}
      {description.length > 0 ? (
        <p className="border-b border-rule px-4 py-2" data-description>
          In the description: <em className="font-serif">{description.join(', ')}</em>
        </p>
      ) : null}
      <ul>
        {words?.slice(0, SHOWN).map((w) => (
          <Word
            key={`${w.language} ${w.word}`}
            word={w}
            onOwn={() => setOwn([...book.words, lookedUp(w.word)], `Keep "${w.word}" as it is`)}
          />
        ))}
      </ul>
      {words && words.length > SHOWN ? (
        <p className="px-4 py-2 text-ink-soft">
          The first {SHOWN} of {words.length.toLocaleString('en-GB')} are shown.
        </p>
      ) : null}
      <section className="border-t border-rule px-4 py-2">
        <button
          type="button"
          className="underline"
          aria-expanded={ownOpen}
          onClick={() => setOwnOpen(!ownOpen)}
        >
          The book’s own words: {book.words.length}
        </button>
        {ownOpen ? (
          <ul className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
            {book.words.map((w) => (
              <li key={w} className="font-serif">
                {w}{' '}
                <button
                  type="button"
                  className="font-sans text-[12px] text-ink-soft underline"
                  aria-label={`Take ${w} out of the book’s own words`}
                  onClick={() =>
                    setOwn(
                      book.words.filter((x) => x !== w),
                      `Look "${w}" up again`,
                    )
                  }
                >
                  take out
                </button>
              </li>
            ))}
          </ul>
        ) : null}
      </section>
    </Aside>
  );
}

function Word({ word: w, onOwn }: { word: WordInBook; onOwn: () => void }) {
  const { session, goTo } = useTitle();
  const [at, setAt] = useState(-1);
  const [meant, setMeant] = useState<string[] | null>(null);
  const [by, setBy] = useState('');
  const open = meant !== null;
  const show = (): void => {
    const next = (at + 1) % w.places.length;
    const p = w.places[next];
    setAt(next);
    if (!p) return;
    goTo({ section: p.section, block: p.block });
    showStretch(p.block, p.from, p.to);
  };
  const openIt = async (): Promise<void> => {
    show();
    if (open) return;
    const r = await fetch(`/api/spelling?language=${w.language}&word=${encodeURIComponent(w.word)}`);
    setMeant(r.ok ? ((await r.json()) as { suggestions: string[] }).suggestions : []);
  };
  const replace = async (word: string): Promise<void> => {
    await session.flush();
    const done = await session.change((b) =>
      changeOfEdits(
        b,
        w.places.map((p) => ({ ...p, by: word })),
        `Spell "${w.word}" as "${word}"`,
      ),
    );
    if (!done) toast('The text has changed meanwhile; the list is made anew.');
    else if (w.places.length > 1) toast(`${w.places.length} places were changed.`);
  };
  const first = w.places[Math.max(0, at)];
  return (
    <li className="border-b border-rule px-4 py-1.5" data-misspelt={w.word}>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="min-w-0 flex-1 truncate text-left hover:text-spruce"
          onClick={() => void openIt()}
        >
          <span className="font-serif text-[15px]">{w.word}</span>{' '}
          <span className="text-[13px] text-ink-soft">
            {w.places.length > 1 ? `${w.places.length} times` : 'once'}
            {w.name ? ', perhaps a name' : ''}
          </span>
        </button>
        <Button kind="quiet" className="h-7 px-2" onClick={onOwn}>
          It is right
        </Button>
      </div>
      {open && first ? (
        <div className="pt-1 pb-1.5">
          <p className="truncate font-serif text-[14px] text-ink-soft">
            {first.before.slice(-24)}
            <b className="font-normal text-rubric">{w.word}</b>
            {first.after.slice(0, 24)}
          </p>
          <div className="mt-1 flex flex-wrap items-center gap-1">
            {meant.map((m) => (
              <Button key={m} className="h-7 px-2 font-serif" onClick={() => void replace(m)}>
                {m}
              </Button>
            ))}
            <input
              aria-label={`Write ${w.word} as`}
              className="h-7 w-28 rounded-[2px] border border-edge bg-sheet px-1.5 font-serif"
              placeholder="or write it"
              value={by}
              onChange={(e) => setBy(e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && by.trim() && void replace(by.trim())}
            />
          </div>
        </div>
      ) : null}
    </li>
  );
}
