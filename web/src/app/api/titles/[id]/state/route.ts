import { jobsOf, productsOf, revisionOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { titleRoute } from '@/server/route';

/** How far a title is: its revision, its jobs, its files. */
export const GET = titleRoute(async (_, s, { id }) =>
  answer({
    revision: await revisionOf(s, id),
    jobs: await jobsOf(s, id),
    products: await productsOf(s, id),
  }),
);
