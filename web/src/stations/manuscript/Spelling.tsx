'use client';
/** Words that no dictionary knows: each with its places, what may be meant, and a way to say that it is right. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { changeOfEdits, firstWords, lastWords, lookedUp, type WordInBook } from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { Collapsible } from '@/ui/Collapsible';
import { DescriptionWord, Meant, MisspeltLine } from '@/forms/Misspelt';
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
      <MisspeltLine word={w.word} times={w.places.length} name={w.name} onOpen={show} onOwn={onOwn} />
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
