import * as z from 'zod';
import { withdrawSignOff } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';
import { signOffFile } from '@/server/signing';

const asked = z.object({ product: z.string().max(64) });

/** Signs a file off when nothing stands in the way. */
export const POST = titleRoute(async (request, s, { id }) => {
  const { product } = await bodyOf(request, asked, 'Say which file is signed off.');
  return answer(await signOffFile(s, id, product), 201);
});

export const DELETE = titleRoute(async (request, s, { id }) => {
  await withdrawSignOff(s, id, new URL(request.url).searchParams.get('id') ?? '');
  return answer({});
});
