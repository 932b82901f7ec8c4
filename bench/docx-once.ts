/**
 * A manuscript read once by us and once by the general-purpose library mammoth, in one process that has read none before;
 * run by `docx.ts`. Arguments: the file, and who begins. Prints milliseconds; loading the programs is not counted.
 */
import { readFileSync } from 'node:fs';
import mammoth from 'mammoth';
import { readManuscript } from '@pagina/core/intake';
import { inflateByHost } from '@pagina/make';
import '../core/src/intake/readers/docx';

inflateByHost();

const [file, first] = process.argv.slice(2) as [string, 'ours' | 'theirs'];
const bytes = readFileSync(file);
const readers = {
  ours: async () => void (await readManuscript(new Uint8Array(bytes))),
  theirs: async () => void (await mammoth.convertToHtml({ buffer: bytes })),
};
const taken = { ours: 0, theirs: 0 };
for (const who of first === 'ours' ? (['ours', 'theirs'] as const) : (['theirs', 'ours'] as const)) {
  const started = performance.now();
  await readers[who]();
  taken[who] = performance.now() - started;
}
console.log(JSON.stringify(taken));
