import * as z from 'zod';
import { differences, readCarried, writeOnix, writeRecordJson, writeTable } from '@pagina/core/onix';
import { fileStem } from '@pagina/core/record';
import { productsOf, readTitle } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

const FORMATS = {
  onix: { ending: '_onix.xml', type: 'application/xml; charset=utf-8' },
  csv: { ending: '.csv', type: 'text/csv; charset=utf-8' },
  json: { ending: '_record.json', type: 'application/json; charset=utf-8' },
} as const;
const isFormat = (s: string | null): s is keyof typeof FORMATS => s !== null && Object.hasOwn(FORMATS, s);

/** The record for the trade (`as=onix`), for a spreadsheet (`csv`) or for programs (`json`). */
export const GET = titleRoute(async (request, s, { id }) => {
  const as = new URL(request.url).searchParams.get('as');
  const loaded = await readTitle(s, id);
  if (!loaded || !isFormat(as)) return problem('Say in which format: onix, csv or json.');
  const { book } = loaded;
  const products = as === 'onix' ? await productsOf(s, id) : [];
  const pages = Object.fromEntries(
    book.editions
      .filter((e) => e.form === 'print')
      .flatMap((e) => {
        const made = products.find((p) => p.edition === e.id)?.pages;
        return made ? [[e.id, made]] : [];
      }),
  );
  const text =
    as === 'onix'
      ? writeOnix(book, { sent: new Date().toISOString(), pages })
      : as === 'csv'
        ? writeTable(book)
        : writeRecordJson(book);
  const { ending, type } = FORMATS[as];
  return new Response(text, {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `attachment; filename="${fileStem(book.record.title)}${ending}"`,
      'Cache-Control': 'no-store',
    },
  });
});

const MOST = 2_000_000;
const asked = z.object({ text: z.string().max(MOST) });

/** What taking in a file or a pasted text would change, field by field; nothing is changed yet. */
export const POST = titleRoute(async (request, s, { id }) => {
  const { text } = await bodyOf(request, asked, 'The text is missing, or too long for a record.', 4 * MOST);
  const loaded = await readTitle(s, id);
  if (!loaded) return problem('This title no longer exists.', 404);
  const read = readCarried(text);
  if (!read.ok) return problem(read.refusal.message, 422);
  return answer({ differences: differences(loaded.book, read.value), unread: read.value.unread });
});
