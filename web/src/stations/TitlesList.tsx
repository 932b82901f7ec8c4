'use client';
/** All titles: the books on the table, a way to import one, and the deleted ones. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { formatDistanceToNow } from 'date-fns';
import { toast } from 'sonner';
import { MANUSCRIPT_ENDINGS, MOST_BESIDE } from '@pagina/core/base';
import { OUTLETS } from '@pagina/core/outlets';
import type { TitleRow } from '@pagina/data';
import { manuscriptAmong, pastedManuscript, readFile, type Reading } from '@/title/reading';
import { Button, lookOfButton } from '@/ui/Button';
import { lineOf } from '@/ui/Field';
import { Collapsible } from '@/ui/Collapsible';
import { DropSurface, FileButton } from '@/ui/FileDrop';
import { LineForm } from '@/ui/LineForm';
import { ReadingLine } from '@/ui/ReadingLine';
import { Table, type Column } from '@/ui/Table';
import { OpenedEbooks, sendEbook } from '@/emend/OpenedEbooks';
import { bookTitle } from '@/forms/lines';

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
  /** Name of an ebook that is on its way. */
  const [opening, setOpening] = useState<string | null>(null);
  const [blank, setBlank] = useState(false);
  const [find, setFind] = useState('');
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

  const bringIn = async (files: readonly File[]): Promise<void> => {
    if (files.length === 0 || reading) return;
    setRefusal(null);
    const found = manuscriptAmong(files);
    if (!found || found.beside.length > MOST_BESIDE)
      return setRefusal(
        found
          ? `${MOST_BESIDE} files can come with a manuscript at once. Drop fewer, and add the others later.`
          : 'There is no manuscript among these files. Drop it together with them.',
      );
    const { manuscript, beside } = found;
    try {
      const job = await readFile('/api/titles/import', manuscript, setReading, beside);
      if (job?.title) return router.push(`/titles/${job.title}/order`);
      setReading(null);
    } catch (e) {
      setReading(null);
      setRefusal(`${manuscript.name}: ${(e as Error).message || 'it couldn’t be imported.'}`);
    }
  };
  /** A manuscript as authors send it ships with Pagina, so that one can see what an import does. */
  const trySample = async (): Promise<void> => {
    const r = await fetch('/sample-manuscript.docx').catch(() => null);
    if (!r?.ok) return setRefusal('The sample manuscript can’t be loaded just now.');
    await bringIn([new File([await r.blob()], 'Sample manuscript.docx')]);
  };
  const openAsItIs = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setRefusal(null);
    setOpening(file.name);
    const sent = await sendEbook(file).catch((e: unknown) => e as Error);
    setOpening(null);
    if (sent instanceof Error) setRefusal(`${file.name}: ${sent.message}`);
    else router.push(`/ebooks/${sent}/documents`);
  };
  const create = async (title: string): Promise<boolean> => {
    const r = await fetch('/api/titles', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ title }),
    }).catch(() => null);
    const made = r && ((await r.json()) as { title?: string; message?: string });
    if (made?.title) router.push(`/titles/${made.title}/manuscript`);
    else setRefusal(made?.message ?? 'Pagina can’t be reached. Is it running?');
    return made?.title !== undefined;
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
    void bringIn([pasted]);
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

  const latestPutAway = useRef(putAway);
  useEffect(() => {
    latestPutAway.current = putAway;
  });
  const columns = useMemo(() => columnsWith((t) => void latestPutAway.current(t, true)), []);

  return (
    <DropSurface className="h-dvh" onFiles={(files) => void bringIn(files)}>
      {(over) => (
        <main className="flex h-dvh flex-col">
          <header className="flex h-12 items-center gap-4 border-b border-rule px-6">
            <span className="font-serif text-[20px]">Pagina</span>
            <h1 className="column-head">Titles</h1>
            <span className="ml-auto" />
            <input
              type="search"
              aria-label="Find a title"
              placeholder="Find a title or an author"
              className={lineOf('w-64')}
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <NewsLink />
            <Link href="/imprint" className={lookOfButton('quiet', '')}>
              Imprint
            </Link>
            <Button aria-expanded={blank} onClick={() => setBlank(!blank)}>
              Start a blank title
            </Button>
            <FileButton label="EPUB file" endings={['.epub']} onFiles={(files) => void openAsItIs(files[0])}>
              Open an EPUB as it is
            </FileButton>
            <FileButton
              kind="primary"
              label="Manuscript file"
              endings={MANUSCRIPT_ENDINGS}
              several
              onFiles={(files) => void bringIn(files)}
            >
              Import a manuscript
            </FileButton>
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
            {opening ? (
              <p role="status" className="mb-4 border-y border-rule bg-sheet px-4 py-3">
                Opening {opening} …
              </p>
            ) : null}
            {blank ? (
              <LineForm
                className="mb-4 w-[520px] border-y border-rule bg-sheet px-4 py-3"
                heading
                primary
                optional
                autoFocus
                label="Title of the book"
                schema={bookTitle}
                placeholder="You can change it at any time"
                action="Begin"
                onSend={create}
              />
            ) : null}
            <div
              className={`border border-dashed px-5 py-4 ${over ? 'border-spruce bg-sheet' : 'border-edge'} mb-6`}
            >
              <p className="font-serif text-[17px]">Drop a manuscript anywhere on this page.</p>
              <p className="text-ink-soft">
                From a word processor (.docx, .odt, .rtf, .doc), an EPUB, HTML, Markdown, plain text, or the
                PDF of an earlier printing; or paste text here. It is read into parts and chapters, and
                nothing of its text is lost. A cover, a portrait, the imprint’s device and a sheet of
                particulars (title, author, ISBN and so on) can be dropped with it.
              </p>
              <Button className="mt-2 h-7 px-2" disabled={reading !== null} onClick={() => void trySample()}>
                Try it with a sample manuscript
              </Button>
            </div>
            {loaded === null ? null : loaded.titles.length === 0 ? (
              <p className="text-ink-soft">No titles yet. Import a manuscript, or start a blank title.</p>
            ) : (
              <Table
                label="Titles"
                className="bg-sheet"
                columns={columns}
                rows={loaded.titles}
                keyOf={(t) => t.id}
                find={find}
                none={`No title or author has “${find.trim()}”.`}
              />
            )}
            <OpenedEbooks />
            {loaded && loaded.deleted.length > 0 ? (
              <Collapsible
                className="mt-6"
                heading={<span className="column-head">Deleted ({loaded.deleted.length})</span>}
              >
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
              </Collapsible>
            ) : null}
          </div>
        </main>
      )}
    </DropSurface>
  );
}

