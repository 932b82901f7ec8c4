/** What comes after sending: where readers find a book, the page for them, what falls due, and why a book is held. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { placingSchema, schema, type Book, type Placing } from '../src/book';
import { checkHeld } from '../src/check';
import {
  bookPage,
  dueOf,
  imprintSchema,
  isPageName,
  moveFault,
  newsSchema,
  outletNamed,
  shopLinks,
  type ListedAt,
} from '../src/outlets';
import { prose, section, threeChapters } from './fixtures/books';

const imprint = imprintSchema.parse({
  outlets: [{ id: 'ferry-books', name: 'Ferry Books', sells: 'reflow', asks: [] }],
});
const placed = (placing: Record<string, Partial<Placing>>): Book => ({
  ...threeChapters(),
  placing: Object.fromEntries(
    Object.entries(placing).map(([o, p]) => [o, placingSchema.parse({ chosen: true, ...p })]),
  ),
});
const listed = (outlet: string, more: Partial<ListedAt> = {}): ListedAt => ({
  outlet,
  edition: 'ebook',
  state: 'on sale',
  link: `https://${outlet}.example/book/1`,
  found: { shops: [] },
  ...more,
});

describe('where readers find a book', () => {
  const addresses = (b: Book, l: ListedAt[] = [], codes = {}): string[] =>
    shopLinks(b, l, imprint, codes).map((s) => s.address);
  it('is every outlet that sells it, with the imprint’s code, and every shop that an aggregator passed it to', () => {
    const shops = [
      { name: 'Plover', state: 'held', words: '', link: '' },
      { name: 'Gannetstone', state: 'on sale', words: '', link: 'https://gannetstone.example/9' },
    ];
    const links = shopLinks(
      placed({}),
      [listed('lanternquay'), listed('packstone', { found: { shops } }), listed('marram', { state: 'held' })],
      imprint,
      { lanternquay: { affiliate: 'shingle 7' } },
    );
    expect(links).toEqual([
      { shop: 'Lanternquay', address: 'https://lanternquay.example/book/1?by=shingle%207', edition: 'Ebook' },
      { shop: 'Gannetstone', address: 'https://gannetstone.example/9', edition: 'Ebook' },
    ]);
  });
  it('is what was entered by hand too, at outlets of one’s own as well', () => {
    const b = placed({
      sallowby: { state: 'on sale', link: 'https://sallowby.example/read/1' },
      'ferry-books': { state: 'on sale', link: 'https://ferry.example/1' },
      marram: { state: 'with the shop', link: 'https://marram.example/1' },
    });
    expect(addresses(b)).toEqual(['https://sallowby.example/read/1', 'https://ferry.example/1']);
  });
  it('is a web address and nothing else', () => {
    for (const link of ['javascript:alert(1)', 'data:text/html,x', 'sallowby', '', 'file:///etc/passwd'])
      expect(addresses(placed({ sallowby: { state: 'on sale', link } }))).toEqual([]);
  });
});

/** Read by another hand: parse5, the HTML parser of the WHATWG's rules. */
function elementsIn(html: string): Tree.Element[] {
  const found: Tree.Element[] = [];
  const walk = (node: Tree.Node): void => {
    if ('tagName' in node) found.push(node);
    if ('childNodes' in node) node.childNodes.forEach(walk);
  };
  walk(parse(html));
  return found;
}
const wordsOf = (node: Tree.Node): string =>
  'value' in node && !('tagName' in node)
    ? String(node.value)
    : 'childNodes' in node
      ? node.childNodes.map(wordsOf).join('')
      : '';

