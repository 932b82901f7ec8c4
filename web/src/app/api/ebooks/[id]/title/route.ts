import { randomUUID } from 'node:crypto';
import { copyOf } from '@pagina/core/emend';
import { enqueue, keepBytes } from '@pagina/data';
import { answer } from '@/server/answer';
import { ebookRoute } from '@/server/emended';

/** Brings the ebook in as a title, as it is now. Reading it is a job. */
export const POST = ebookRoute(async (_, s, { row, state }) => {
  const { sha256 } = await keepBytes(s, copyOf(state));
  const title = randomUUID();
  const name = row.name.toLowerCase().endsWith('.epub') ? row.name : `${row.name}.epub`;
  return answer({ job: await enqueue(s, 'read', { sha256, name, beside: [], title }), title }, 202);
});
