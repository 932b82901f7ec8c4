import * as z from 'zod';
import { isbnsFrom, isbnsInList } from '@pagina/core/record';
import { addIsbns, dropIsbn, isbnBlock } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** Numbers at once: the largest block that agencies give (common practice). */
const MOST = 1_000;

export const GET = route(async () => answer({ isbns: await isbnBlock(await store()) }));

const asked = z.union([
  z.object({ first: z.string().max(40), count: z.number().int().min(1).max(MOST) }),
  z.object({ list: z.string().max(100_000) }),
]);

export const POST = route(async (request) => {
  const body = await bodyOf(
    request,
    asked,
    `Give a list of ISBNs, or a first one and how many, up to ${MOST}.`,
  );
  const { numbers, wrong } =
    'list' in body ? isbnsInList(body.list) : { numbers: isbnsFrom(body.first, body.count), wrong: [] };
  if (!numbers) return problem('The first number is no ISBN: its thirteen digits don’t fit together.');
  if (numbers.length > MOST) return problem(`At most ${MOST} numbers at once.`);
  if (numbers.length === 0) return problem('There is no ISBN in that text.');
  return answer({ added: await addIsbns(await store(), numbers), found: numbers.length, wrong });
});

const dropped = z.object({ number: z.string().regex(/^\d{13}$/), how: z.enum(['remove', 'free']) });

export const DELETE = route(async (request) => {
  const { number, how } = await bodyOf(request, dropped, 'Say which number.');
  return (await dropIsbn(await store(), number, how))
    ? answer({})
    : problem('An edition carries that number. Take it off the edition first.', 409);
});
