import { bySeverity, done, type Finding, type Outcome } from '@pagina/core/base';
import {
  allRules,
  checkBook,
  checkEpub,
  checkPdfOf,
  checkPrinted,
  keptBetween,
  mendAll,
  pdfSubject,
} from '@pagina/core/check';
import { copyOf } from '@pagina/core/emend';
import { EBOOK_OUTLETS, type Binding, type EbookOutlet } from '@pagina/core/trade';
import { readBookFile } from '@pagina/make';
import { readInput, Unusable, unusable, writeOutput } from './files';
import type { Options } from './options';
import { manuscript } from './manuscript';

/** Checks files, each by its kind. Exit 1 where any has a blocker. */
export async function check(paths: readonly string[], options: Options): Promise<number> {
  if (options.rules) return listRules(options);
  if (options.mend !== undefined) return mendOne(paths, options.mend, options);
  const asked: Asked = { outlets: outletsOf(options), binding: bindingOf(options) };
  const files: { path: string; findings: Finding[] }[] = [];
  const unread: string[] = [];
  for (const path of paths) {
    const checked = await checkOne(path, readInput(path), asked);
    if (!checked.ok) {
      // The others are checked all the same.
      const refusal = { ...checked.refusal, message: `${path}: ${checked.refusal.message}` };
      if (paths.length === 1) throw unusable(refusal);
      unread.push(path);
      process.stderr.write(`${refusal.message}\n`);
      continue;
    }
    files.push({ path, findings: bySeverity(checked.value) });
  }
  if (options.json) console.log(JSON.stringify({ files }));
  else for (const { path, findings } of files) print(path, findings);
  // What an outlet that was named refuses is as good as a blocker.
  const stops = (f: Finding): boolean => f.severity === 'blocker' || f.outlet !== undefined;
  if (unread.length > 0) return 2;
  return files.some((f) => f.findings.some(stops)) ? 1 : 0;
}

/** What files are held against beyond the standards. */
interface Asked {
  outlets: readonly EbookOutlet[];
  /** What a PDF is to be bound in, for the printer's limits; margins are measured without it. */
  binding: Binding | null;
}

function bindingOf({ binding }: Options): Binding | null {
  if (binding === undefined || binding === 'paperback' || binding === 'hardback') return binding ?? null;
  throw new Unusable(`“${binding}” is not a binding: paperback or hardback.`);
}

/** The outlets whose further rules are asked for. */
function outletsOf({ outlet }: Options): readonly EbookOutlet[] {
  if (outlet === undefined) return [];
  const wanted = outlet.toLowerCase();
  const found = EBOOK_OUTLETS.filter((o) => wanted === 'all' || o.id === wanted);
  if (found.length === 0)
    throw new Unusable(
      `Pagina doesn’t know the outlet “${outlet}”. Name ${EBOOK_OUTLETS.map((o) => o.name).join(', ')}, or all.`,
    );
  return found;
}

function print(path: string, findings: readonly Finding[]): void {
  console.log(`${path}: ${findings.length === 0 ? 'nothing found' : `${findings.length} found`}`);
  for (const { severity, rule, message, words, ...f } of findings) {
    const place = f.file ? ` ${[f.file, f.line, f.line && f.column].filter(Boolean).join(':')}` : '';
    console.log(`  ${severity} ${rule}${place} ${message}${words ? `  “${words}”` : ''}`);
  }
}

function listRules(options: Options): number {
  const rules = allRules();
  if (options.json) console.log(JSON.stringify({ rules }));
  else
    for (const r of rules)
      console.log(
        [r.name, r.severity, r.profiles.join(', '), r.source, r.mend ? 'mended' : ''].join('\t').trimEnd(),
      );
  return 0;
}

/** Mends an EPUB into another file; the one that was given stays as it is. */
async function mendOne(paths: readonly string[], out: string, options: Options): Promise<number> {
  const [path] = paths;
  if (path === undefined || paths.length > 1) throw new Unusable('Name one EPUB to mend.');
  if (!/\.epub$/i.test(path)) throw new Unusable(`${path}: only EPUB files can be mended.`);
  const before = readInput(path);
  const moment = options.date ?? new Date().toISOString().replace(/\.\d+Z$/, 'Z');
  const mended = mendAll(before, /T/.test(moment) ? moment : `${moment}T00:00:00Z`);
  if (!mended.ok) throw unusable({ ...mended.refusal, message: `${path}: ${mended.refusal.message}` });
  const { e, steps } = mended.value;
  const after = copyOf(e);
  const kept = keptBetween(before, after);
  writeOutput(out, after);
  const findings = bySeverity(mended.value.findings);
  const done = steps.map((s) => ({ label: s.label, parts: [...new Set(s.changes.map((c) => c.path))] }));
  if (options.json)
    console.log(JSON.stringify({ files: [{ path: out, findings }], mended: done, changed: kept }));
  else {
    for (const { label, parts } of done)
      console.log(`mended: ${label} (${parts.length === 1 ? parts[0] : `${parts.length} files`})`);
    if (done.length === 0) console.log('nothing to mend');
    if (kept.words.length + kept.files.length > 0)
      console.log(`other than before: ${[...kept.words, ...kept.files].join(', ')}`);
    else console.log('every word and every picture is as it was');
    print(out, findings);
  }
  return findings.some((f) => f.severity === 'blocker') ? 1 : 0;
}

/** What a PDF says of itself, and what its pages show when they are drawn. */
async function checkPages(bytes: Uint8Array, binding: Binding | null): Promise<Outcome<Finding[]>> {
  const pdf = await pdfSubject(bytes);
  if (!pdf.ok) return pdf;
  const findings = checkPdfOf(pdf.value);
  // A single sheet is a cover or a picture, and has no margins.
  if (pdf.value.encrypted || (pdf.value.pages.length < 2 && !binding)) return done(findings);
  const { pagesShow } = await import('@pagina/make/drawn');
  const shown = await pagesShow(bytes, pdf.value);
  if (!shown.ok) {
    const { code, message } = shown.refusal;
    return done([...findings, { rule: code, severity: 'caution', message }]);
  }
  return done([...findings, ...checkPrinted({ pdf: pdf.value, ink: shown.value.ink, binding })]);
}

async function checkOne(
  path: string,
  bytes: Uint8Array,
  { outlets, binding }: Asked,
): Promise<Outcome<Finding[]>> {
  if (/\.pdf$/i.test(path)) return checkPages(bytes, binding);
  if (/\.epub$/i.test(path)) return checkEpub(bytes, outlets);
  if (/\.json$/i.test(path)) {
    const read = readBookFile(bytes);
    return read.ok ? { ok: true, value: checkBook(read.value.book) } : read;
  }
  const read = await manuscript(bytes, path);
  return read.ok ? { ok: true, value: [...read.value.findings, ...checkBook(read.value.book)] } : read;
}
