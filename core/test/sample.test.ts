/**
 * The manuscript that newcomers try is read as a person would read it. Truth is counted from the demo’s texts, of which
 * the file was typed (demo/src/sample.ts): their signs for headings, lists, tables, notes and the rest.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Node } from 'prosemirror-model';
import { beforeAll, describe, expect, it } from 'vitest';
import { readManuscript, type Intake } from '../src/intake';

const root = join(import.meta.dirname, '../..');
const source = ['roof-bees-1.txt', 'roof-bees-2.txt']
  .map((t) => readFileSync(join(root, 'demo/texts', t), 'utf8'))
  .join('\n');
const lines = source.split('\n').filter(Boolean);
const all = (sign: RegExp): string[] => lines.filter((l) => sign.test(l));
/** Runs of lines with a sign, blank lines left out. */
const runs = (sign: RegExp): number =>
  lines.filter((l, i) => sign.test(l) && !sign.test(lines[i - 1] ?? '')).length;

let read: Intake;
beforeAll(async () => {
  const bytes = readFileSync(join(root, 'web/public/sample-manuscript.docx'));
  const r = await readManuscript(new Uint8Array(bytes), 'sample-manuscript.docx');
  if (!r.ok) throw new Error(r.refusal.message);
  read = r.value;
});
function count(type: string, of: (n: Node) => boolean = () => true): number {
  let n = 0;
  for (const s of read.book.sections)
    s.content.descendants((x) => void (x.type.name === type && of(x) && n++));
  return n;
}

describe('the sample manuscript', () => {
  it('has its chapters and appendices, with their titles, and what stands around them', () => {
    const heads = all(/^=#? /).map((l) => l.replace(/^=#? /, ''));
    const chapters = heads.filter((h) => h.startsWith('Chapter')).map((h) => h.replace(/^Chapter \w+: /, ''));
    const titles = (kind: string): string[] =>
      read.book.sections.filter((s) => s.kind === kind).map((s) => s.title.toLowerCase());
    expect(titles('chapter')).toEqual(chapters.map((c) => c.toLowerCase()));
    expect(titles('appendix')).toEqual(['a survey of the roof', 'the year at a glance']);
    expect(read.book.sections.map((s) => s.kind).filter((k) => k !== 'chapter' && k !== 'appendix')).toEqual([
      'title-page',
      'dedication',
      'contents',
      'introduction',
      'glossary',
      'bibliography',
      'notes',
    ]);
    expect(read.book.record.title).toBe('Bees on a Flat Roof');
    expect(read.book.record.contributors.map((c) => c.name)).toEqual(['Tobin Aldergate']);
  });
  it('has every list, table, caption, figure, note, quotation, letter and subhead', () => {
    expect(count('list', (n) => Boolean(n.attrs.ordered))).toBe(runs(/^\+ /));
    expect(count('list', (n) => !n.attrs.ordered)).toBe(runs(/^- /));
    expect(count('item')).toBe(all(/^[+-] /).length);
    expect(count('tableCaption')).toBe(all(/^%% /).length);
    expect(count('row')).toBe(all(/^% /).length);
    expect(count('figure')).toBe(all(/^\[\[/).length);
    expect(count('noteBody')).toBe((source.match(/\{\{?[^=@{]/g) ?? []).length);
    expect(count('quotation')).toBe(all(/^> [^\u2014]/).length);
    expect(count('letter')).toBe(runs(/^~ /));
    expect(count('subhead')).toBe(all(/^## /).length);
  });
  it('accounts for every word once', () => {
    expect(read.findings.map((f) => f.rule)).toEqual(['intake/underlined']);
  });
});