describe('the page for readers', () => {
  const page = (b: Book, more: Partial<Parameters<typeof bookPage>[1]> = {}): string =>
    bookPage(b, { shops: [], cover: null, edition: 'ebook', ...more });
  it('has title, author, description, shops, cover, and an opening of whole paragraphs', () => {
    const b = threeChapters();
    const html = page(
      { ...b, record: { ...b.record, description: 'Mud.\n\nAnd carts.' } },
      {
        shops: [{ shop: 'Lanternquay', address: 'https://lanternquay.example/1?a=1&b=2', edition: 'Ebook' }],
        cover: { address: 'cover.jpg', width: 640, height: 1_000 },
      },
    );
    const all = elementsIn(html);
    const texts = (tag: string): string[] => all.filter((e) => e.tagName === tag).map(wordsOf);
    const attr = (tag: string, name: string): string[] =>
      all.filter((e) => e.tagName === tag).flatMap((e) => e.attrs.find((a) => a.name === name)?.value ?? []);
    expect(texts('h1')).toEqual(['The Causeway']);
    expect(texts('p').slice(0, 3)).toEqual(['by Ines Calloway', 'Mud.', 'And carts.']);
    expect(attr('a', 'href')).toEqual(['https://lanternquay.example/1?a=1&b=2']);
    expect(attr('img', 'src')).toEqual(['cover.jpg']);
    expect(attr('html', 'lang')).toEqual(['en-GB']);
    expect(texts('h3')).toEqual(['The Carts']);
    // The first paragraph of that chapter has 900 words: the opening ends with it, whole.
    expect(texts('p').slice(3)).toEqual([prose(900, 1)]);
  });
  it('carries no script and fetches nothing, whatever a record says', () => {
    const hostile = fc.oneof(
      fc.string(),
      fc.constantFrom('<script>x</script>', '"><img src=x onerror=y>', '</style><b>', '&lt;', '\u0000'),
    );
    fc.assert(
      fc.property(hostile, hostile, hostile, hostile, (title, description, name, address) => {
        const b = threeChapters();
        const sections = [
          section('x', 'chapter', [title, description], { title: name }),
          ...b.sections.filter((s) => s.kind !== 'chapter'),
        ];
        const record = { ...b.record, title, description, subtitle: name };
        const html = page(
          { ...b, record, sections },
          {
            shops: [
              { shop: name, address: `https://a.example/${encodeURIComponent(address)}`, edition: title },
            ],
            cover: { address: 'cover.jpg', width: 1, height: 1 },
          },
        );
        const all = elementsIn(html);
        expect(
          all.filter((e) => ['script', 'iframe', 'object', 'form', 'link', 'base'].includes(e.tagName)),
        ).toEqual([]);
        expect(all.filter((e) => e.attrs.some((a) => a.name.startsWith('on')))).toEqual([]);
        expect(all.filter((e) => e.tagName === 'img')).toHaveLength(1);
        for (const a of all.filter((e) => e.tagName === 'a'))
          expect(a.attrs.find((x) => x.name === 'href')?.value).toMatch(/^https:\/\/a\.example\//);
      }),
    );
  });
  it('keeps emphasis, verse and breaks, and does without pictures and notes', () => {
    const em = [schema.mark('emphasis')];
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'a' }, [schema.text('A '), schema.text('ferry', em)]),
      schema.node('break', { id: 'b' }),
      schema.node('verse', { id: 'c' }, [
        schema.node('stanza', { id: 'd' }, [
          schema.node('verseLine', { id: 'e' }, [schema.text('One')]),
          schema.node('verseLine', { id: 'f' }, [schema.text('two')]),
        ]),
      ]),
    ]);
    const b = threeChapters();
    const html = page({ ...b, sections: [section('x', 'chapter', [], { content })] });
    expect(html).toContain('<p>A <em>ferry</em></p>\n<hr>\n<p>One<br>two</p>');
  });
  it('of a title with nothing in it is a page all the same', () => {
    const b = threeChapters();
    const html = page(
      { ...b, sections: [], editions: [], record: { ...b.record, title: '', contributors: [] } },
      { edition: null },
    );
    expect(
      elementsIn(html)
        .filter((e) => e.tagName === 'h1')
        .map(wordsOf),
    ).toEqual(['Untitled']);
  });
  it('has an address of small letters, figures and hyphens', () => {
    for (const right of ['a', 'the-salt-clerk', '3-tides']) expect(isPageName(right)).toBe(true);
    for (const wrong of ['', '-a', 'a-', 'A', 'a b', '../x', 'a/b', 'é', 'a'.repeat(61)])
      expect(isPageName(wrong)).toBe(false);
  });
});

