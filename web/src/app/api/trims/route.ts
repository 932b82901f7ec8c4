import * as z from 'zod';
import { forgetTrim, namedTrims, nameTrim } from '@pagina/data';
import { trimName, trimSize } from '@/forms/lines';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const asked = z.object({ name: trimName, size: trimSize });

export const GET = route(async () => answer(await namedTrims(await store())));

export const POST = route(async (request) => {
  await nameTrim(await store(), await bodyOf(request, asked, 'Send a name and a size.'));
  return answer(await namedTrims(await store()), 201);
});

export const DELETE = route(async (request) => {
  const s = await store();
  await forgetTrim(s, new URL(request.url).searchParams.get('name') ?? '');
  return answer(await namedTrims(s));
});