/** Where the news are, and how much is new. It is asked once, and says no more than a number. */
function NewsLink() {
  const [fresh, setFresh] = useState(0);
  useEffect(() => {
    fetch('/api/news?count')
      .then(async (r) => (r.ok ? setFresh(((await r.json()) as { fresh: number }).fresh) : undefined))
      .catch(() => undefined);
  }, []);
  return (
    <Link href="/news" className={lookOfButton('quiet', '')}>
      {fresh > 0 ? `News (${fresh})` : 'News'}
    </Link>
  );
}

/** Names of outlets in these states; an outlet of one’s own by its id. */
function outletsIn(t: TitleRow, ...states: string[]): string[] {
  return Object.entries(t.places)
    .filter(([, state]) => states.includes(state))
    .map(([id]) => OUTLETS.find((o) => o.id === id)?.name ?? id);
}

function Places({ of }: { of: TitleRow }) {
  const [on, held, under] = [
    outletsIn(of, 'on sale', 'pre-order'),
    outletsIn(of, 'held'),
    outletsIn(of, 'received', 'with the shop'),
  ];
  return (
    <span className="block max-w-64 text-[13px]">
      {on.length > 0 ? <span className="block text-spruce">{on.join(', ')}</span> : null}
      {held.length > 0 ? <span className="block text-rubric">held: {held.join(', ')}</span> : null}
      {under.length > 0 ? (
        <span className="block text-ink-soft">with the shop: {under.join(', ')}</span>
      ) : null}
    </span>
  );
}

const columnsWith = (onDelete: (t: TitleRow) => void): Column<TitleRow>[] => [
  {
    id: 'title',
    name: 'Title',
    heads: true,
    sortBy: (t) => t.name,
    className: 'py-2',
    cell: (t) => (
      <Link
        href={`/titles/${t.id}/order`}
        className="flex items-center gap-3 font-serif text-[18px] hover:underline"
      >
        {t.cover ? (
          <img
            src={`/api/files/${t.cover}?type=png`}
            alt=""
            className="h-12 w-8 object-contain object-left"
          />
        ) : (
          <span className="h-12 w-8 border border-rule bg-table" aria-hidden />
        )}
        {t.name || <em className="text-ink-soft">Untitled</em>}
      </Link>
    ),
  },
  { id: 'author', name: 'Author', sortBy: (t) => t.author, cell: (t) => t.author },
  { id: 'sections', name: 'Sections', right: true, sortBy: (t) => t.sections, cell: (t) => t.sections },
  {
    id: 'words',
    name: 'Words',
    right: true,
    sortBy: (t) => t.words,
    cell: (t) => t.words.toLocaleString('en-GB'),
  },
  {
    id: 'places',
    name: 'On sale',
    sortBy: (t) => outletsIn(t, 'on sale', 'pre-order').length,
    cell: (t) => <Places of={t} />,
  },
  {
    id: 'changed',
    name: 'Changed',
    sortBy: (t) => t.changedAt,
    className: 'text-ink-soft',
    cell: (t) => formatDistanceToNow(t.changedAt, { addSuffix: true }),
  },
  {
    id: 'actions',
    name: 'Actions',
    silent: true,
    right: true,
    cell: (t) => (
      <Button kind="quiet" onClick={() => onDelete(t)} aria-label={`Delete ${t.name || 'untitled'}`}>
        Delete
      </Button>
    ),
  },
];
