/**
 * A line to an outlet: one call after another, each bounded in time and size, so that a shop that is silent, slow or endless
 * stops nothing but itself. Adapters know no other way out, so that a test can stand between them and an outlet.
 */
import { NotSent, tooLate, tooLong, unreachable, unreadable, wrongKey } from './notsent';
import { openSftp, type SftpAddress } from './sftp';
import type { RemoteFiles } from './remote';

export interface Reply {
  status: number;
  text: string;
  /** Names in lower case. */
  header: (name: string) => string | null;
}
export interface Asking {
  method?: 'GET' | 'HEAD' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  headers?: Record<string, string>;
  body?: string | Uint8Array | FormData;
  /** Milliseconds from the call to the end of the answer. */
  time?: number;
}

export interface Line {
  call(path: string, asking?: Asking): Promise<Reply>;
  /** A session in which files are brought and read; it ends with `work`. */
  files<T>(work: (files: RemoteFiles) => Promise<T>): Promise<T>;
}

/** Milliseconds, and bytes of an answer. */
const TIME = 60_000;
const MOST = 4_000_000;

export interface LineOptions {
  /** Where the outlet's paths begin. */
  address: string;
  headers: Record<string, string>;
  sftp?: SftpAddress;
  stop?: AbortSignal | undefined;
  time?: number;
  most?: number;
}

/**
 * Calls throw `NotSent` where the outlet cannot be reached, does not answer in time, or answers without end; an AbortError
 * when `stop` says so.
 */
export function lineTo({ address, headers, sftp, stop, time = TIME, most = MOST }: LineOptions): Line {
  return {
    async call(path, asking = {}) {
      const limit = asking.time ?? time;
      const late = AbortSignal.timeout(limit);
      const signal = stop ? AbortSignal.any([late, stop]) : late;
      try {
        const answer = await fetch(address + path, {
          method: asking.method ?? 'GET',
          headers: { ...headers, ...asking.headers },
          ...(asking.body === undefined ? {} : { body: asking.body as BodyInit }),
          signal,
          redirect: 'error',
        });
        const text = await bounded(answer, most);
        return { status: answer.status, text, header: (name) => answer.headers.get(name) };
      } catch (e) {
        throw stop?.aborted || e instanceof NotSent ? e : late.aborted ? tooLate(limit) : unreachable();
      }
    },
    async files(work) {
      if (!sftp) throw new NotSent('The outlet takes no files by SFTP.', false);
      return openSftp(sftp, { time, most, stop }, work);
    },
  };
}

async function bounded(answer: Response, most: number): Promise<string> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (answer.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > most) throw tooLong();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** Whether an answer of this status may be another one later: too busy, or broken on their side. */
const mayPass = (status: number): boolean => status >= 500 || status === 429 || status === 408;

/** What a refusal says, as an error; `words` are the outlet's own. */
export function refusal({ status, header }: Reply, words: string | undefined): NotSent {
  if (status === 401 || status === 403) return wrongKey();
  const after = Number(header('retry-after') ?? '0') * 1_000;
  const said = words?.slice(0, 2_000);
  return new NotSent(
    said ? said : 'The outlet did not take the parcel.',
    mayPass(status),
    Number.isFinite(after) ? after : 0,
  );
}

/** The JSON of an answer; throws `NotSent` on a refusal, or on what is no JSON. */
export function jsonOf(reply: Reply): unknown {
  let value: unknown;
  try {
    value = JSON.parse(reply.text);
  } catch {
    value = undefined;
  }
  if (reply.status >= 400) throw refusal(reply, messageIn(value));
  if (value === undefined) throw unreadable();
  return value;
}
const messageIn = (value: unknown): string | undefined => {
  const message =
    typeof value === 'object' && value !== null ? (value as { message?: unknown }).message : null;
  return typeof message === 'string' && message !== '' ? message : undefined;
};
