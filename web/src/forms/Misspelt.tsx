'use client';
/** Words that no dictionary knows, wherever they are listed: what may be meant by each, and a way to say that it is right. */
import { useEffect, useState } from 'react';
import { plainDescription, withStretches } from '@pagina/core/record';
import { firstWords, lastWords } from '@pagina/core/tidy';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';

/** A word of the description: it is shown in its sentence and put right in the record. */
export function DescriptionWord({ word, onOwn }: { word: string; onOwn: () => void }) {
  const { session } = useTitle();
  const { book } = useBook();
  const [open, setOpen] = useState(false);
  const { language } = book.record;
  const description = plainDescription(book.record.description);
  const all = new RegExp(`(?<![\\p{L}\\p{M}])${word}(?![\\p{L}\\p{M}])`, 'gu');
  const at = description.search(all);
  const replace = (by: string): void =>
    void session.change((b) => ({
      type: 'group',
      label: `Spell “${word}” as “${by}”`,
      changes: [
        {
          type: 'set-record',
          fields: { description: withStretches(b.record.description, (s) => s.replace(all, () => by)) },
        },
      ],
    }));
  return (
    <li className="px-4 py-1.5" data-misspelt={word}>
      <MisspeltLine
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

export function MisspeltLine(p: {
  word: string;
  times: number;
  name?: boolean;
  onOpen: () => void;
  onOwn: () => void;
}) {
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
export function Meant({
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
