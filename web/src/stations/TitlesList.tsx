'use client';
/** All titles: the books on the table, a way to bring one in, and those put away. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState, type DragEvent } from 'react';
import { formatDistanceToNow } from 'date-fns';
import { toast } from 'sonner';
import { MANUSCRIPT_ENDINGS } from '@pagina/core/base';
import type { TitleRow } from '@pagina/data';
import { pastedManuscript, readFile, type Reading } from '@/title/reading';
import { Button, input } from '@/ui/controls';
import { ReadingLine } from '@/ui/ReadingLine';

interface Loaded {
  titles: TitleRow[];
  deleted: TitleRow[];
}

/** Milliseconds after which the list is drawn and nothing else is to be loaded. Not every browser tells when it is idle. */
const LOOKED_AT = 400;

export function TitlesList() {
  const router = useRouter();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [reading, setReading] = useState<Reading | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const [blank, setBlank] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const load = useCallback(async () => {
    const r = await fetch('/api/titles');
    setLoaded((await r.json()) as Loaded);
  }, []);
  useEffect(() => {
    load().catch(() => setRefusal('Pagina can’t be reached. Is it running?'));
  }, [load]);

  // While the list is looked at, the programs come that a title opens with.
  useEffect(() => {
    const wait = setTimeout(() => {
      void import('@/title/Shell');
      void import('./order/RunningOrder');
      void import('./manuscript/Manuscript');
    }, LOOKED_AT);
    return () => clearTimeout(wait);
  }, []);

  const bringIn = async (f: File | undefined): Promise<void> => {
    if (!f) return;
    setRefusal(null);
    try {
      const job = await readFile('/api/titles/import', f, setReading);
      if (job?.title) return router.push(`/titles/${job.title}/order`);
      setReading(null);
    } catch (e) {
      setReading(null);
      setRefusal(`${f.name}: ${(e as Error).message || 'it couldn’t be imported.'}`);
    }
  };
  const create = async (): Promise<void> => {
    const r = await fetch('/api/titles', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ title: blank ?? '' }),
    });
    const { title } = (await r.json()) as { title: string };
    router.push(`/titles/${title}/manuscript`);
  };
  const putAway = async (t: TitleRow, deleted: boolean): Promise<void> => {
    await fetch(`/api/titles/${t.id}`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ deleted }),
    });
    await load();
    if (deleted)
      toast(`“${t.name || 'Untitled'}” was deleted.`, {
        action: { label: 'Undo', onClick: () => void putAway(t, false) },
      });
  };
  const paste = (e: ClipboardEvent): void => {
    if (e.target instanceof HTMLInputElement) return;
    const pasted = pastedManuscript(e.clipboardData);
    if (!pasted) return;
    e.preventDefault();
    void bringIn(pasted);
  };
  const latestPaste = useRef(paste);
  useEffect(() => {
    latestPaste.current = paste;
  });
  useEffect(() => {
    const listen = (e: ClipboardEvent): void => latestPaste.current(e);
    addEventListener('paste', listen);
    return () => removeEventListener('paste', listen);
  }, []);
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    setOver(false);
    void bringIn(e.dataTransfer.files[0]);
  };

  return (
    <main
      className="flex h-dvh flex-col"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <header className="flex h-12 items-center gap-4 border-b border-rule px-6">
        <span className="font-serif text-[20px]">Pagina</span>
        <h1 className="column-head">Titles</h1>
        <span className="ml-auto" />
        <Button onClick={() => setBlank(blank === null ? '' : null)}>Start a blank title</Button>
        <Button kind="primary" onClick={() => file.current?.click()}>
          Import a manuscript
        </Button>
        <input
          ref={file}
          type="file"
          accept={MANUSCRIPT_ENDINGS.join(',')}
          className="hidden"
          aria-label="Manuscript file"
          onChange={(e) => void bringIn(e.target.files?.[0])}
        />
      </header>
      <div className="flex-1 overflow-auto px-6 py-5">
        {refusal ? (
          <p role="alert" className="mb-4 border-l-2 border-rubric pl-3 text-rubric">
            {refusal}
          </p>
        ) : null}
        {reading ? (
          <div className="mb-4">
            <ReadingLine reading={reading} />
          </div>
        ) : null}
        {blank !== null ? (
          <form
            className="mb-4 flex items-end gap-3 border-y border-rule bg-sheet px-4 py-3"
            onSubmit={(e) => {
              e.preventDefault();
              void create();
            }}
          >
            <label className="w-96">
              <span className="column-head mb-1 block">Title of the book</span>
              <input
                autoFocus
                className={input}
                value={blank}
                onChange={(e) => setBlank(e.target.value)}
                placeholder="You can change it at any time"
              />
            </label>
            <Button kind="primary" type="submit">
              Begin
            </Button>
          </form>
        ) : null}
        <div
          className={`border border-dashed px-5 py-4 ${over ? 'border-spruce bg-sheet' : 'border-edge'} mb-6`}
        >
          <p className="font-serif text-[17px]">Drop a manuscript anywhere on this page.</p>
          <p className="text-ink-soft">
            From a word processor (.docx, .odt, .rtf, .doc), an EPUB, HTML, Markdown, plain text, or the PDF
            of an earlier printing; or paste text here. It is read into parts and chapters, and nothing of its
            text is lost.
          </p>
        </div>
        {loaded === null ? null : loaded.titles.length === 0 ? (
          <p className="text-ink-soft">No title is here yet. Import a manuscript, or start a blank one.</p>
        ) : (
          <table className="w-full bg-sheet">
            <thead>
              <tr className="border-y border-rule text-left">
                {['Title', 'Author', 'Sections', 'Words', 'Changed', ''].map((h, i) => (
                  <th
                    key={i}
                    scope="col"
                    className={`column-head h-8 px-3 ${i === 2 || i === 3 ? 'text-right' : ''}`}
                  >
                    {h || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {loaded.titles.map((t) => (
                <tr key={t.id} className="border-b border-rule">
                  <td className="px-3 py-2">
                    <Link
                      href={`/titles/${t.id}/order`}
                      className="flex items-center gap-3 font-serif text-[18px] hover:underline"
                    >
                      {t.cover ? (
                        <img
                          src={`/api/files/${t.cover}?type=png`}
                          alt=""
                          className="h-12 w-8 object-cover"
                        />
                      ) : (
                        <span className="h-12 w-8 border border-rule bg-table" aria-hidden />
                      )}
                      {t.name || <em className="text-ink-soft">Untitled</em>}
                    </Link>
                  </td>
                  <td className="px-3">{t.author}</td>
                  <td className="px-3 text-right">{t.sections}</td>
                  <td className="px-3 text-right">{t.words.toLocaleString('en-GB')}</td>
                  <td className="px-3 text-ink-soft">
                    {formatDistanceToNow(t.changedAt, { addSuffix: true })}
                  </td>
                  <td className="px-3 text-right">
                    <Button
                      kind="quiet"
                      onClick={() => void putAway(t, true)}
                      aria-label={`Delete ${t.name || 'untitled'}`}
                    >
                      Delete
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {loaded && loaded.deleted.length > 0 ? (
          <details className="mt-6">
            <summary className="column-head cursor-pointer">Deleted ({loaded.deleted.length})</summary>
            <ul className="mt-2">
              {loaded.deleted.map((t) => (
                <li key={t.id} className="flex h-9 items-center gap-3">
                  <span className="font-serif text-ink-soft">{t.name || 'Untitled'}</span>
                  <Button kind="quiet" onClick={() => void putAway(t, false)}>
                    Restore
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        ) : null}
      </div>
    </main>
  );
}
