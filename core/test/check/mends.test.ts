/**
 * Mends: over the least that breaks each rule, and over files that anything has happened to, every mend leaves fewer
 * findings, and the words and pictures stay. Words are counted from the file by regular expressions, not by the reader of
 * the checks.
 */
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { Finding } from '../../src/base';
import { checkEpub, mendAll, MENDS, mendThese } from '../../src/check';
import { EPUB_RULES } from '../../src/check/epub';
import {
  applyChanges,
  askedOf,
  copyOf,
  inverseOf,
  openEmended,
  partDifferences,
  resolved,
} from '../../src/emend';
import { foreignEpub } from '../fixtures/foreign';
import { PACKAGE_TABLE } from './cases-package';
import { PAGE_TABLE } from './cases-pages';
import { ZIP_TABLE } from './cases-zip';
import { add, body, MINIMAL, OLDER, page, readAloud, withNcx, zipped, type Parts } from './minimal';

const MOMENT = '2026-11-29T04:00:00Z';
const check = (bytes: Uint8Array): Finding[] => {
  const r = checkEpub(bytes);
  return r.ok ? r.value : [];
};
const mended = (bytes: Uint8Array): { bytes: Uint8Array; findings: Finding[] } => {
  const r = mendAll(bytes, MOMENT);
  if (!r.ok) throw new Error(r.refusal.message);
  return { bytes: copyOf(r.value.e), findings: r.value.findings };
};
const grave = (all: Finding[]): { unread: number; blockers: number } => ({
  unread: all.filter((f) => f.rule.startsWith('xml/')).length,
  blockers: all.filter((f) => f.severity === 'blocker').length,
});
/** Words of all pages but those of the navigation, by their paths. */
function wordsIn(bytes: Uint8Array): string {
  const parts = unzipSync(bytes);
  return Object.keys(parts)
    .filter((n) => /\.(xhtml|page)$/.test(n) && !/nav|contents/.test(n))
    .sort()
    .map((n) => {
      const text = new TextDecoder().decode(parts[n]).replace(/^[^]*?<body[^>]*>/, '');
      return text
        .replace(/<!--[^]*?-->/g, '')
        .replace(/<\/?[a-z][^<>]*>|<[/?!][^<>]*>/gi, ' ')
        .replace(/&(nbsp|#160);/g, ' ')
        .replace(/&lt;/g, '<')
        .replace(/&amp;/g, '&')
        .replace(/[^\p{L}\p{N}]+/gu, ' ')
        .trim();
    })
    .join('|');
}
const pictures = (bytes: Uint8Array): string[] =>
  Object.entries(unzipSync(bytes))
    .filter(([n]) => /\.(png|jpe?g|gif)$/i.test(n))
    .map(([n, b]) => `${n} ${b.length} ${b.reduce((a, x) => (a * 31 + x) >>> 0, 7)}`)
    .sort();

it('every mend that a rule promises is there', () => {
  const promised = new Set(EPUB_RULES.flatMap((r) => (r.mend ? [r.mend] : [])));
  expect([...promised].filter((m) => !(m in MENDS))).toEqual([]);
  expect(Object.keys(MENDS).filter((m) => !promised.has(m))).toEqual([]);
});

/** Text that a mend may change: an encoding that was wrong. */
const OTHER_WORDS = new Set(['xml/encoding']);
const cases = [...PACKAGE_TABLE, ...PAGE_TABLE].filter(
  (c) => EPUB_RULES.find((r) => r.name === c.rule)?.mend,
);
describe('what breaks a rule is mended', () => {
  it.each(cases.map((c) => [c.rule, c] as const))('%s', (rule, { bad, older }) => {
    const bytes = zipped(bad(older ? OLDER : MINIMAL));
    const before = check(bytes).filter((f) => f.rule === rule);
    const mendable = before.filter((f) => f.mend).length;
    if (mendable === 0) return;
    const now = mended(bytes);
    expect(now.findings.filter((f) => f.rule === rule).map((f) => f.message)).toHaveLength(
      before.length - mendable,
    );
    if (!OTHER_WORDS.has(rule)) expect(wordsIn(now.bytes)).toBe(wordsIn(bytes));
    expect(pictures(now.bytes)).toEqual(pictures(bytes));
    // Nothing new is broken by it.
    expect(now.findings.filter((f) => f.severity === 'blocker').length).toBeLessThanOrEqual(
      check(bytes).filter((f) => f.severity === 'blocker').length,
    );
  });
  it.each(
    ZIP_TABLE.filter((c) => EPUB_RULES.find((r) => r.name === c.rule)?.mend).map((c) => [c.rule, c] as const),
  )('%s', (rule, { bad }) => {
    const now = mended(bad());
    expect(now.findings.map((f) => f.rule)).not.toContain(rule);
  });
});

it('whatever happened to a file, mending leaves no more blockers, and the words and pictures', () => {
  const pieces = ['&', '<', '<br>', '</p>', '<p>', ' id="two"', ' align="center"', '&nbsp;', ' hidden', ' class=x', '<font>', '<center>x</center>', 'href="Pic.PNG"', ' onclick="x"', '<b>']; // prettier-ignore
  const bases: Parts[] = [MINIMAL, OLDER, withNcx(readAloud(MINIMAL))];
  fc.assert(
    fc.property(
      fc.constantFrom(...bases),
      fc.array(
        fc.tuple(
          fc.constantFrom('a.xhtml', 'b.xhtml', 'book.opf'),
          fc.nat(1_500),
          fc.constantFrom(...pieces),
        ),
        { minLength: 1, maxLength: 4 },
      ),
      (base, changes) => {
        let parts = base;
        for (const [name, at, put] of changes) {
          const text = String(parts[name]);
          const to = Math.min(at, text.length);
          parts = add({ [name]: text.slice(0, to) + put + text.slice(to) })(parts);
        }
        const bytes = zipped(parts);
        const now = mended(bytes);
        const [was, is] = [grave(check(bytes)), grave(now.findings)];
        // What could not be read before may show more once it can.
        expect(is.unread).toBeLessThanOrEqual(was.unread);
        if (was.unread === 0) expect(is.blockers).toBeLessThanOrEqual(was.blockers);
        expect(pictures(now.bytes)).toEqual(pictures(bytes));
      },
    ),
    { numRuns: 200 },
  );
});
it('what comes to light behind a fault is mended too', () => {
  const bytes = zipped(body('<p>one<br>two <font>a</font> <font>b</font> <font>c</font></p>')(MINIMAL));
  const now = mended(bytes);
  expect(now.findings).toEqual([]);
  expect(wordsIn(now.bytes)).toBe(wordsIn(bytes));
});
it('a file in order is left as it is, to the byte', () => {
  const r = mendAll(zipped(MINIMAL), MOMENT);
  expect(r.ok && r.value.steps).toEqual([]);
  expect(r.ok && copyOf(r.value.e)).toEqual(zipped(MINIMAL));
});
it('of an EPUB of other hands the words and pictures stay', () => {
  const now = mended(foreignEpub());
  expect(now.findings.filter((f) => f.mend)).toEqual([]);
  expect(wordsIn(now.bytes)).toBe(wordsIn(foreignEpub()));
});

/** With faults of several sorts at once, its type last and compressed. */
const BROKEN_ALL = ((): Uint8Array => {
  const { mimetype = '', ...others } = MINIMAL;
  return zipped({
    ...others,
    'a.xhtml': page(
      '<h1 id="x">One</h1><p>Water & ice.<br>So</p><p id="x">Then <a href="B.xhtml">two</a>&nbsp;came.</p>',
    ),
    'extra.xhtml': page('<p>Not listed.</p>'),
    mimetype,
  });
})();

describe('mends that another thread worked out', () => {
  it('come to the same ebook when they are asked for without what stood there before', () => {
    const opened = openEmended(BROKEN_ALL);
    if (!opened.ok) throw new Error(opened.refusal.message);
    const mended = mendThese(opened.value, MOMENT, () => true);
    if (!mended.ok) throw new Error(mended.refusal.message);
    const asked = askedOf(mended.value.steps.flatMap((s) => s.changes));
    const changes = resolved(opened.value, asked ?? []);
    if (!changes.ok) throw new Error(changes.refusal.message);
    const applied = applyChanges(opened.value, changes.value);
    expect(applied.ok && Buffer.from(copyOf(applied.value)).equals(Buffer.from(copyOf(mended.value.e)))).toBe(
      true,
    );
    const back = applied.ok && applyChanges(applied.value, inverseOf(changes.value));
    expect(back && back.ok && Buffer.from(copyOf(back.value)).equals(Buffer.from(BROKEN_ALL))).toBe(true);
  });
  it('are refused where the ebook has become another', () => {
    const opened = openEmended(BROKEN_ALL);
    if (!opened.ok) throw new Error(opened.refusal.message);
    for (const asked of [
      { op: 'remove', path: 'gone' },
      { op: 'edit', path: 'a.xhtml', at: 0, removed: 'nothing of it', inserted: 'x' },
      { op: 'add', path: 'book.opf', index: 0, text: '' },
    ] as const)
      expect(resolved(opened.value, [asked]).ok).toBe(false);
  });
  it('are shown by the lines that differ', () => {
    const opened = openEmended(BROKEN_ALL);
    if (!opened.ok) throw new Error(opened.refusal.message);
    const edit = { op: 'edit', path: 'style.css', at: 4, removed: 'margin', inserted: 'padding' } as const;
    const applied = applyChanges(opened.value, [edit]);
    if (!applied.ok) throw new Error(applied.refusal.message);
    expect(partDifferences(opened.value, applied.value, [edit])).toEqual([
      {
        path: 'style.css',
        how: 'changed',
        lines: [
          { how: 'out', line: 1, before: 'p { ', text: 'margin', after: ': 0 }' },
          { how: 'in', line: 1, before: 'p { ', text: 'padding', after: ': 0 }' },
          { how: 'same', line: 2, before: '', text: '', after: '' },
        ],
      },
    ]);
  });
});
