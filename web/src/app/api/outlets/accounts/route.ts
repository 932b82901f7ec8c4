import * as z from 'zod';
import { isAffiliateCode, outletNamed } from '@pagina/core/outlets';
import { setAffiliate } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

const asked = z.object({ outlet: z.string(), affiliate: z.string().trim() });

/** Sets the code that goes into links to books at an outlet. */
export const PUT = route(async (request) => {
  const { outlet, affiliate } = await bodyOf(request, asked, 'Name the outlet and its affiliate code.');
  if (!outletNamed(outlet)?.affiliate) return problem('This outlet takes no affiliate code.');
  if (!isAffiliateCode(affiliate))
    return problem('An affiliate code has only letters, figures, dots and hyphens, and no spaces.');
  await setAffiliate(await store(), outlet, affiliate);
  return answer({});
});
