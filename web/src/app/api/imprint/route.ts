import { imprintChangeSchema } from '@pagina/core/outlets';
import { accountsOf, changeImprint, imprintOf } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { deskAddress } from '@/server/desk';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

export const GET = route(async () => {
  const s = await store();
  const [imprint, accounts] = await Promise.all([imprintOf(s), accountsOf(s)]);
  return answer({ imprint, accounts, desk: deskAddress() });
});

export const PUT = route(async (request) => {
  const change = await bodyOf(request, imprintChangeSchema, 'Say what is to be changed.');
  const changed = await changeImprint(await store(), change);
  return changed.ok ? answer({ imprint: changed.value }) : problem(changed.refusal.message, 409);
});
