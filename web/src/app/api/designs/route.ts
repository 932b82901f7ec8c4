import { forgetDesign, keepDesign, keptDesigns, keptDesignSchema } from '@pagina/data';
import { designName } from '@/forms/lines';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const named = keptDesignSchema.extend({ name: designName });

export const GET = route(async () => answer(await keptDesigns(await store())));

export const POST = route(async (request) => {
  const { name, ...choice } = await bodyOf(request, named, 'That design can’t be read.');
  return answer(await keepDesign(await store(), name, choice), 201);
});

export const DELETE = route(async (request) => {
  await forgetDesign(await store(), new URL(request.url).searchParams.get('id') ?? '');
  return answer({});
});
