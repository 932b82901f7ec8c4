import * as z from 'zod';
import { forgetDesign, keepDesign, keptDesigns, keptDesignSchema } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

export async function GET(): Promise<Response> {
  return answer(await keptDesigns(await store()));
}

export async function POST(request: Request): Promise<Response> {
  const named = keptDesignSchema.extend({ name: z.string().trim().min(1).max(80) });
  const parsed = named.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('A design needs a name of at most 80 characters.');
  const { name, ...choice } = parsed.data;
  return answer(await keepDesign(await store(), name, choice), 201);
}

export async function DELETE(request: Request): Promise<Response> {
  await forgetDesign(await store(), new URL(request.url).searchParams.get('id') ?? '');
  return answer({});
}
