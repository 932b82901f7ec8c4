/** Bodies of requests, bounded as they come. */
import type * as z from 'zod';
import { Unanswerable } from './answer';

/** Bytes of JSON that a request may bring where nothing else is said. */
const MOST_JSON = 1_000_000;
/** How deep JSON may be nested: a change within a group, a text within a table in it, and room to spare. */
const MOST_DEPTH = 100;

/** The bytes that a body was announced with; undefined where it was not. */
export function announced(request: Request): number | undefined {
  const length = request.headers.get('content-length');
  return length !== null && /^\d+$/.test(length) ? Number(length) : undefined;
}

/** The body as text. Throws `Unanswerable` past `most` bytes, and where not all of it came. */
export async function textOf(request: Request, most: number): Promise<string> {
  const expected = announced(request);
  const tooLarge = new Unanswerable('The request is too large.', 413);
  if ((expected ?? 0) > most) throw tooLarge;
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > most) throw tooLarge;
    chunks.push(chunk);
  }
  if (expected !== undefined && size !== expected)
    throw new Unanswerable('The request arrived incomplete. Try again.');
  return Buffer.concat(chunks).toString('utf8');
}

/** Whether a value is nested deeper than anything of ours is. */
function isTooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MOST_DEPTH) return true;
    const next: unknown[] = [];
    for (const v of level)
      if (typeof v === 'object' && v !== null) for (const x of Object.values(v)) next.push(x);
    level = next;
  }
  return false;
}

/** What a schema of forms says in its own words. */
const ownWords = (issues: readonly z.core.$ZodIssue[]): string | undefined =>
  issues.find((i) => i.code === 'custom')?.message;

/** The request's JSON as the schema reads it. Throws `Unanswerable` with a sentence where it does not fit. */
export async function bodyOf<S extends z.ZodType>(
  request: Request,
  schema: S,
  otherwise: string,
  most = MOST_JSON,
): Promise<z.infer<S>> {
  const text = await textOf(request, most);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Unanswerable(otherwise);
  }
  if (isTooDeep(json)) throw new Unanswerable(otherwise);
  const parsed = schema.safeParse(json);
  if (!parsed.success) throw new Unanswerable(ownWords(parsed.error.issues) ?? otherwise);
  return parsed.data;
}
