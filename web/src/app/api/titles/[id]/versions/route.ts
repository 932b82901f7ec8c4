import * as z from 'zod';
import { forgetVersion, nameVersion, versionsOf } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };

export async function GET(_: Request, { params }: Context): Promise<Response> {
  return answer(await versionsOf(await store(), (await params).id));
}

/** Names the book as it is now. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const parsed = z.object({ name: z.string().trim().min(1).max(200) }).safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('A version needs a name.');
  const made = await nameVersion(await store(), (await params).id, parsed.data.name);
  return made.ok ? answer(made.value, 201) : refuse(made.refusal.message, 404);
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  await forgetVersion(
    await store(),
    (await params).id,
    new URL(request.url).searchParams.get('version') ?? '',
  );
  return answer({});
}
