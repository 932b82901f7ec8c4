/**
 * Which pages a change of the book alters, told by marks, and seen by another hand: both PDFs are drawn by poppler
 * (pdftoppm), and the pages whose pixels differ are the ones whose marks differ.
 */
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { schema, type Book, type Section } from '@pagina/core/book';
import {
  differenceOfFiles,
  impressionOfEbook,
  impressionOfPages,
  linesChanged,
  matchViews,
  type View,
} from '@pagina/core/proof';
import { bookAddressAt, OUTLETS } from '@pagina/core/outlets';
import { makeEbook, makePrint } from '../src';
import { prose, section, threeChapters, book as bookOf, everyBlock } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';
import { numbers, uglyChapters } from './fixtures';

const PICTURES: Record<string, Uint8Array> = { p1: png(900, 600) };
async function printed(book: Book) {
  const made = await makePrint(book, 'paperback', { pictures: (id) => PICTURES[id] ?? null });
  if (!made.ok) throw new Error(made.refusal.message);
  const folder = mkdtempSync(join(tmpdir(), 'proof-'));
  writeFileSync(join(folder, 'book.pdf'), made.value.bytes);
  execFileSync('pdftoppm', ['-r', '100', '-gray', join(folder, 'book.pdf'), join(folder, 'page')]);
  const drawn = readdirSync(folder)
    .filter((n) => n.endsWith('.pgm'))
    .sort()
    .map((n) =>
      createHash('sha256')
        .update(readFileSync(join(folder, n)))
        .digest('hex'),
    );
  return { drawn, views: impressionOfPages(made.value.composition, book).views };
}
type Printed = Awaited<ReturnType<typeof printed>>;

/** Numbers of the pages that differ page by page, as seen and as marked. */
function differing(a: Printed, b: Printed): { seen: number[]; marked: number[] } {
  const of = (x: readonly string[], y: readonly string[]): number[] =>
    Array.from({ length: Math.max(x.length, y.length) }, (_, i) => i).filter((i) => x[i] !== y[i]);
  return {
    seen: of(a.drawn, b.drawn),
    marked: of(
      a.views.map((v) => v.mark),
      b.views.map((v) => v.mark),
    ),
  };
}

const BOOK: Book = (() => {
  const b = bookOf([
    section('t', 'title-page', []),
    section('c', 'copyright-page', []),
    section('toc', 'contents', []),
    ...Array.from({ length: 6 }, (_, n) =>
      section(
        `c${n}`,
        'chapter',
        Array.from({ length: 9 }, (_x, k) => prose(120 + 40 * (k % 4), n * 20 + k)),
        {
          title: `Of ${['Mud', 'Carts', 'Rope', 'Tides', 'Posts', 'Salt'][n]}`,
        },
      ),
    ),
    everyBlock(),
  ]);
  return { ...b, pictures: [{ id: 'p1', name: 'p1', type: 'image/png', width: 900, height: 600 }] };
})();

/** A section’s paragraph in other words, or in another mark. */
const changed = (b: Book, id: string, at: number, of: (words: string) => Section['content']): Book => ({
  ...b,
  sections: b.sections.map((s) => {
    if (s.id !== id) return s;
    const blocks = Array.from({ length: s.content.childCount }, (_, i) => s.content.child(i));
    const p = blocks[at]!;
    blocks[at] = schema.node('paragraph', p.attrs, of(p.textContent).content);
    return { ...s, content: schema.node('doc', null, blocks) };
  }),
});
const words = (t: string, emphasis = false) =>
  schema.node('paragraph', { id: 'x' }, [schema.text(t, emphasis ? [schema.mark('emphasis')] : [])]);

