import { revisionOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { titleRoute } from '@/server/route';
import { standingOf } from '@/server/standing';

/** How far a title is: its revision, its jobs, its files, its listings. */
export const GET = titleRoute(async (_, s, { id }) =>
  answer({ revision: await revisionOf(s, id), ...(await standingOf(s, id)) }),
);
