import { copyOf } from '@pagina/core/emend';
import { ebookRoute } from '@/server/emended';

/** The ebook as it is now, as a file; `inline` for our own checks. */
export const GET = ebookRoute((request, _, { row, state }) => {
  const bytes = copyOf(state);
  const saved = new URL(request.url).searchParams.get('name') ?? row.name;
  const name = saved.toLowerCase().endsWith('.epub') ? saved : `${saved}.epub`;
  return Promise.resolve(
    new Response(bytes as Uint8Array<ArrayBuffer>, {
      headers: {
        'Content-Type': 'application/epub+zip',
        'Content-Length': String(bytes.length),
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name).replaceAll("'", '%27')}`,
        'Cache-Control': 'no-store',
        'X-Revision': String(row.revision),
      },
    }),
  );
});
