import * as z from 'zod';
import { trimOf } from '@pagina/core/design';
import { forgetTrim, namedTrims, nameTrim } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const asked = z.object({ name: z.string().trim().min(1).max(60), size: z.string().max(100) });

export const GET = route(async () => answer(await namedTrims(await store())));

export const POST = route(async (request) => {
  const { name, size } = await bodyOf(request, asked, 'A trim needs a name of at most 60 characters.');
  const trim = trimOf(size);
  if (!trim) return problem('Write width × height, such as 140 × 210 mm, between 3.5 and 14 in.');
  await nameTrim(await store(), { name, size: trim.name });
  return answer(await namedTrims(await store()), 201);
});

export const DELETE = route(async (request) => {
  const s = await store();
  await forgetTrim(s, new URL(request.url).searchParams.get('name') ?? '');
  return answer(await namedTrims(s));
});
