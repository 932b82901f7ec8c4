import { textPartOf } from '@pagina/core/emend';
import { answer, Unanswerable } from '@/server/answer';
import { ebookRoute } from '@/server/emended';

/** The source of a part of text, and the revision that it is of. */
export const GET = ebookRoute((request, _, { row, state }) => {
  const path = new URL(request.url).searchParams.get('path') ?? '';
  if (!state.parts.has(path)) throw new Unanswerable('The ebook has no such part.', 404);
  const part = textPartOf(state, path);
  if (!part)
    throw new Unanswerable(
      'This part can be looked at but not edited: it is damaged, or not text in UTF-8 or UTF-16.',
      422,
    );
  return Promise.resolve(answer({ text: part.text, revision: row.revision }));
});