describe('marks of pages', () => {
  it('differ exactly where the pages drawn by poppler do, whatever is changed', async () => {
    const before = await printed(BOOK);
    expect(before.views.length).toBe(before.drawn.length);
    const edits: Record<string, Book> = {
      nothing: BOOK,
      'a word': changed(BOOK, 'c1', 4, (t) => words(t.replace('tide', 'flood'))),
      'one letter for another': changed(BOOK, 'c5', 8, (t) => words(t.replace(/a(\w*)\.$/, 'o$1.'))),
      'a sentence that makes a chapter longer': changed(BOOK, 'c0', 1, (t) =>
        words(`${t} ${prose(260, 99)}`),
      ),
      italics: changed(BOOK, 'c2', 0, (t) => words(t, true)),
      'a heading': {
        ...BOOK,
        sections: BOOK.sections.map((s) => (s.id === 'c3' ? { ...s, title: 'Of Higher Tides' } : s)),
      },
      'the title of the book': { ...BOOK, record: { ...BOOK.record, title: 'The Other Causeway' } },
      'the size of the type': {
        ...BOOK,
        editions: BOOK.editions.map((e) => (e.id === 'paperback' ? { ...e, interior: 'Marram' } : e)),
      },
    };
    for (const [what, book] of Object.entries(edits)) {
      const { seen, marked } = differing(before, await printed(book));
      expect(marked, what).toEqual(seen);
      expect(marked.length > 0, what).toBe(what !== 'nothing');
    }
  }, 120_000);
  it('are those of the picture that is shown, and not of the ids of blocks', async () => {
    const before = await printed(BOOK);
    const other = {
      ...BOOK,
      pictures: BOOK.pictures.map((p) => ({ ...p, sha256: 'f'.repeat(64) })),
      sections: BOOK.sections.map((s) =>
        s.id === 'c4'
          ? {
              ...s,
              content: schema.node(
                'doc',
                null,
                Array.from({ length: s.content.childCount }, (_, i) =>
                  schema.node('paragraph', { id: `other-${i}` }, s.content.child(i).content),
                ),
              ),
            }
          : s,
      ),
    };
    const after = await printed(other);
    const { marked } = differing(before, after);
    const withPicture = after.views.flatMap((v, i) => (marked.includes(i) ? [v] : []));
    // Only the page of the picture, whose words are the same.
    expect(withPicture).toHaveLength(1);
    expect(marked.map((i) => before.views[i]!.words)).toEqual(withPicture.map((v) => v.words));
    expect(linesChanged(before.views[marked[0]!]!, withPicture[0]!)).toEqual({ out: [], in: [] });
    expect(
      matchViews(before.views, after.views)
        .filter((m) => m.how !== 'same')
        .map((m) => m.how),
    ).toEqual(['changed']);
  });
  it('agree with poppler over ugly books too', async () => {
    for (const seed of [3, 11]) {
      const chapters = uglyChapters(seed);
      const before = await printed(bookOf(chapters));
      const random = numbers(seed);
      const fewer = chapters.filter((_, i) => i !== random(chapters.length));
      const { seen, marked } = differing(before, await printed(bookOf(fewer)));
      expect(marked).toEqual(seen);
    }
  }, 120_000);
});

