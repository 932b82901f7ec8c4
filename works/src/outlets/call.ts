/** One call to an outlet, bounded in time and size: a shop that is silent, slow or endless stops nothing but itself. */
import { NotSent } from './adapter';

export interface OutletAnswer {
  status: number;
  json: unknown;
}
export interface CallLimits {
  /** Milliseconds from the call to the end of the answer. */
  time: number;
  /** Bytes of the answer. */
  most: number;
}
const LIMITS: CallLimits = { time: 60_000, most: 1_000_000 };

const outletAddress = (): string =>
  process.env.OUTLET_ADDRESS ?? `http://127.0.0.1:${process.env.OUTLET_PORT ?? 4180}`;

/**
 * Calls an outlet and reads its JSON. Throws `NotSent` when it cannot be reached, does not answer in time, or answers
 * what cannot be read; an AbortError when `stop` says so.
 */
export async function callOutlet(
  path: string,
  init: RequestInit & { duplex?: 'half' } = {},
  { stop, limits = LIMITS }: { stop?: AbortSignal; limits?: CallLimits } = {},
): Promise<OutletAnswer> {
  const late = AbortSignal.timeout(limits.time);
  const signal = stop ? AbortSignal.any([late, stop]) : late;
  try {
    const answer = await fetch(outletAddress() + path, { ...init, signal, redirect: 'error' });
    return { status: answer.status, json: JSON.parse(await bounded(answer, limits.most)) as unknown };
  } catch (e) {
    if (stop?.aborted) throw e;
    if (late.aborted)
      throw new NotSent(`The outlet did not answer within ${Math.round(limits.time / 1000)} seconds.`, true);
    if (e instanceof NotSent) throw e;
    if (e instanceof SyntaxError) throw new NotSent('The outlet’s answer can’t be read.', true);
    throw new NotSent('The outlet can’t be reached.', true);
  }
}

async function bounded(answer: Response, most: number): Promise<string> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (answer.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > most) throw new NotSent('The outlet’s answer is far too long to be one.', false);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** Whether an answer of this status may be another one later: too busy, or broken on their side. */
export const mayPass = (status: number): boolean => status >= 500 || status === 429 || status === 408;
