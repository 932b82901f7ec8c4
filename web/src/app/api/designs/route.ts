import * as z from 'zod';
import { forgetDesign, keepDesign, keptDesigns, keptDesignSchema } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const named = keptDesignSchema.extend({ name: z.string().trim().min(1).max(80) });

export const GET = route(async () => answer(await keptDesigns(await store())));

export const POST = route(async (request) => {
  const { name, ...choice } = await bodyOf(request, named, 'A design needs a name of at most 80 characters.');
  return answer(await keepDesign(await store(), name, choice), 201);
});

export const DELETE = route(async (request) => {
  await forgetDesign(await store(), new URL(request.url).searchParams.get('id') ?? '');
  return answer({});
});