describe('an ebook for an outlet', () => {
  const linked = (): Book => {
    const b = threeChapters();
    const link = schema.mark('link', { kind: 'shop', target: '9789295055124' });
    return {
      ...b,
      sections: b.sections.map((s) =>
        s.id === 'ack'
          ? {
              ...s,
              content: schema.node('doc', null, [
                schema.node('paragraph', { id: 'a' }, [
                  schema.text('Read '),
                  schema.text('The Salt & Clerk', [link]),
                  schema.text(' and '),
                  schema.text('Bees', [link, schema.mark('emphasis')]),
                  schema.text('.'),
                ]),
              ]),
            }
          : s,
      ),
    };
  };
  const shop = OUTLETS[0]!;
  const made = async (affiliate: string | null): Promise<Uint8Array> => {
    const r = await makeEbook(linked(), 'ebook', {
      pictures: () => null,
      modified: '2026-11-01T10:00:00Z',
      print: null,
      bookAddress: affiliate === null ? undefined : (isbn) => bookAddressAt(shop, isbn, affiliate),
    });
    if (!r.ok) throw new Error(r.refusal.message);
    return r.value.bytes;
  };
  it('is proved to differ from the plain one in its addresses alone, which are listed', async () => {
    const [plain, sold, coded] = [await made(null), await made(''), await made('shingle&7')];
    const d = differenceOfFiles(plain, sold);
    expect(d.ok && d.value.other).toEqual([]);
    expect(d.ok && d.value.addresses.map((a) => [a.words, a.before, a.now])).toEqual([
      ['The Salt &amp; Clerk', null, 'https://lanternquay.example/isbn/9789295055124'],
      ['Bees', null, 'https://lanternquay.example/isbn/9789295055124'],
    ]);
    const e = differenceOfFiles(sold, coded);
    expect(e.ok && e.value.other).toEqual([]);
    expect(e.ok && e.value.addresses[0]?.now).toBe(
      'https://lanternquay.example/isbn/9789295055124?by=shingle%267',
    );
    expect(differenceOfFiles(plain, plain)).toEqual({ ok: true, value: { addresses: [], other: [] } });
  });
  it('is not taken for it when anything else differs, however little', async () => {
    const [plain, sold] = [await made(null), await made('')];
    const parts = unzipSync(sold);
    const names = Object.keys(parts).filter((n) => n !== 'mimetype');
    const random = numbers(7);
    for (let n = 0; n < 60; n++) {
      const name = names[random(names.length)]!;
      const bytes = Uint8Array.from(parts[name]!);
      const at = random(bytes.length);
      bytes[at] = bytes[at]! ^ (1 << random(7));
      const text = new TextDecoder().decode(bytes);
      // A changed address is what may differ.
      const inAddress = /href="https[^"]*$/.test(new TextDecoder().decode(bytes.subarray(0, at)));
      if (
        inAddress ||
        text.includes('lanternqua') !== new TextDecoder().decode(parts[name]).includes('lanternqua')
      )
        continue;
      const d = differenceOfFiles(plain, zipSync({ ...parts, [name]: bytes }));
      expect(d.ok && d.value.other, `${name} at ${at}`).toContain(name);
    }
    const more = differenceOfFiles(plain, zipSync({ ...parts, 'EPUB/more.css': new Uint8Array(3) }));
    expect(more.ok && more.value.other).toEqual(['EPUB/more.css']);
  });
  it('has an impression of every document of its spine, which differs where the document or its picture does', async () => {
    const bytes = await made(null);
    const before = impressionOfEbook(bytes);
    if (!before.ok) throw new Error(before.refusal.message);
    const parts = unzipSync(bytes);
    const opf = new TextDecoder().decode(Object.entries(parts).find(([n]) => n.endsWith('.opf'))![1]);
    // Counted in the package document itself.
    expect(before.value.views.length).toBe((opf.match(/<itemref /g) ?? []).length);
    const chapter = before.value.views.find((v) => v.label.includes('The Rope'))!;
    const at = new TextDecoder().decode(parts[chapter.path]).indexOf('tide');
    const other = Uint8Array.from(parts[chapter.path]!);
    other[at] = 'T'.charCodeAt(0);
    const after = impressionOfEbook(zipSync({ ...parts, [chapter.path]: other }));
    if (!after.ok) throw new Error(after.refusal.message);
    const changes = matchViews(before.value.views, after.value.views).filter((m) => m.how !== 'same');
    expect(changes.map((m) => [m.how, after.value.views[m.now!]!.path])).toEqual([['changed', chapter.path]]);
    // A picture that a style within the document names, and a sheet that another imports.
    const styled = (part: string): View[] => {
      const head = new TextDecoder()
        .decode(parts[chapter.path])
        .replace('</head>', `<style>@import "in.css"; p { background: url(ground.png) }</style></head>`);
      const folder = chapter.path.replace(/[^/]*$/, '');
      const r = impressionOfEbook(
        zipSync({
          ...parts,
          [chapter.path]: new TextEncoder().encode(head),
          [`${folder}in.css`]: new TextEncoder().encode(part === 'css' ? 'p{}' : ''),
          [`${folder}ground.png`]: new TextEncoder().encode(part === 'picture' ? 'b' : 'a'),
        }),
      );
      return r.ok ? r.value.views : [];
    };
    for (const part of ['css', 'picture'])
      expect(matchViews(styled('plain'), styled(part)).filter((m) => m.how !== 'same')).toHaveLength(1);
    const css = Object.keys(parts).find((n) => n.endsWith('.css'))!;
    const restyled = impressionOfEbook(
      zipSync({
        ...parts,
        [css]: new TextEncoder().encode(`${new TextDecoder().decode(parts[css])}p{color:red}`),
      }),
    );
    if (!restyled.ok) throw new Error(restyled.refusal.message);
    expect(new Set(matchViews(before.value.views, restyled.value.views).map((m) => m.how))).toEqual(
      new Set(['moved']),
    );
  });
});
