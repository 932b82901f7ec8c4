'use client';
/** What proofreaders of an edition leave behind: pages that were read, comments, sign-offs. Followed over all windows. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { Comment, CommentAbout, Impression, SignOff } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { useComposed, useTitle } from '@/title/context';
import { followTitle } from '@/title/pulse';

interface Loaded {
  read: string[];
  comments: Comment[];
  signOffs: SignOff[];
}
export interface Proofing {
  /** False until it is known what was read. */
  known: boolean;
  /** Marks of views that were read. */
  read: ReadonlySet<string>;
  /** Of this edition, oldest first; answers among them. */
  comments: readonly Comment[];
  /** Of this edition, newest first. */
  signOffs: readonly SignOff[];
  mark: (marks: readonly string[], read: boolean) => Promise<void>;
  /** Answers whether it was saved. */
  comment: (words: string, about: CommentAbout, answers?: string) => Promise<boolean>;
  close: (id: string, closed: boolean) => Promise<void>;
  /** Answers the sign-off; null where something stands in its way, which is said. */
  sign: (product: string) => Promise<SignOff | null>;
  withdraw: (id: string) => Promise<void>;
}

const AWAY = 'Pagina can’t be reached just now. Try again in a moment.';

export function useProofing(edition: string): Proofing {
  const { session } = useTitle();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const base = `/api/titles/${session.id}/proof`;
  const load = useCallback(async (): Promise<void> => {
    const r = await fetch(`${base}?edition=${encodeURIComponent(edition)}`).catch(() => null);
    if (r?.ok) setLoaded((await r.json()) as Loaded);
  }, [base, edition]);
  useEffect(() => {
    setLoaded(null);
    void load();
    return followTitle(session.id, () => void load());
  }, [load, session.id]);
  /** Says what went wrong; answers what came back, or null. */
  const ask = useCallback(
    async (path: string, method: string, body?: unknown): Promise<Response | null> => {
      const r = await fetch(`${base}/${path}`, {
        method,
        ...(body === undefined
          ? {}
          : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
      }).catch(() => null);
      if (!r?.ok) toast(r ? ((await r.json()) as { message: string }).message : AWAY);
      void load();
      return r?.ok ? r : null;
    },
    [base, load],
  );
  return useMemo(
    (): Proofing => ({
      known: loaded !== null,
      read: new Set(loaded?.read),
      comments: loaded?.comments.filter((c) => c.edition === edition) ?? [],
      signOffs: loaded?.signOffs.filter((s) => s.edition === edition) ?? [],
      mark: async (marks, read) => {
        const some = new Set(marks);
        // Shown at once; a failure loads what is saved.
        setLoaded(
          (now) => now && { ...now, read: [...now.read.filter((m) => !some.has(m)), ...(read ? some : [])] },
        );
        await ask('read', 'POST', { edition, marks: [...some], read });
      },
      comment: async (words, about, answers = '') =>
        (await ask('comments', 'POST', { id: crypto.randomUUID(), edition, answers, words, about })) !== null,
      close: async (id, closed) => void (await ask('comments', 'PATCH', { id, closed })),
      sign: async (product) => {
        const r = await ask('sign-offs', 'POST', { product });
        return r && ((await r.json()) as SignOff);
      },
      withdraw: async (id) => void (await ask(`sign-offs?id=${encodeURIComponent(id)}`, 'DELETE')),
    }),
    [loaded, edition, ask],
  );
}

/** What a file shows; null until it is known, or where that wasn’t kept. */
export function useFileImpression(file: Product | null): Impression | null {
  const { session } = useTitle();
  const [known, setKnown] = useState<{ file: string; impression: Impression } | null>(null);
  const id = file?.impression ? file.id : null;
  useEffect(() => {
    if (!id) return;
    let gone = false;
    void fetch(`/api/titles/${session.id}/proof/impressions/${id}`)
      .then(async (r) => (r.ok ? ((await r.json()) as Impression) : null))
      .catch(() => null)
      .then((impression) => !gone && impression && setKnown({ file: id, impression }));
    return () => {
      gone = true;
    };
  }, [session.id, id]);
  return known && known.file === id ? known.impression : null;
}

/** What the pages show as they are set now. */
export function usePagesImpression(): Impression | null {
  const { composer } = useTitle();
  const { composed, generation } = useComposed();
  const [known, setKnown] = useState<{ generation: number; impression: Impression } | null>(null);
  useEffect(() => {
    if (!composed) return;
    let gone = false;
    void composer.impression().then((impression) => {
      if (!gone && impression) setKnown({ generation, impression });
    });
    return () => {
      gone = true;
    };
  }, [composer, composed, generation]);
  // Until the newer ones are known the pages before them are shown as they were judged.
  return known?.impression.views.length === composed?.pages.length ? (known?.impression ?? null) : null;
}
