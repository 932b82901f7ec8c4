import { bySeverity, type Finding, type Outcome } from '@pagina/core/base';
import { checkBook, checkEpub, checkPdf } from '@pagina/core/check';
import { readBookFile } from '@pagina/make';
import { readInput, unusable } from './files';
import type { Options } from './options';
import { manuscript } from './manuscript';

/** Checks files, each by its kind. Exit 1 where any has a blocker. */
export async function check(paths: readonly string[], options: Options): Promise<number> {
  const files: { path: string; findings: Finding[] }[] = [];
  for (const path of paths) {
    const checked = await checkOne(path, readInput(path));
    if (!checked.ok) throw unusable({ ...checked.refusal, message: `${path}: ${checked.refusal.message}` });
    files.push({ path, findings: bySeverity(checked.value) });
  }
  if (options.json) console.log(JSON.stringify({ files }));
  else
    for (const { path, findings } of files) {
      console.log(`${path}: ${findings.length === 0 ? 'nothing found' : `${findings.length} found`}`);
      for (const f of findings)
        console.log(
          `  ${f.severity} ${f.rule}${f.file ? ` ${f.file}${f.line ? `:${f.line}` : ''}` : ''} ${f.message}`,
        );
    }
  return files.some((f) => f.findings.some((x) => x.severity === 'blocker')) ? 1 : 0;
}

async function checkOne(path: string, bytes: Uint8Array): Promise<Outcome<Finding[]>> {
  if (/\.pdf$/i.test(path)) return checkPdf(bytes);
  if (/\.epub$/i.test(path)) return checkEpub(bytes);
  if (/\.json$/i.test(path)) {
    const read = readBookFile(bytes);
    return read.ok ? { ok: true, value: checkBook(read.value.book) } : read;
  }
  const read = await manuscript(bytes, path);
  return read.ok ? { ok: true, value: [...read.value.findings, ...checkBook(read.value.book)] } : read;
}
