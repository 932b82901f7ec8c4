import * as z from 'zod';
import { trimOf } from '@pagina/core/design';
import { forgetTrim, nameTrim, namedTrims } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

export async function GET(): Promise<Response> {
  return answer(await namedTrims(await store()));
}

export async function POST(request: Request): Promise<Response> {
  const named = z.object({ name: z.string().trim().min(1).max(60), size: z.string() });
  const parsed = named.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('A trim needs a name of at most 60 characters.');
  const trim = trimOf(parsed.data.size);
  if (!trim) return refuse('Write width × height, such as 140 × 210 mm, between 3.5 and 14 in.');
  await nameTrim(await store(), { name: parsed.data.name, size: trim.name });
  return answer(await namedTrims(await store()), 201);
}

export async function DELETE(request: Request): Promise<Response> {
  const s = await store();
  await forgetTrim(s, new URL(request.url).searchParams.get('name') ?? '');
  return answer(await namedTrims(s));
}
