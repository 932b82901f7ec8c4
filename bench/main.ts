/**
 * `npm run bench`: the rows of docs/speed.md, as ratios in one run, medians of five, process start counted on both sides.
 * Chromium prints the same text at the same measure; it hyphenates nothing and breaks lines one at a time.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { facePath, makeEbook, makePrint, writeBookFile } from '@pagina/make';
import { readManuscript, wordsOfSection } from '@pagina/core/intake';
import { docxRatio } from './docx';
import { live } from './live';
import { making } from './making';
import { messyNovel, messySpeeches, rightly } from './messy';
import { MAKERS, score, type Score } from './recognition';
import { openNovel, openNovelChapters, paragraphsOf } from './open-novel';

const RUNS = Number(process.env.RUNS ?? 5);
const dir = mkdtempSync(join(tmpdir(), 'bench-'));
const at = (name: string): string => join(dir, name);

function timed(command: string, args: string[]): { seconds: number; megabytes: number } {
  const started = performance.now();
  const r = spawnSync('/usr/bin/time', ['-f', 'peak %M', command, ...args], { encoding: 'utf8' });
  const seconds = (performance.now() - started) / 1000;
  if (r.status !== 0) throw new Error(`${command} failed: ${r.stderr.slice(-400)}`);
  return { seconds, megabytes: Number(/peak (\d+)/.exec(r.stderr)?.[1] ?? 0) / 1024 };
}
const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] as number;

/** Runs the commands in turn, so that a busy machine troubles all alike. */
function medians(
  commands: Record<string, () => { seconds: number; megabytes: number }>,
): Record<string, { seconds: number; megabytes: number }> {
  const all: Record<string, { seconds: number; megabytes: number }[]> = {};
  for (let i = 0; i < RUNS; i++)
    for (const [name, run] of Object.entries(commands)) (all[name] ??= []).push(run());
  return Object.fromEntries(
    Object.entries(all).map(([name, r]) => [
      name,
      { seconds: median(r.map((x) => x.seconds)), megabytes: Math.max(...r.map((x) => x.megabytes)) },
    ]),
  );
}

const escape = (t: string): string => t.replace(/&/g, '&amp;').replace(/</g, '&lt;');
function html(): string {
  const face = readFileSync(facePath('EB Garamond')).toString('base64');
  const css = `@font-face{font-family:G;src:url(data:font/ttf;base64,${face})}@page{size:5.5in 8.5in;margin:54pt 36pt 54pt 54pt}body{margin:0;font:11pt/14pt G;text-align:justify}p{margin:0;text-indent:.25in}h1{break-before:page;font-size:20pt;font-weight:normal;text-align:center;margin:84pt 0 56pt}`;
  const body = openNovelChapters().map(
    (c) =>
      `<h1>${escape(c.title)}</h1>${paragraphsOf(c.text)
        .map((p) => `<p>${escape(p)}</p>`)
        .join('')}`,
  );
  return `<!doctype html><meta charset="utf-8"><style>${css}</style>${body.join('')}`;
}

writeFileSync(at('novel.json'), writeBookFile({ book: openNovel(), files: new Map() }));
writeFileSync(at('twice.json'), writeBookFile({ book: openNovel(2), files: new Map() }));
writeFileSync(at('novel.html'), html());
const pagina = (args: string[]) => () => timed(resolve('bin/pagina'), args);
const chromium = () =>
  timed('/usr/bin/chromium', [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-pdf-header-footer',
    `--print-to-pdf=${at('chromium.pdf')}`,
    `file://${at('novel.html')}`,
  ]);

const m = medians({
  start: pagina(['help']),
  novel: pagina([
    'build',
    at('novel.json'),
    '--edition',
    'print',
    '--out',
    at('novel.pdf'),
    '--report',
    at('report.json'),
  ]),
  chromium,
  twice: pagina([
    'build',
    at('twice.json'),
    '--edition',
    'print',
    '--out',
    at('twice.pdf'),
    '--report',
    at('twice-report.json'),
  ]),
  ebook: pagina(['build', at('novel.json'), '--edition', 'reflow', '--out', at('novel.epub')]),
  check: pagina(['check', at('novel.epub')]),
});
const [novel, twice, chrome, start] = [m.novel!, m.twice!, m.chromium!, m.start!];
const report = JSON.parse(readFileSync(at('report.json'), 'utf8')) as Record<string, number> & {
  milliseconds: Record<string, number>;
};
const twicePages = (JSON.parse(readFileSync(at('twice-report.json'), 'utf8')) as { pages: number }).pages;
const row = (name: string, value: string, bar: string, met: boolean): void =>
  console.log(`${met ? 'met    ' : 'NOT MET'}  ${name}: ${value} (bar ${bar})`);
