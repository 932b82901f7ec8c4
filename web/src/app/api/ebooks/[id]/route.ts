import * as z from 'zod';
import { overviewOf } from '@pagina/core/emend';
import { ebookSteps, setEbookDeleted } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { ebookRoute } from '@/server/emended';

/** The ebook as its windows show it. */
export const GET = ebookRoute(async (_, s, { row, state }) =>
  answer({
    id: row.id,
    name: row.name,
    revision: row.revision,
    changedAt: row.changedAt,
    steps: await ebookSteps(s, row.id),
    ...overviewOf(state),
  }),
);

export const PATCH = ebookRoute(async (request, s, { row }) => {
  const { deleted } = await bodyOf(request, z.object({ deleted: z.boolean() }), 'Say whether it is deleted.');
  await setEbookDeleted(s, row.id, deleted);
  return answer({ deleted });
});
