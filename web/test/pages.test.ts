/** What the stations work out from composed pages, without a page of the browser. */
import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { parseXml } from '@pagina/core/base';
import { coverSchema, schema, type Book } from '@pagina/core/book';
import { compose, ComposeCache, sheetLines, type Composition, type TypeSource } from '@pagina/core/compose';
import { typeSource } from '@pagina/make';
import { exemplarsOf } from '@/stations/design/exemplars';
import { nameOf, targetsOf } from '@/stations/design/target';
import { addressOf } from '@/workers/addresses';
import { coverShown } from '@/workers/cover';
import { foundOnPages } from '@/workers/search';
import { book, everyBlock, prose, section, threeChapters } from '../../core/test/fixtures/books';

let source: TypeSource;
beforeAll(async () => {
  source = await typeSource();
});
const pagesOf = async (b: Book): Promise<Composition> => {
  const r = await compose(b, 'paperback', source);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};

describe('words on the pages', () => {
  it('are found wherever they stand, over the ends of lines and through divided words', async () => {
    const c = await pagesOf(threeChapters());
    const words = prose(900, 1).split(' ');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: words.length - 6 }), (from) => {
        // Capitals and the stop at the end aside: a reader types what is heard.
        const wanted = words.slice(from, from + 5).join(' ');
        const found = foundOnPages(c, wanted.toUpperCase());
        expect(found.length, wanted).toBeGreaterThan(0);
        for (const f of found) {
          expect(f.shown.toLowerCase().replace(/\s+/g, ' ')).toBe(wanted.toLowerCase());
          const lines = [...sheetLines(c.pages[f.page]!.body)];
          for (const n of f.lines) expect(lines[n]).toBeDefined();
        }
      }),
      { numRuns: 120 },
    );
  });
  it('are found as they are typed, whatever marks print has for them', async () => {
    const text = 'She said \u201cIt\u2019s the boat\u201d \u2014 and it was.';
    const c = await pagesOf(book([section('c', 'chapter', [text], { title: 'One' })]));
    expect(foundOnPages(c, `"it's the  boat" - and`).length).toBe(1);
    expect(foundOnPages(c, '   ')).toEqual([]);
    expect(foundOnPages(c, 'nowhere')).toEqual([]);
  });
});

describe('a specimen', () => {
  const rich = (): Book =>
    book([
      section('t', 'title-page', []),
      section('toc', 'contents', []),
      section('p', 'part', [], { title: 'Water' }),
      section('long', 'chapter', [prose(1400, 1)], { title: 'The Carts', parent: 'p' }),
      everyBlock(),
    ]);
  it('shows an opening, plain pages and every sort of block that the book has', () => {
    const names = exemplarsOf(rich(), 'paperback').map((e) => e.name);
    for (const name of [
      'Opening',
      'Break',
      'Subhead',
      'Quotation',
      'Verse',
      'Picture',
      'List',
      'Table',
      'Note',
    ])
      expect(names).toContain(name);
    const once = names.filter((n) => n !== 'Plain page');
    expect(new Set(once).size).toBe(once.length);
  });
  it('shows what there is of a tiny book, and nothing of an empty one', () => {
    const tiny = exemplarsOf(book([section('c', 'chapter', ['A line.'])]), 'paperback');
    expect(tiny.map((e) => e.section)).toEqual(tiny.map(() => 'c'));
    expect(tiny.length).toBeGreaterThan(0);
    expect(exemplarsOf(book([]), 'paperback')).toEqual([]);
  });
  it('knows of every block which part of the design sets it, and the part by name', () => {
    const b = rich();
    const targets = targetsOf(b, new Set(['every']));
    const kinds = new Set(targets.values());
    for (const part of ['quotation', 'verse', 'pictures', 'notes', 'subheads.first'])
      expect(kinds, part).toContain(part);
    for (const target of kinds) expect(nameOf(target), target).not.toBe('');
    expect([...targets.keys()].every((id) => id.startsWith('every-'))).toBe(true);
  });
});

describe('the cover’s sheet on the screen', () => {
  const asked = (more: Partial<Book> = {}) => {
    const { sections: _, ...rest } = {
      ...threeChapters(),
      cover: coverSchema.parse({ front: 'plate' }),
      pictures: [
        {
          id: 'p',
          name: 'a & b',
          type: 'image/jpeg' as const,
          width: 900,
          height: 1400,
          sha256: 'ab'.repeat(32),
        },
      ],
      ...more,
    };
    return { book: { ...rest, record: { ...rest.record, cover: 'p' } }, edition: 'paperback', pages: 320 };
  };
  it('is well-formed SVG that shows the picture and leads to each part within the sheet', async () => {
    const shown = await coverShown(asked(), source, new ComposeCache());
    if ('message' in shown) throw new Error(shown.message);
    const { root, fault } = parseXml(shown.svg);
    expect(fault).toBeNull();
    expect(root?.name).toBe('svg');
    expect(shown.svg).toContain(`/api/files/${'ab'.repeat(32)}?type=jpg`);
    expect(shown.parts.map((p) => p.part)).toEqual(
      expect.arrayContaining(['front', 'title', 'author', 'spine', 'back', 'barcode']),
    );
    for (const p of shown.parts) {
      expect(p.x).toBeGreaterThanOrEqual(0);
      expect(p.y).toBeGreaterThanOrEqual(0);
      expect(p.x + p.width).toBeLessThanOrEqual(shown.geometry.width);
      expect(p.y + p.height).toBeLessThanOrEqual(shown.geometry.height);
    }
  });
  it('says in a sentence why there is none', async () => {
    const none = await coverShown({ ...asked(), pages: 0 }, source, new ComposeCache());
    expect('message' in none && none.message).toMatch(/no pages yet/);
    const ebook = await coverShown({ ...asked(), edition: 'ebook' }, source, new ComposeCache());
    expect('message' in ebook && ebook.message).toMatch(/Only a print edition/);
  });
  it('fetches a picture by its checksum, and none that has no file', () => {
    const picture = { id: 'p', name: '', type: 'image/png' as const, width: 1, height: 1 };
    expect(addressOf({ ...picture, sha256: 'cd' })).toBe('/api/files/cd?type=png');
    expect(addressOf(picture)).toBe('');
    expect(addressOf({ ...picture, sha256: 'cd', type: 'image/gif' })).toBe('/api/files/cd?type=gif');
  });
});

it('a figure of the schema keeps where it stands when it is copied', () => {
  const figure = schema.node('figure', { id: 'f', picture: 'p', place: 'spread', beside: 'left', width: 40 });
  expect(schema.nodeFromJSON(figure.toJSON() as object).attrs).toMatchObject({
    place: 'spread',
    beside: 'left',
    width: 40,
  });
});
