/** Requests of an open title to the server, each with a time limit. */

import type { Change } from '@pagina/core/book';

/** A change of the server's log. */
export interface Logged {
  revision: number;
  client: string;
  requests: string[];
  change: Change;
}
/** What the server says to a change: saved, or not, since others were before it. */
export type Saved = { revision: number; change: Change } | { behind: Logged[]; revision: number };

/** A request without an answer after this long is taken for lost, in milliseconds. */
const PATIENCE = 20_000;
/** Bytes that a browser carries on for a page that has gone (Fetch, "keepalive"), less some for the other section. */
export const KEEPALIVE = 60_000;

const JSON_BODY = { method: 'POST', headers: { 'Content-Type': 'application/json' } };

const UNREACHABLE = 'Pagina can’t be reached';

/** `offline` where nobody knows what became of the request; `message` where the server refuses it. */
export type Reply<T> = T | { message: string } | 'offline';

/** Faults that pass, by HTTP status (RFC 9110 §15.6, RFC 4918 §11.5), as they end a sentence. */
const FAULTS: Record<number, string> = { 503: 'the database is busy', 507: 'the disk is full' };

export class Line {
  /** Why the last request that got no further did not, as it ends a sentence. */
  trouble = UNREACHABLE;

  constructor(private readonly title: string) {}

  private address(what: string): string {
    return `/api/titles/${this.title}${what === '' ? '' : `/${what}`}`;
  }

  async post<T extends object>(what: string, body: object): Promise<Reply<T>> {
    try {
      const r = await fetch(this.address(what), {
        ...JSON_BODY,
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(PATIENCE),
      });
      // Server faults pass: a full disk is emptied, a busy database is free again.
      if (r.status < 500) return (await r.json()) as T;
      this.trouble = FAULTS[r.status] ?? 'something went wrong in Pagina';
    } catch {
      this.trouble = UNREACHABLE;
    }
    return 'offline';
  }
  /** Null where it cannot be had. */
  async get<T>(what: string): Promise<T | null> {
    try {
      const r = await fetch(this.address(what), { signal: AbortSignal.timeout(PATIENCE) });
      return r.ok ? ((await r.json()) as T) : null;
    } catch {
      return null;
    }
  }
  /** Sends what a page that is going away leaves; answers false where it is too much to be carried on. */
  last(what: string, body: object): boolean {
    const text = JSON.stringify(body);
    if (text.length > KEEPALIVE) return false;
    fetch(this.address(what), { ...JSON_BODY, body: text, keepalive: true }).catch(() => undefined);
    return true;
  }
}
