import * as z from 'zod';
import { isAffiliateCode, outletNamed } from '@pagina/core/outlets';
import { setAffiliate } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

/** Sets the code that goes into links to books at an outlet. */
export async function PUT(request: Request): Promise<Response> {
  const parsed = z
    .object({ outlet: z.string(), affiliate: z.string().trim() })
    .safeParse(await bodyOf(request));
  if (!parsed.success || !outletNamed(parsed.data.outlet)?.affiliate)
    return refuse('There is no such outlet, or it takes no affiliate code.');
  if (!isAffiliateCode(parsed.data.affiliate))
    return refuse('An affiliate code has letters, figures, dots and dashes only, and no spaces.');
  await setAffiliate(await store(), parsed.data.outlet, parsed.data.affiliate);
  return answer({});
}