const ratio = chrome.seconds / novel.seconds;
const growth = (twice.seconds - start.seconds) / (novel.seconds - start.seconds);
const share = (n: number): number => (n * 100) / report.lines!;
console.log(
  `medians of ${RUNS}: novel ${novel.seconds.toFixed(2)} s, Chromium ${chrome.seconds.toFixed(2)} s, twice the text ${twice.seconds.toFixed(2)} s, ebook with page list ${m.ebook!.seconds.toFixed(2)} s, start ${start.seconds.toFixed(2)} s`,
);
console.log(`stages: ${JSON.stringify(report.milliseconds)}`);
row('open novel to printer’s PDF, times faster than Chromium', ratio.toFixed(2), '≥ 4', ratio >= 4);
const checking = m.check!.seconds / m.ebook!.seconds;
row('check of the ebook, times what building it takes', checking.toFixed(2), '≤ 1', checking <= 1);
row('twice the text', `${growth.toFixed(2)} ×`, '≤ 2.1 ×', growth <= 2.1);
row(
  `peak memory, ${twicePages} pages`,
  `${twice.megabytes.toFixed(0)} MB`,
  '≤ 500 MB',
  twice.megabytes <= 500,
);
row(
  'hyphenated lines',
  `${share(report.hyphenatedLines!).toFixed(2)} %`,
  '≤ 6 %',
  share(report.hyphenatedLines!) <= 6,
);
row('loose lines', `${share(report.looseLines!).toFixed(2)} %`, '≤ 1 %', share(report.looseLines!) <= 1);
for (const k of ['widows', 'orphans', 'overfullLines', 'strandedHeadings'])
  row(k, String(report[k]), '0', report[k] === 0);
row('longest ladder', String(report.longestHyphenLadder), '≤ 2', report.longestHyphenLadder! <= 2);

writeFileSync(at('novel.docx'), (await messyNovel()).docx);
const read = docxRatio(at('novel.docx'), RUNS);
row('.docx of the open novel to book, times what mammoth takes, cold', read.toFixed(2), '≤ 1.5', read <= 1.5);
const made = await making(RUNS);
row(
  `a book of 50 pages, from click to file (${made.warm.toFixed(0)} ms, the first ${made.first.toFixed(0)} ms), as a share of what a fresh process takes`,
  (made.warm / made.cold).toFixed(2),
  '≤ 0.35',
  made.warm / made.cold <= 0.35,
);
const { book, chapter } = await live();
const late = (l: { pages: number; late: number }): string => `${l.late.toFixed(0)} ms (${l.pages} pages)`;
row('a paragraph changed, all pages right, 95 of 100', late(book), '≤ 100 ms', book.late <= 100);
row('the same in one chapter', late(chapter), '≤ 400 ms', chapter.late <= 400);

const clocked = async (f: () => Promise<{ ok: boolean }>): Promise<number> => {
  const started = performance.now();
  if (!(await f()).ok) throw new Error('the file could not be made');
  return performance.now() - started;
};
const two = openNovel(2);
const pictures = (): null => null;
const pdf = await clocked(() => makePrint(two, 'paperback', { pictures }));
const epub = await clocked(() => makeEbook(two, 'ebook', { pictures, print: null }));
row(
  'ebook without page list, as a share of the PDF’s time',
  (epub / pdf).toFixed(2),
  '≤ 0.33',
  epub <= pdf / 3,
);

for (const [name, messy] of [
  ['open novel, messy', await messyNovel()],
  ['open novel, only bold', await messyNovel({ size: 24, contents: false })],
  ['speeches, messy', await messySpeeches()],
] as const) {
  const read = await readManuscript(messy.docx);
  if (!read.ok) throw new Error(read.refusal.message);
  const { book, wordsIn, wordsOut, setAside } = read.value;
  const found = book.sections
    .filter((s) => s.kind !== 'contents')
    .map((s) => ({ title: s.title, words: wordsOfSection(s) }));
  const right = rightly(messy.expected, found) * 100;
  const lost = wordsIn - wordsOut - setAside.reduce((n, s) => n + s.words, 0);
  row(`sections right, ${name}`, `${right.toFixed(1)} %`, '≥ 98 %', right >= 98);
  row(`words unaccounted, ${name}`, String(lost), '0', lost === 0);
}

const SEEDS = 20;
for (const [name, make] of Object.entries(MAKERS)) {
  const scores: Score[] = [];
  for (let seed = 0; seed < SEEDS; seed++) scores.push(await score(await make(seed)));
  const sum = (of: (s: Score) => number): number => scores.reduce((n, s) => n + of(s), 0);
  const forms = scores.flatMap((s) => Object.values(s.forms));
  const share = (right: number, of: number): number => (of === 0 ? 100 : (right / of) * 100);
  const sections = share(
    sum((s) => s.right),
    sum((s) => s.of + s.false),
  );
  const inside = share(
    forms.reduce((n, f) => n + f.right, 0),
    forms.reduce((n, f) => n + f.of, 0),
  );
  const lost = sum((s) => s.unaccounted);
  row(`parts and chapters right, ${name}`, `${sections.toFixed(1)} %`, '≥ 99 %', sections >= 99);
  row(`letters, verse, lists and the like, ${name}`, `${inside.toFixed(1)} %`, '≥ 95 %', inside >= 95);
  row(`words unaccounted, ${name}`, String(lost), '0', lost === 0);
}
