/** Ebooks that are emended as they are: those last asked for stay open in this process. */
import type { Outcome } from '@pagina/core/base';
import type { Emended } from '@pagina/core/emend';
import { EbookCache, type EbookRow, type EbookSaved, type Store } from '@pagina/data';
import { Unanswerable } from './answer';
import { route } from './route';
import { store } from './store';

const kept = globalThis as { paginaEbooks?: EbookCache };
export const ebookCache = (kept.paginaEbooks ??= new EbookCache());

/** A route under `/api/ebooks/[id]`: the ebook must exist. */
export const ebookRoute = (
  handle: (request: Request, s: Store, ebook: { row: EbookRow; state: Emended }) => Promise<Response>,
) =>
  route<{ id: string }>(async (request, { id }) => {
    const s = await store();
    const read = await ebookCache.read(s, id);
    if (!read) throw new Unanswerable('This ebook no longer exists.', 404);
    return handle(request, s, read);
  });

/** What came of it. Throws `Unanswerable` with the sentence of a refusal. */
export function orSay<T>(outcome: Outcome<T>): T {
  if (outcome.ok) return outcome.value;
  throw new Unanswerable(outcome.refusal.message, outcome.refusal.code === 'ebook/busy' ? 503 : 409);
}

/** What a window is told of a save: which parts are other now, and not how. */
export const told = ({ changes, ...saved }: EbookSaved) => ({
  ...saved,
  paths: [...new Set(changes.flatMap((c) => (c.op === 'rename' ? [c.path, c.to] : [c.path])))],
});
