import { changeImprint } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { keepPicture } from '@/server/picture';
import { route } from '@/server/route';
import { store } from '@/server/store';

/** Keeps a picture as the house's device; `name` is its file's. */
export const POST = route(async (request) => {
  const s = await store();
  const name = new URL(request.url).searchParams.get('name') ?? '';
  const device = { id: 'device', name: name.slice(0, 200), ...(await keepPicture(s, request)) };
  const changed = await changeImprint(s, { set: 'house', house: { device } });
  return changed.ok ? answer({ imprint: changed.value }, 201) : problem(changed.refusal.message, 409);
});
