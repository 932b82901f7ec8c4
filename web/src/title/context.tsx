'use client';
/** The open title, its composer, and where the author is in it, for all stations. */
import { shownBy } from '@pagina/core/book';
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
import type { Place } from '@pagina/core/base';
import { Stopped } from '@/ui/Stopped';
import { Checker } from './checker';
import { Composer } from './composer';
import { TitleSession, type Snapshot } from './session';
import { tabName } from './tab';

interface Title {
  session: TitleSession;
  composer: Composer;
  checker: Checker;
  /** Where the author is: stations scroll there, the strip marks it. */
  place: (Place & { page?: number }) | null;
  goTo: (place: Place & { page?: number }) => void;
  /** Page of the print edition under the cursor: the strip follows it. */
  cursor: number | null;
  setCursor: (page: number) => void;
}
const Context = createContext<Title | null>(null);

export function TitleProvider({ id, children }: { id: string; children: ReactNode }) {
  const [title, setTitle] = useState<{ session: TitleSession; composer: Composer; checker: Checker } | null>(
    null,
  );
  const [trouble, setTrouble] = useState<string | null>(null);
  const [place, setPlace] = useState<(Place & { page?: number }) | null>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  useEffect(() => {
    let close = (): void => undefined;
    let gone = false;
    void (async () => {
      const r = await fetch(`/api/titles/${id}`);
      const loaded = (await r.json()) as ConstructorParameters<typeof TitleSession>[1] & { message?: string };
      if (gone) return;
      if (!r.ok) return setTrouble(loaded.message ?? 'The title can’t be opened.');
      const tab = await tabName();
      if (gone) return;
      const session = new TitleSession(
        id,
        loaded,
        localStorage.getItem(`edition/${id}`),
        (m) => toast(m),
        tab,
      );
      const composer = new Composer();
      const checker = new Checker(composer);
      const end = session.open();
      close = () => {
        end();
        checker.close();
        composer.close();
      };
      setTitle({ session, composer, checker });
    })().catch(() => setTrouble('Pagina can’t be reached. Is it running?'));
    return () => {
      gone = true;
      close();
    };
  }, [id]);
  const goTo = useCallback((p: Place & { page?: number }) => {
    setPlace({ ...p });
    setCursor(null);
  }, []);
  const value = useMemo(
    () => title && { ...title, place, goTo, cursor, setCursor },
    [title, place, goTo, cursor],
  );
  if (trouble) return <Stopped why={trouble} />;
  if (!value) return <p className="p-8 text-ink-soft">Opening the title …</p>;
  return (
    <Context.Provider value={value}>
      <Composes />
      {children}
    </Context.Provider>
  );
}

/** Keeps the composer at the book as it is. */
function Composes() {
  const { session, composer } = useTitle();
  const { book, edition } = useBook();
  useEffect(() => {
    composer.show(book, shownBy(book, edition)?.id ?? edition);
    localStorage.setItem(`edition/${session.id}`, edition);
  }, [book, edition, composer, session]);
  return null;
}

export function useTitle(): Title {
  const t = useContext(Context);
  if (!t) throw new Error('there is no open title here');
  return t;
}
export function useBook(): Snapshot {
  const { session } = useTitle();
  return useSyncExternalStore(session.subscribe, session.get, session.get);
}
export function useComposed() {
  const { composer } = useTitle();
  return useSyncExternalStore(composer.subscribe, composer.get, composer.get);
}
