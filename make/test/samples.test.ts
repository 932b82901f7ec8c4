/** Samples of a book. What they hold is counted from the pages of the file that was made, against the text of the book. */
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { checkEpub } from '@pagina/core/check';
import { apply, schema, type Book, type SampleEdition } from '@pagina/core/book';
import { editionAdded, editionRemoved } from '@pagina/core/design';
import { book, prose, section } from '../../core/test/fixtures/books';
import { makeEbook } from '../src';
import { uglyChapters } from './fixtures';
import { faultsOf } from '../../core/test/fixtures/checked';

const WORDS = [300, 500, 200] as const;
function whole(): Book {
  const b = book([
    section('t', 'title-page', []),
    section('toc', 'contents', []),
    section('p', 'part', [], { title: 'Ebb' }),
    section(
      'a',
      'chapter',
      Array.from({ length: 10 }, (_, i) => prose(WORDS[0] / 10, i)),
      { title: 'One', parent: 'p' },
    ),
    section(
      'b',
      'chapter',
      Array.from({ length: 10 }, (_, i) => prose(WORDS[1] / 10, i + 20)),
      { title: 'Two', parent: 'p' },
    ),
    section('q', 'part', [], { title: 'Flood' }),
    section('c', 'chapter', [prose(WORDS[2], 50)], { title: 'Three', parent: 'q' }),
    section('ack', 'acknowledgements', ['Thanks to all.']),
  ]);
  return {
    ...b,
    editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, isbn: '978-92-95055-12-4' } : e)),
  };
}
function withSample(b: Book, extent: SampleEdition['extent']): Book {
  const added = editionAdded(b, 'sample', 'sample');
  if (!added.ok) throw new Error(added.refusal.message);
  const r = apply(b, {
    type: 'group',
    label: '',
    changes: [added.value, { type: 'set-edition', id: 'sample', fields: { extent } }],
  });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.book;
}
async function made(
  b: Book,
  shop = false,
): Promise<{
  bytes: Uint8Array;
  file: (n: string) => string;
  titles: string[];
  words: number;
  pages: string;
}> {
  const r = await makeEbook(b, 'sample', {
    pictures: () => null,
    print: null,
    ...(shop ? { bookAddress: (isbn: string) => `https://shop.example/${isbn}` } : {}),
  });
  if (!r.ok) throw new Error(r.refusal.message);
  const parts = unzipSync(r.value.bytes);
  const file = (n: string): string => strFromU8(parts[`EPUB/${n}`]!);
  const pages = Object.keys(parts)
    .filter((n) => n.startsWith('EPUB/text/'))
    .sort()
    .map((n) => strFromU8(parts[n]!));
  const body = pages
    .filter((p) => /epub:type="chapter"/.test(p))
    .flatMap((p) => [...p.matchAll(/<p id[^>]*>([^<]*)<\/p>/g)].map((m) => m[1]!));
  return {
    bytes: r.value.bytes,
    file,
    pages: pages.join(''),
    titles: [
      ...file('nav.xhtml')
        .split('epub:type="landmarks"')[0]!
        .matchAll(/<a href="[^"]*">([^<]*)<\/a>/g),
    ].map((m) => m[1]!),
    words: body.join(' ').split(/\s+/).filter(Boolean).length,
  };
}

