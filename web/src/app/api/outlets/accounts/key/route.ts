import * as z from 'zod';
import { outletNamed } from '@pagina/core/outlets';
import { setKey } from '@pagina/data';
import { accountKey } from '@/forms/lines';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const asked = z.object({ outlet: z.string(), key: accountKey });

/** Sets the key of an account, or ends the connection with an empty one. It is sealed, and answered by nothing. */
export const PUT = route(async (request) => {
  const { outlet, key } = await bodyOf(request, asked, 'Name the outlet and the key of your account there.');
  if (outletNamed(outlet)?.reached !== 'connection') return problem('This outlet has no connection.');
  await setKey(await store(), outlet, key);
  return answer({});
});
