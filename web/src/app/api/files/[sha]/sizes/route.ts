import { partSizes } from '@pagina/core/package';
import { storedSize } from '@pagina/data';
import { answer } from '@/server/answer';
import { openEbook } from '@/server/ebook';
import { route } from '@/server/route';
import { store } from '@/server/store';

/** What the size of a kept ebook is made of. */
export const GET = route<{ sha: string }>(async (_request, { sha }) => {
  const book = await openEbook(sha);
  return answer(partSizes(book, (await storedSize(await store(), sha)) ?? 0));
});
