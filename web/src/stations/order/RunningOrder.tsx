'use client';
/** The running order: a ruled ledger of sections by matter and part, with one lane an edition. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { bookFromJson } from '@pagina/core/book';
import { followed, readFile, type Reading } from '@/title/reading';
import { DropSurface } from '@/ui/FileDrop';
import { Panes } from '@/ui/Panes';
import { ReadingLine } from '@/ui/ReadingLine';
import { useBook, useTitle } from '@/title/context';
import { viewOf } from '@/title/stations';
import { useActions } from './actions';
import { useArrival } from './arrival';
import { useRowFacts } from './facts';
import { IntakeSheet } from './IntakeSheet';
import { Ledger } from './Ledger';
import { Particulars } from './Particulars';
import { Renewal, type NewerManuscript } from './Renewal';
import { useSelection } from './selection';
import { Tools } from './Tools';

export function RunningOrder() {
  const { session, goTo, place } = useTitle();
  const { book } = useBook();
  const router = useRouter();
  const facts = useRowFacts();
  const actions = useActions();
  const order = useMemo(() => book.sections.map((s) => s.id), [book.sections]);
  const selection = useSelection(order);
  const { choose, at, ids } = selection;
  const [renaming, setRenaming] = useState<string | null>(null);
  const [particulars, setParticulars] = useState(true);
  const [reading, setReading] = useState<Reading | null>(null);
  const [newer, setNewer] = useState<NewerManuscript | null>(null);
  const [asRead, setAsRead] = useState(false);
  const { kept, accept, markBack } = useArrival(session.id);
  /** The row the strip was sent to last: hearing of it again must not choose it again, when another is chosen already. */
  const told = useRef<string | null>(null);
  useEffect(() => {
    if (!place || place.section === told.current) return;
    told.current = place.section;
    choose(place.section);
    // A place come to from elsewhere is chosen once.
  }, [place]);
  useEffect(() => {
    if (!at || at === place?.section) return;
    told.current = at;
    goTo({ section: at });
    // The strip follows the row that is chosen.
  }, [at]);
  const open = useCallback(
    (id: string) => {
      goTo({ section: id });
      router.push(viewOf(session.get().book, id));
    },
    [goTo, router, session],
  );
  const bringIn = async (file: File): Promise<void> => {
    try {
      const job = await readFile(`/api/titles/${session.id}/renewal`, file, setReading);
      if (!job) return;
      const r = await fetch(`/api/titles/${session.id}/renewal?job=${job.id}`);
      const read = (await r.json()) as Omit<NewerManuscript, 'book' | 'before'> & {
        book: unknown;
        before: unknown;
        message?: string;
      };
      const parsed = r.ok ? bookFromJson(read.book) : null;
      if (!parsed?.ok) throw new Error(read.message ?? parsed?.refusal.message);
      const before = read.before ? bookFromJson(read.before) : null;
      await session.flush();
      setNewer({ ...read, book: parsed.value, before: before?.ok ? before.value : null });
    } catch (e) {
      toast(`${file.name}: ${(e as Error).message || 'it couldn’t be imported.'}`);
    } finally {
      setReading(null);
    }
  };
  /** Reads the manuscript once more for a title of its own; the one that it takes the place of can be restored. */
  const readAgain = async (name: string, changes: 'accept' | 'reject'): Promise<void> => {
    const send = (path: string, method: string, body: object): Promise<Response> =>
      fetch(`/api/titles/${session.id}${path}`, {
        method,
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
    try {
      const job = await followed(await send('/arrival', 'POST', { changes }), name, setReading);
      if (!job?.title) return setReading(null);
      await send('', 'PATCH', { deleted: true });
      location.assign(`/titles/${job.title}/order`);
    } catch (e) {
      setReading(null);
      toast(`${name}: ${(e as Error).message || 'it couldn’t be imported.'}`);
    }
  };
  const chosen = book.sections.filter((s) => selection.chosen.has(s.id));
  if (kept && (asRead || kept.acceptedAt === null))
    return (
      <IntakeSheet
        arrival={kept.arrival}
        accepted={kept.acceptedAt !== null}
        onAccept={() => {
          setAsRead(false);
          if (kept.acceptedAt === null) void accept();
        }}
        onBack={markBack}
        reading={reading}
        onAgain={(changes) => void readAgain(kept.arrival.name, changes)}
      />
    );
  if (newer) return <Renewal newer={newer} onDone={() => setNewer(null)} />;
  return (
    <DropSurface className="flex h-full flex-col" onFiles={([file]) => file && void bringIn(file)}>
      <Tools
        chosen={chosen}
        all={book.sections}
        name={facts.get(ids[0] ?? '')?.heading.label ?? ''}
        actions={actions}
        particulars={particulars}
        onParticulars={() => setParticulars(!particulars)}
        onAdded={(id) => {
          choose(id);
          setRenaming(id);
        }}
        onOpen={open}
        onNewer={(file) => void bringIn(file)}
        onAsRead={kept ? () => setAsRead(true) : null}
      />
      {reading ? <ReadingLine reading={reading} /> : null}
      <Panes
        name="particulars"
        width={288}
        beside={particulars ? <Particulars chosen={chosen} facts={facts} actions={actions} /> : null}
      >
        <Ledger
          facts={facts}
          selection={selection}
          actions={actions}
          renaming={renaming}
          onRename={setRenaming}
          onOpen={open}
        />
      </Panes>
    </DropSurface>
  );
}
