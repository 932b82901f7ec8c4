import * as z from 'zod';
import { outletNamed } from '@pagina/core/outlets';
import { setAffiliate } from '@pagina/data';
import { affiliateCode } from '@/forms/lines';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const asked = z.object({ outlet: z.string(), affiliate: affiliateCode });

/** Sets the code that goes into links to books at an outlet. */
export const PUT = route(async (request) => {
  const { outlet, affiliate } = await bodyOf(request, asked, 'Name the outlet and its affiliate code.');
  if (!outletNamed(outlet)?.affiliate) return problem('This outlet doesn’t use affiliate codes.');
  await setAffiliate(await store(), outlet, affiliate);
  return answer({});
});
