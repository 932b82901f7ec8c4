import * as z from 'zod';
import { peopleOf, sharePerson } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** Everybody who is named in a title. */
export const GET = route(async () => answer({ people: await peopleOf(await store()) }));

const asked = z.object({ title: z.string(), name: z.string().min(1) });

/** Tells a person's life in the other titles as this one does. */
export const PUT = route(async (request) => {
  const { title, name } = await bodyOf(request, asked, 'Say who, and in which title.');
  return answer({ changed: await sharePerson(await store(), title, name) });
});
