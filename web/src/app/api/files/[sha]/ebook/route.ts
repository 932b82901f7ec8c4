import { readingOrder } from '@pagina/core/package';
import { answer } from '@/server/answer';
import { openEbook } from '@/server/ebook';
import { route } from '@/server/route';

/** The documents of a kept ebook in their order, and its lists of contents, landmarks and pages. */
export const GET = route<{ sha: string }>(async (_request, { sha }) =>
  answer(readingOrder(await openEbook(sha))),
);
