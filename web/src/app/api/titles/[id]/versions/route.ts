import * as z from 'zod';
import { forgetVersion, nameVersion, versionsOf } from '@pagina/data';
import { versionName } from '@/forms/lines';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

export const GET = titleRoute(async (_, s, { id }) => answer(await versionsOf(s, id)));

const asked = z.object({ name: versionName });

/** Names the book as it is now. */
export const POST = titleRoute(async (request, s, { id }) => {
  const { name } = await bodyOf(request, asked, 'Send the name of the version.');
  const made = await nameVersion(s, id, name);
  return made.ok ? answer(made.value, 201) : problem(made.refusal.message, 404);
});

export const DELETE = titleRoute(async (request, s, { id }) => {
  await forgetVersion(s, id, new URL(request.url).searchParams.get('version') ?? '');
  return answer({});
});
