/**
 * What is made never has a blocker of our own checks, whatever the book: ugly books with hostile ids, dead links and notes
 * that are called twice. That no link is dead is counted here once more, from the file's own markup.
 */
import { expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import { checkEpub, checkPdf } from '@pagina/core/check';
import { writeEpub } from '@pagina/core/epub';
import { readManuscript } from '@pagina/core/intake';
import { schema, type Book, type Section } from '@pagina/core/book';
import { composed } from '../../core/test/fixtures/composed';
import { book } from '../../core/test/fixtures/books';
import { styledManuscript } from '../../core/test/fixtures/manuscript';
import { makeEbook, makePrint } from '../src';
import { chapter, id, note, noteBody, numbers, para, text, uglyChapters } from './fixtures';

/** Every href of every file leads to a file and, where it names one, to an id in it; every id is there once. */
function deadLinks(bytes: Uint8Array): string[] {
  const files = unzipSync(bytes);
  const idsOf = new Map<string, string[]>();
  const pages = Object.entries(files).filter(([name]) => /\.(xhtml|ncx|opf)$/.test(name));
  const textOf = (b: Uint8Array): string => new TextDecoder().decode(b);
  for (const [name, b] of pages)
    idsOf.set(
      name,
      [...textOf(b).matchAll(/\sid="([^"]*)"/g)].map((m) => m[1]!),
    );
  const wrong: string[] = [];
  for (const [name, ids] of idsOf)
    for (const x of new Set(ids))
      if (ids.filter((y) => y === x).length > 1) wrong.push(`${name}: ${x} twice`);
  for (const [name, b] of pages)
    for (const [, href] of textOf(b).matchAll(/\s(?:href|src)="([^"]*)"/g)) {
      if (!href || /^(https?|mailto):/.test(href)) continue;
      const url = new URL(href.replace(/&amp;/g, '&'), `http://x/${name}`);
      const path = decodeURIComponent(url.pathname.slice(1));
      if (!(path in files)) wrong.push(`${name}: ${href} leads to no file`);
      else if (url.hash && !idsOf.get(path)?.includes(url.hash.slice(1)))
        wrong.push(`${name}: ${href} leads to no id`);
    }
  return wrong;
}

/** Words of the pages, in the order of the spine, without what the version alone decides: formulas, the contents, notes. */
function wordsOf(bytes: Uint8Array): string[] {
  const files = unzipSync(bytes);
  const text = (name: string): string => new TextDecoder().decode(files[name]);
  const opf = text('EPUB/package.opf');
  return [...opf.matchAll(/<itemref idref="([^"]+)"/g)]
    .flatMap(([, idref]) => {
      const item = new RegExp(`<item id="${idref}" href="([^"]+)"`).exec(opf);
      return idref === 'nav' || idref === 'contents' ? [] : [text(`EPUB/${item![1]}`)];
    })
    .flatMap((page) =>
      page
        .replace(/^[^]*<body[^>]*>/, '')
        .replace(/<math [^]*?alttext="([^"]*)"[^]*?<\/math>/g, '$1')
        .replace(/<[^>]*>/g, ' ')
        .split(/\s+/),
    )
    .filter(Boolean)
    .sort();
}

async function expectSound(b: Book, what: string): Promise<void> {
  const composition = await composed(b);
  const made = await makeEbook(b, 'ebook', {
    pictures: () => null,
    print: { edition: 'paperback', composition },
  });
  if (!made.ok) throw new Error(`${what}: ${made.refusal.message}`);
  const checked = checkEpub(made.value.bytes);
  expect(
    checked.ok && checked.value.filter((f) => f.severity === 'blocker').map((f) => JSON.stringify(f)),
    what,
  ).toEqual([]);
  expect(deadLinks(made.value.bytes), what).toEqual([]);
  // The same in many small files, and in the older version.
  for (const version of ['3.3', '2.0.1'] as const) {
    const other = { ...b, editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, version } : e)) };
    const small = writeEpub({
      book: other,
      edition: 'ebook',
      pictures: new Map(),
      print: { composition, isbn: '' },
      mostBytes: 3_000,
    });
    if (!small.ok) throw new Error(`${what}: ${small.refusal.message}`);
    const told = checkEpub(small.value);
    expect(
      told.ok && told.value.filter((f) => f.severity === 'blocker').map((f) => JSON.stringify(f)),
      `${what}, ${version}`,
    ).toEqual([]);
    expect(deadLinks(small.value), `${what}, ${version}`).toEqual([]);
    expect(wordsOf(small.value), `${what}, ${version}`).toEqual(wordsOf(made.value.bytes));
  }
  const print = await makePrint(b, 'paperback', { pictures: () => null });
  if (!print.ok) throw new Error(print.refusal.message);
  const pdf = await checkPdf(print.value.bytes);
  expect(
    pdf.ok && pdf.value.filter((f) => f.severity === 'blocker').map((f) => JSON.stringify(f)),
    what,
  ).toEqual([]);
}

