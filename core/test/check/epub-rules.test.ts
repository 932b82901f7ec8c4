/** Every rule for EPUB finds the least that breaks it, where it begins, and nothing in the file next to it. */
import { describe, expect, it } from 'vitest';
import type { Finding } from '../../src/base';
import { checkEpub } from '../../src/check';
import { EPUB_RULES } from '../../src/check/epub';
import { PACKAGE_TABLE, type Case } from './cases-package';
import { PAGE_TABLE } from './cases-pages';
import { ZIP_TABLE } from './cases-zip';
import { MINIMAL, OLDER, zipped } from './minimal';

const check = (bytes: Uint8Array): Finding[] => {
  const r = checkEpub(bytes);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};
const TABLE: Case[] = [...PACKAGE_TABLE, ...PAGE_TABLE];

it('finds nothing in the least that an EPUB can be', () => {
  expect(check(zipped(MINIMAL))).toEqual([]);
  expect(check(zipped(OLDER)).filter((f) => !/accessibility-metadata/.test(f.rule))).toEqual([]);
});

describe.each(TABLE.map((x) => [x.rule, x] as const))('%s', (rule, { bad, good, at, older }) => {
  const base = older ? OLDER : MINIMAL;
  it('finds what breaks it', () => {
    const found = check(zipped(bad(base)));
    const own = found.filter((f) => f.rule === rule);
    expect(own.length, found.map((f) => `${f.rule} ${f.message}`).join('\n')).toBeGreaterThan(0);
    if (at) expect(own.map((f) => `${f.file}:${f.line}:${f.column}`)).toContain(at);
  });
  it('finds nothing next to it', () =>
    expect(check(zipped(good(base))).filter((f) => f.rule === rule)).toEqual([]));
});

describe.each(ZIP_TABLE.map((x) => [x.rule, x] as const))('%s', (rule, { bad, good }) => {
  it('finds what breaks it', () => expect(check(bad()).map((f) => f.rule)).toContain(rule));
  it('finds nothing next to it', () => expect(check(good()).map((f) => f.rule)).not.toContain(rule));
});

it('every rule has a file that breaks it', () => {
  const known = new Set([...TABLE, ...ZIP_TABLE].map((x) => x.rule));
  expect(EPUB_RULES.map((r) => r.name).filter((name) => !known.has(name))).toEqual([]);
});
it('every rule has a name of its own, says where it is written, and what to do', () => {
  const names = EPUB_RULES.map((r) => r.name);
  expect(new Set(names).size).toBe(names.length);
  expect(names.length).toBeGreaterThanOrEqual(180);
  for (const r of EPUB_RULES) {
    expect(r.name).toMatch(/^[a-z]+\/[a-z0-9-]+$/);
    expect(r.source, r.name).toMatch(
      /§|Appendix|D\.\d|practice|WCAG|URL Standard|BCP|RFC|ARIA|RDFa|PNG|OpenType|WOFF|Vocabulary|Schema|Namespaces/,
    );
    expect(r.remedy ?? r.why, r.name).toBeTruthy();
  }
});
