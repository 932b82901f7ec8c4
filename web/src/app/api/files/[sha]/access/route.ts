import { accessReport } from '@pagina/core/check';
import { answer, Unanswerable } from '@/server/answer';
import { openEbook } from '@/server/ebook';
import { route } from '@/server/route';

/** What a kept ebook states of its accessibility, and what stands in the way of more. */
export const GET = route<{ sha: string }>(async (_request, { sha }) => {
  const report = accessReport((await openEbook(sha)).zip.bytes);
  if (!report.ok) throw new Unanswerable(report.refusal.message, 422);
  return answer(report.value);
});
