'use client';
/** The ebook that is open as it is, for all its views. */
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from 'react';
import { toast } from 'sonner';
import type { Command } from '@pagina/core/emend';
import { Stopped } from '@/ui/Stopped';
import { EbookSession, type EbookView, type Saved, type Snapshot } from './session';

/** A document, and a place in its source to open; `offset` null for the document alone. */
export interface Spot {
  path: string;
  offset: number | null;
}
interface Opened {
  session: EbookSession;
  spot: Spot;
  goTo: (spot: Spot) => void;
  /** Does what a command says, and tells how it went; null where it was refused. */
  run: (command: Command) => Promise<Saved | null>;
  undo: (redo: boolean) => void;
}
const Context = createContext<Opened | null>(null);

export function EbookProvider({ id, children }: { id: string; children: ReactNode }) {
  const [session, setSession] = useState<EbookSession | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [spot, setSpot] = useState<Spot>({ path: '', offset: null });
  useEffect(() => {
    let close = (): void => undefined;
    let gone = false;
    void (async () => {
      const r = await fetch(`/api/ebooks/${id}`);
      const view = (await r.json()) as EbookView & { message?: string };
      if (gone) return;
      if (!r.ok) return setTrouble(view.message ?? 'The ebook can’t be opened.');
      const opened = new EbookSession(view);
      close = opened.open();
      setSpot({
        path: view.documents.find((d) => d.linear && d.there)?.path ?? view.documents[0]?.path ?? '',
        offset: null,
      });
      setSession(opened);
    })().catch(() => setTrouble('Pagina can’t be reached. Is it running?'));
    return () => {
      gone = true;
      close();
    };
  }, [id]);
  const run = useCallback(
    async (command: Command): Promise<Saved | null> => {
      if (!session) return null;
      try {
        const saved = await session.command(command);
        for (const note of saved.notes) toast(note);
        return saved;
      } catch (e) {
        toast((e as Error).message, { duration: 8_000 });
        return null;
      }
    },
    [session],
  );
  const undo = useCallback(
    (redo: boolean): void => {
      session?.undo(redo).then(
        (label) =>
          toast(
            label === null
              ? `There is nothing to ${redo ? 'redo' : 'undo'}.`
              : `${redo ? 'Redone' : 'Undone'}: ${label.charAt(0).toLowerCase()}${label.slice(1)}.`,
            { duration: 1600 },
          ),
        (e: unknown) => toast((e as Error).message),
      );
    },
    [session],
  );
  const value = useMemo(
    () => session && { session, spot, goTo: setSpot, run, undo },
    [session, spot, run, undo],
  );
  if (trouble) return <Stopped why={trouble} />;
  if (!value) return <p className="p-8 text-ink-soft">Opening the ebook …</p>;
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export function useEbook(): Opened {
  const opened = useContext(Context);
  if (!opened) throw new Error('useEbook is called outside an ebook');
  return opened;
}
/** The ebook as it is now; the component is drawn again when it changes. */
export function useSnapshot(): Snapshot {
  const { session } = useEbook();
  return useSyncExternalStore(session.subscribe, session.snapshot, session.snapshot);
}
/** A part of text, read when it is asked for; a sentence where it can’t be. */
export function useSource(path: string): { text: string | null; refusal: string | null } {
  const { session } = useEbook();
  const { turn } = useSnapshot();
  const [refusal, setRefusal] = useState<{ path: string; why: string } | null>(null);
  const text = path ? (session.known(path) ?? null) : null;
  useEffect(() => {
    if (!path || text !== null) return;
    session.source(path).then(
      () => setRefusal(null),
      (e: unknown) => setRefusal({ path, why: (e as Error).message }),
    );
  }, [session, path, text, turn]);
  return { text, refusal: refusal?.path === path ? refusal.why : null };
}