it('of ugly books is sound', async () => {
  for (let n = 0; n < 7; n++) await expectSound(book(uglyChapters(977 + n)), `book ${n}`);
}, 300_000);

it('of books with hostile ids, links and notes is sound', async () => {
  const odd = [
    '1st',
    'a b',
    '"><script>',
    'heading',
    'page-1',
    'toc',
    'note-x',
    'é',
    '',
    'same',
    'same',
    '#',
    '..',
  ];
  for (let seed = 1; seed <= 12; seed++) {
    const below = numbers(seed);
    const pick = (): string => odd[below(odd.length)]!;
    const link = (): ReturnType<typeof text> =>
      schema.text('a link', [
        schema.mark('link', {
          kind: ['place', 'web', 'shop'][below(3)],
          target: [
            `s1#${pick()}`,
            's2',
            `s9#${pick()}`,
            'https://a.example/"><b>',
            'javascript:alert(1)',
            '9789295055124',
            '#',
          ][below(7)],
        }),
      ]);
    const reference = () =>
      schema.node('reference', {
        target: [`s1#${pick()}`, 's2', `s9#${pick()}`, '#', ''][below(5)],
        shows: ['page', 'pages', 'label', 'number', 'title', 'odd'][below(6)],
        words: below(2) ? 'see <this>' : '',
      });
    const p = () =>
      schema.node('paragraph', { id: pick() }, [
        text('Words \u0001 & <tags> '),
        link(),
        reference(),
        ...(below(2) ? [note('twice')] : []),
      ]);
    const section = (own: string): Section => ({
      ...chapter([
        p(),
        schema.node('subhead', { id: pick(), level: 2 }, [text('Head'), note('nowhere')]),
        schema.node('list', { id: pick() }, [schema.node('item', { id: pick() }, [p(), p()])]),
        schema.node('table', { id: pick() }, [
          schema.node('row', { id: id() }, [
            schema.node('cell', { id: id() }, [p()]),
            schema.node('cell', { id: id() }, [p(), p()]),
          ]),
        ]),
        noteBody('twice', 'A note.'),
        ...(below(2) ? [noteBody('twice', 'Another of the same name.')] : []),
      ]),
      id: own,
      title: '<b>&"',
    });
    const b = book([section('s1'), section('s2')]);
    const levels = {
      ...b,
      editions: b.editions.map((e) => ({ ...e, contents: { heading: '', levels: 3 } })),
    };
    await expectSound(levels, `seed ${seed}`);
  }
}, 300_000);

it('of a manuscript that was brought in is sound', async () => {
  const read = await readManuscript(await styledManuscript(), 'a.docx');
  if (!read.ok) throw new Error(read.refusal.message);
  await expectSound(
    { ...read.value.book, record: { ...read.value.book.record, title: 'The Causeway' } },
    'styled',
  );
});

it('books that are brought in have ids of their own, and files tell them apart', async () => {
  const idOf = async (words: string): Promise<string> => {
    const r = await readManuscript(new TextEncoder().encode(words), 'a.txt');
    if (!r.ok) throw new Error(r.refusal.message);
    return r.value.book.id;
  };
  expect(await idOf('One text.')).not.toBe(await idOf('Another text.'));
  expect(await idOf('One text.')).toBe(await idOf('One text.'));
  const ids = async (b: Book, modified: string): Promise<string[]> => {
    const made = await makePrint(b, 'paperback', { pictures: () => null, modified });
    if (!made.ok) throw new Error(made.refusal.message);
    const m = /\/ID \[\s*<(\w+)>\s*<(\w+)>/.exec(new TextDecoder('latin1').decode(made.value.bytes));
    return [m![1]!, m![2]!];
  };
  const [a, b] = [book(uglyChapters(3)), { ...book(uglyChapters(3)), id: 'other' }];
  const [first, again, other] = [
    await ids(a, '2026-01-01'),
    await ids(a, '2026-02-02'),
    await ids(b, '2026-01-01'),
  ];
  // ISO 32000-1 §14.4: the first part stays through a file's versions, the second does not.
  expect(again[0]).toBe(first[0]);
  expect(again[1]).not.toBe(first[1]);
  expect(other[0]).not.toBe(first[0]);
});

it('an address with a parenthesis stays an address', async () => {
  const target = 'https://a.example/)/S/JavaScript/JS(app.alert(1))';
  const b = book([
    chapter([para(schema.text('Look here.', [schema.mark('link', { kind: 'web', target })]))]),
  ]);
  const made = await makePrint(b, 'paperback', { pictures: () => null, screen: true });
  if (!made.ok) throw new Error(made.refusal.message);
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const file = await getDocument({ data: made.value.bytes.slice(), verbosity: 0 }).promise;
  const found: string[] = [];
  for (let p = 1; p <= file.numPages; p++)
    for (const a of (await (await file.getPage(p)).getAnnotations()) as { url?: string }[])
      if (a.url) found.push(a.url);
  expect(found).toEqual([target]);
  expect(new TextDecoder('latin1').decode(made.value.bytes)).not.toMatch(/[^\\]\)\/S\/JavaScript/);
});