describe('a sample', () => {
  it('has as many chapters as were chosen, what stands before them, and a page at its end', async () => {
    const { bytes, titles, words, pages, file } = await made(
      withSample(whole(), { by: 'chapters', amount: 2 }),
    );
    expect(titles).toEqual(['Part I: Ebb', 'Chapter One: One', 'Chapter Two: Two']);
    expect(words).toBe(WORDS[0] + WORDS[1]);
    expect(pages).toContain('This is the end of the sample.');
    expect(pages).not.toContain('Thanks to all.');
    expect(file('package.opf')).toContain('<dc:type>preview</dc:type>');
    expect(faultsOf(bytes)).toEqual([]);
  });
  it('ends with its last chapter: the next part, and an interlude before the next chapter, stay away', async () => {
    const b = book([
      section('pr', 'prologue', ['Long before.'], { title: 'Before' }),
      section('a', 'chapter', [prose(20)], { title: 'One' }),
      section('i', 'interlude', ['Meanwhile.'], { title: 'Between' }),
      section('q', 'part', [], { title: 'Flood' }),
      section('c', 'chapter', [prose(20, 2)], { title: 'Three', parent: 'q' }),
      section('e', 'epilogue', ['Long after.'], { title: 'After' }),
    ]);
    const titles = async (amount: number): Promise<string[]> =>
      (await made(withSample(b, { by: 'chapters', amount }))).titles;
    expect(await titles(1)).toEqual(['Before', 'Chapter One: One']);
    expect(await titles(2)).toEqual([
      'Before',
      'Chapter One: One',
      'Between',
      'Part I: Flood',
      'Chapter Two: Three',
    ]);
    // More chapters than there are is the whole of them.
    expect(await titles(9)).toContain('After');
  });
  it.each([
    [10, 120, ['Part I: Ebb', 'Chapter One: One']],
    [30, 300, ['Part I: Ebb', 'Chapter One: One']],
    [31, 350, ['Part I: Ebb', 'Chapter One: One', 'Chapter Two: Two']],
    [80, 800, ['Part I: Ebb', 'Chapter One: One', 'Chapter Two: Two']],
    [
      81,
      1_000,
      ['Part I: Ebb', 'Chapter One: One', 'Chapter Two: Two', 'Part II: Flood', 'Chapter Three: Three'],
    ],
    [
      100,
      1_000,
      ['Part I: Ebb', 'Chapter One: One', 'Chapter Two: Two', 'Part II: Flood', 'Chapter Three: Three'],
    ],
  ])('of %i %% of the words goes on to the end of a paragraph: %i', async (amount, words, titles) => {
    const s = await made(withSample(whole(), { by: 'percent', amount }));
    expect(s.words).toBe(words);
    expect(s.titles).toEqual(titles);
    expect(faultsOf(s.bytes)).toEqual([]);
  });
  it('has an identifier of its own, and says what it is a sample of', async () => {
    const opf = (await made(withSample(whole(), { by: 'percent', amount: 10 }))).file('package.opf');
    expect(opf).toContain('<dc:source>urn:isbn:9789295055124</dc:source>');
    expect(/<dc:identifier id="id">([^<]*)</.exec(opf)?.[1]).toMatch(/^urn:uuid:/);
  });
  it('leads to the whole book in the shop that it is made for, and nowhere otherwise', async () => {
    const b = withSample(whole(), { by: 'chapters', amount: 1 });
    expect((await made(b, true)).pages).toContain('href="https://shop.example/978-92-95055-12-4"');
    expect((await made(b)).pages).not.toContain('<a href="http');
  });
  it('ends in words of one’s own where there are any, and speaks the language of the book otherwise', async () => {
    const b = withSample(whole(), { by: 'chapters', amount: 1 });
    const own = b.editions.map((e) =>
      e.form === 'sample' ? { ...e, closing: 'Ask your bookseller <for> more:' } : e,
    );
    const said = await made({ ...b, editions: own });
    expect(said.pages).toContain('Ask your bookseller &lt;for&gt; more:');
    expect(said.pages).not.toContain('This is the end of the sample.');
    const german = await made({ ...b, record: { ...b.record, language: 'de-AT' } });
    expect(german.pages).toContain('Hier endet die Leseprobe.');
  });
  it('of a book of one line is that line', async () => {
    const s = await made(
      withSample(book([section('a', 'chapter', ['Only this.'])]), { by: 'percent', amount: 1 }),
    );
    expect(s.pages).toContain('Only this.');
  });
  it('keeps the notes that it calls, and no others', async () => {
    const note = (ref: string) => schema.node('note', { ref });
    const body = (id: string, words: string) =>
      schema.node('noteBody', { id }, [schema.node('paragraph', { id: `${id}p` }, [schema.text(words)])]);
    const para = (id: string, ref: string) =>
      schema.node('paragraph', { id }, [schema.text(`${prose(60, id.length)} `), note(ref)]);
    const content = schema.node('doc', null, [
      para('x', 'n1'),
      para('y', 'n2'),
      body('n1', 'First note.'),
      body('n2', 'Second note.'),
    ]);
    const s = await made(
      withSample(book([{ ...section('a', 'chapter', []), content }]), { by: 'percent', amount: 40 }),
    );
    expect(s.pages).toContain('First note.');
    expect(s.pages).not.toContain('Second note.');
    expect(faultsOf(s.bytes)).toEqual([]);
  });
  it('of ugly books has no blocker', async () => {
    for (let n = 0; n < 6; n++)
      for (const extent of [
        { by: 'percent', amount: 35 },
        { by: 'chapters', amount: 1 },
      ] as const) {
        const s = await made(withSample(book(uglyChapters(4_100 + n)), extent));
        const checked = checkEpub(s.bytes);
        expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker'), `book ${n}`).toEqual([]);
      }
  });
  it('of an ebook that was removed says so, and is whole again after Undo', async () => {
    const b = withSample(whole(), { by: 'chapters', amount: 1 });
    const removed = editionRemoved(b, 'ebook');
    const r = removed.ok ? apply(b, removed.value) : null;
    if (!r?.ok) throw new Error('not removed');
    const refused = await makeEbook(r.value.book, 'sample', { pictures: () => null, print: null });
    expect(refused.ok ? '' : refused.refusal.message).toMatch(
      /^The ebook that the sample was taken from has been removed\./,
    );
    const back = apply(r.value.book, r.value.inverse);
    expect(back.ok && (await made(back.value.book)).titles).toEqual(['Part I: Ebb', 'Chapter One: One']);
  });
});
