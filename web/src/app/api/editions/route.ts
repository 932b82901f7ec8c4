import * as z from 'zod';
import { editionChoicesSchema } from '@pagina/core/book';
import { forgetEdition, keepEdition, keptEditionsOf } from '@pagina/data';
import { editionName } from '@/forms/lines';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const kept = z.object({ name: editionName, choices: editionChoicesSchema });

export const GET = route(async () => answer(await keptEditionsOf(await store())));

export const POST = route(async (request) => {
  await keepEdition(await store(), await bodyOf(request, kept, 'Those settings can’t be read.'));
  return answer({}, 201);
});

export const DELETE = route(async (request) => {
  await forgetEdition(await store(), new URL(request.url).searchParams.get('name') ?? '');
  return answer({});
});
