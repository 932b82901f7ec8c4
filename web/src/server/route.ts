/**
 * What every route has in common: the door, a title that exists, and a sentence for whatever goes wrong. A route is
 * written as a function of the request and its parameters that answers or throws.
 */
import { DiskFull, isFull, revisionOf, type Store } from '@pagina/data';
import { problem, Unanswerable } from './answer';
import { barred } from './door';
import { store } from './store';

type Handler<P> = (request: Request, params: P) => Promise<Response>;
type NextHandler<P> = (request: Request, context: { params: Promise<P> }) => Promise<Response>;

export function route<P = Record<never, string>>(handle: Handler<P>): NextHandler<P> {
  return async (request, { params }) => {
    const shut = barred(request.headers);
    if (shut) return problem(shut.why, shut.status);
    try {
      return await handle(request, await params);
    } catch (e) {
      return sentenceFor(e);
    }
  };
}

/** A route under `/api/titles/[id]`: the title must exist. */
export function titleRoute<P extends { id: string }>(
  handle: (request: Request, s: Store, params: P) => Promise<Response>,
): NextHandler<P> {
  return route<P>(async (request, params) => {
    const s = await store();
    if ((await revisionOf(s, params.id)) === null) return problem('This title no longer exists.', 404);
    return handle(request, s, params);
  });
}

function sentenceFor(e: unknown): Response {
  if (e instanceof Unanswerable) return problem(e.message, e.status);
  if (isFull(e)) return problem(new DiskFull().message, 507);
  if (e instanceof Error && /SQLITE_BUSY|database is locked/.test(`${e.message} ${String(e.cause)}`))
    return problem('The database is busy. Try again in a moment.', 503);
  console.error(e);
  return problem('Something went wrong here. Try again; nothing was changed.', 500);
}
