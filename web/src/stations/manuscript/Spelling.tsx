'use client';
/** Words that no dictionary knows: each with its places, what may be meant, and a way to say that it is right. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { changeOfEdits, firstWords, lastWords, lookedUp, type WordInBook } from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { showNothing, showStretch } from './highlight';
import { useMisspelt } from './spelling';

const SHOWN = 120;

export function Spelling({ onClose }: { onClose: () => void }) {
  const { session } = useTitle();
  const { book } = useBook();
  const { words, description, without } = useMisspelt();
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
          : `Uses the dictionary of ${name(book.record.language)}. Monospace text and addresses are left alone.`
      }
    >
      {words === null ? <p className="px-4 py-3 text-ink-soft">Checking the words …</p> : null}
      {words?.length === 0 && without.length === 0 ? (
        <p className="px-4 py-3">No misspellings found.</p>
      ) : null}
      {description.length > 0 ? (
        <section className="border-b border-rule" aria-label="In the description" data-description>
          <h3 className="column-head px-4 pt-2">In the description</h3>
          <ul>
            {description.map((word) => (
              <DescriptionWord
                key={word}
                word={word}
                onOwn={() => setOwn([...book.words, lookedUp(word)], `Keep “${word}” as it is`)}
              />
            ))}
          </ul>
        </section>
      ) : null}
      <ul>
        {words?.slice(0, SHOWN).map((w) => (
          <Word
            key={`${w.language} ${w.word}`}
            word={w}
            onOwn={() => setOwn([...book.words, lookedUp(w.word)], `Keep “${w.word}” as it is`)}
          />
        ))}
      </ul>
      {words && words.length > SHOWN ? (
        <p className="px-4 py-2 text-ink-soft">
          The first {SHOWN} of {words.length.toLocaleString('en-GB')} are shown.
        </p>
      ) : null}
      <section className="border-t border-rule px-4 py-2">
        <Collapsible heading={`The book’s own words: ${book.words.length}`}>
          <ul className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
            {book.words.map((w) => (
              <li key={w} className="font-serif">
                {w}{' '}
                <button
                  type="button"
                  className="font-sans text-[12px] text-ink-soft underline"
                  aria-label={`Remove ${w} from the book’s own words`}
                  onClick={() =>
                    setOwn(
                      book.words.filter((x) => x !== w),
                      `Remove “${w}” from the book’s words`,
                    )
                  }
                >
                  remove
                </button>
              </li>
            ))}
          </ul>
        </Collapsible>
      </section>
    </Aside>
  );
}

/** A word of the description: it is shown in its sentence and put right in the record. */
function DescriptionWord({ word, onOwn }: { word: string; onOwn: () => void }) {
  const { session } = useTitle();
  const { book } = useBook();
  const [open, setOpen] = useState(false);
  const { description, language } = book.record;
  const all = new RegExp(`(?<![\\p{L}\\p{M}])${word}(?![\\p{L}\\p{M}])`, 'gu');
  const at = description.search(all);
  const replace = (by: string): void =>
    void session.change((b) => ({
      type: 'group',
      label: `Spell “${word}” as “${by}”`,
      changes: [{ type: 'set-record', fields: { description: b.record.description.replace(all, () => by) } }],
    }));
  return (
    <li className="px-4 py-1.5" data-misspelt={word}>
      <Line
        word={word}
        times={description.match(all)?.length ?? 1}
        onOpen={() => setOpen(true)}
        onOwn={onOwn}
      />
      {open ? (
        <Meant
          word={word}
          language={language}
          before={lastWords(description.slice(0, at), 24)}
          after={firstWords(description.slice(at + word.length), 24)}
          onReplace={replace}
        />
      ) : null}
    </li>
  );
}

function Word({ word: w, onOwn }: { word: WordInBook; onOwn: () => void }) {
  const { session, goTo } = useTitle();
  const [at, setAt] = useState(-1);
  const [open, setOpen] = useState(false);
  /** Opens the word and goes to its next place. */
  const show = (): void => {
    setOpen(true);
    const next = (at + 1) % w.places.length;
    const p = w.places[next];
    setAt(next);
    if (!p) return;
    goTo({ section: p.section, block: p.block });
    showStretch(p.block, p.from, p.to);
  };
  const replace = async (word: string): Promise<void> => {
    await session.flush();
    const done = await session.change((b) =>
      changeOfEdits(
        b,
        w.places.map((p) => ({ ...p, by: word })),
        `Spell “${w.word}” as “${word}”`,
      ),
    );
    if (!done) toast('The text has changed since; the list has been updated.');
    else if (w.places.length > 1) toast(`${w.places.length} places were changed.`);
  };
  const first = w.places[Math.max(0, at)];
  return (
    <li className="border-b border-rule px-4 py-1.5" data-misspelt={w.word}>
      <Line word={w.word} times={w.places.length} name={w.name} onOpen={show} onOwn={onOwn} />
      {open && first ? (
        <Meant
          word={w.word}
          language={w.language}
          before={lastWords(first.before, 24)}
          after={firstWords(first.after, 24)}
          onReplace={(word) => void replace(word)}
        />
      ) : null}
    </li>
  );
}

function Line(p: { word: string; times: number; name?: boolean; onOpen: () => void; onOwn: () => void }) {
  return (
    <div className="flex items-center gap-2">
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left hover:text-spruce"
        onClick={p.onOpen}
      >
        <span className="font-serif text-[15px]">{p.word}</span>{' '}
        <span className="text-[13px] text-ink-soft">
          {p.times > 1 ? `${p.times} times` : 'once'}
          {p.name ? ', perhaps a name' : ''}
        </span>
      </button>
      <Button kind="quiet" className="h-7 px-2" onClick={p.onOwn}>
        Add to the book’s words
      </Button>
    </div>
  );
}

/** A word among its neighbours, and what may be meant by it. */
function Meant({
  word,
  language,
  before,
  after,
  onReplace,
}: {
  word: string;
  language: string;
  before: string;
  after: string;
  onReplace: (by: string) => void;
}) {
  const [meant, setMeant] = useState<string[]>([]);
  const [by, setBy] = useState('');
  useEffect(() => {
    let gone = false;
    void fetch(`/api/spelling?language=${language}&word=${encodeURIComponent(word)}`)
      .then(async (r) => (r.ok ? ((await r.json()) as { suggestions: string[] }).suggestions : []))
      .then((list) => gone || setMeant(list))
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [word, language]);
  return (
    <div className="pt-1 pb-1.5">
      <p className="truncate font-serif text-[14px] text-ink-soft">
        {before}
        <b className="font-normal text-rubric">{word}</b>
        {after}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-1">
        {meant.map((m) => (
          <Button key={m} className="h-7 px-2 font-serif" onClick={() => onReplace(m)}>
            {m}
          </Button>
        ))}
        <input
          aria-label={`Write ${word} as`}
          className="h-7 w-28 rounded-[2px] border border-edge bg-sheet px-1.5 font-serif"
          placeholder="or type a correction"
          value={by}
          onChange={(e) => setBy(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && by.trim() && onReplace(by.trim())}
        />
      </div>
    </div>
  );
}
