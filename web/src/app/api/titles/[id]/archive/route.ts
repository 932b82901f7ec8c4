import { Readable } from 'node:stream';
import { archiveText, currentFiles } from '@pagina/core/book';
import { OUTLETS } from '@pagina/core/outlets';
import { fileStem } from '@pagina/core/record';
import { archiveOf, productsOf, readTitle, storedSize, type Archived } from '@pagina/data';
import { problem } from '@/server/answer';
import { titleRoute } from '@/server/route';

/** As much as an archive without zip64 holds, which every program opens; what is more is fetched file by file. */
const MOST_BYTES = 4_000_000_000;

/** All files that were made of a title, the newest of each kind, with a page of text that says what they are for. */
export const GET = titleRoute(async (_request, s, { id }) => {
  const loaded = await readTitle(s, id);
  if (!loaded) return problem('That title no longer exists.', 404);
  const { book, revision } = loaded;
  const files = currentFiles(book, await productsOf(s, id));
  if (files.length === 0) return problem('Nothing has been made yet.', 404);
  if (files.reduce((n, f) => n + f.size, 0) > MOST_BYTES)
    return problem('The files are too large to be packed together. Download them one by one.', 413);
  for (const { sha256, name } of files)
    if ((await storedSize(s, sha256)) === null)
      return problem(`“${name}” is missing from the disk. Make it again, then download.`, 410);
  const outlets = Object.fromEntries(OUTLETS.map((o) => [o.id, o.name]));
  const text = archiveText(book, book.record.title, files, revision, outlets);
  const taken = new Set<string>();
  const parts: Archived[] = [
    { name: 'What each file is for.txt', bytes: new TextEncoder().encode(`\ufeff${text}`) },
  ];
  for (const f of files) {
    // Two editions whose names differ in signs alone have files of one name.
    const name = taken.has(f.name) ? f.name.replace(/(\.\w+)$/, `-${f.sha256.slice(0, 6)}$1`) : f.name;
    taken.add(name);
    parts.push({ name, sha256: f.sha256 });
  }
  return new Response(Readable.toWeb(archiveOf(s, parts)) as unknown as ReadableStream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="${fileStem(book.record.title) || 'files'}-all-files.zip"`,
    },
  });
});