describe('what falls due', () => {
  const due = (b: Book, today: string, final = false, more = {}): string[] =>
    dueOf(b, { ...imprint, ...more }, [{ outlet: 'lanternquay', state: 'pre-order', final }], today).map(
      (d) => `${d.day} ${d.key}`,
    );
  const b = ((): Book => {
    const book = placed({
      lanternquay: { preorder: true, exclusiveUntil: '2027-02-01' },
      marram: { preorder: true },
    });
    return { ...book, record: { ...book.record, published: '2027-02-12' } };
  })();
  it('is the final file ten days before (common practice), the end of exclusivity, the day, and looking again', () => {
    expect(due(b, '2026-11-30')).toEqual([
      '2027-02-01 exclusive lanternquay',
      '2027-02-02 final lanternquay',
      '2027-02-02 final marram',
      '2027-02-12 published',
      '2027-04-01 terms marram 2027-04-01',
      // Ninety days (common practice).
      '2027-05-13 look again',
    ]);
    expect(due(b, '2026-11-30', true)).not.toContain('2027-02-02 final lanternquay');
  });
  it('moves on when days have passed, and reminders come every so many days', () => {
    expect(due(b, '2027-02-05')).toEqual([
      '2027-02-12 published',
      '2027-04-01 terms marram 2027-04-01',
      '2027-05-13 look again',
    ]);
    expect(due(b, '2027-05-13')).toEqual(['2027-05-13 look again']);
    expect(due(b, '2027-05-14')).toEqual(['2027-08-11 look again']);
    expect(due(b, '2027-05-14', false, { reminders: 0 })).toEqual([]);
    expect(due({ ...b, record: { ...b.record, published: 'soon' } }, '2027-05-14')).toEqual([]);
  });
});

describe('the day of a pre-order', () => {
  const told = { preorder: ['Yes, on sale 2027-02-12'] };
  const fault = (
    to: string,
    today: string,
    state: 'pre-order' | 'waiting' | 'withdrawn' = 'pre-order',
  ): string | null => moveFault(outletNamed('lanternquay')!, { state, told }, to, today);
  it('may move until ten days before, and then no more (common practice)', () => {
    expect(fault('2027-03-01', '2027-02-01')).toBeNull();
    expect(fault('2027-03-01', '2027-02-02')).toMatch(/can’t be moved in the last 10 days/);
    expect(fault('2027-02-12', '2027-02-11')).toBeNull();
    expect(fault('2027-03-01', '2027-02-13')).toBeNull();
    expect(fault('2027-03-01', '2027-02-11', 'withdrawn')).toBeNull();
  });
});

it('says of each reason why a book is held where it is mended', () => {
  const edition = threeChapters().editions[1]!;
  const reasons = ['title', 'isbn', 'cover', 'accessibility', 'trim', 'something new'].map((about) => ({
    about,
    words: `About the ${about}.`,
  }));
  const found = checkHeld({ outlet: { id: 'marram', name: 'Marram' }, edition, reasons });
  expect(found.map((f) => `${f.rule}: ${f.message}`)).toEqual([
    'held/held-for-its-record: Marram holds the book: About the title.',
    'held/held-for-its-record: Marram holds the book: About the isbn.',
    'held/held-for-its-cover: Marram holds the book: About the cover.',
    'held/held-for-its-text: Marram holds the book: About the accessibility.',
    'held/held-for-its-file: Marram holds the book: About the trim.',
    'held/held-for-its-file: Marram holds the book: About the something new.',
  ]);
  expect(found.every((f) => f.severity === 'blocker' && f.outlet === 'marram')).toBe(true);
});

it('hears an outlet that says more than anybody reads, and believes no state that isn’t one', () => {
  const many = Array.from({ length: 20_000 }, (_, i) => `Chapter ${i}`);
  const news = newsSchema.parse({
    events: [{ state: 'on sale', words: 'x'.repeat(9_000) }],
    found: { contents: many, doubts: ['y'.repeat(9_000)], reasons: [{ about: 'z'.repeat(99), words: '' }] },
  });
  expect(news.found.contents).toHaveLength(5_000);
  expect([
    news.events[0]?.words.length,
    news.found.doubts[0]?.length,
    news.found.reasons[0]?.about.length,
  ]).toEqual([4_000, 1_000, 60]);
  expect(newsSchema.safeParse({ events: [{ state: 'sold', words: '' }] }).success).toBe(false);
});
