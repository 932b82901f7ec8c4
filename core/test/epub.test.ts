import { beforeAll, describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { initEpubFile } from '@lingo-reader/epub-parser';
import { unzipSync, zipSync } from 'fflate';
import { checkEpub, epubSubject, checkFileAgreement, epubFacts } from '../src/check';
import { writeEpub } from '../src/epub';
import { schema, type Book } from '../src/book';
import { INTERIOR_NAMES } from '../src/design';
import { makeEbook } from '@pagina/make';
import { png } from './fixtures/manuscript';
import { book, prose, section, threeChapters } from './fixtures/books';
import { faultsOf } from './fixtures/checked';

/** What the W3C's Nu HTML checker (vnu-jar) says of files. */
function nu(args: string[]): string {
  const jar = join(dirname(createRequire(import.meta.url).resolve('vnu-jar')), 'build/dist/vnu.jar');
  try {
    return execFileSync('java', ['-jar', jar, '--format', 'gnu', '--stdout', '--exit-zero-always', ...args], {
      encoding: 'utf8',
    });
  } catch (e) {
    return `failed: ${(e as Error).message}`;
  }
}

const rich = (): Book => {
  const b = threeChapters();
  const content = schema.node('doc', null, [
    schema.node('paragraph', { id: 'r1' }, [
      schema.text('A & B < C, '),
      schema.text('so it is', [schema.mark('emphasis')]),
      schema.node('note', { ref: 'f1' }),
      schema.text('.'),
    ]),
    schema.node('break', { id: 'r2' }),
    schema.node('verse', { id: 'r3' }, [
      schema.node('stanza', { id: 'r4' }, [
        schema.node('verseLine', { id: 'r5' }, [schema.text('The tide goes out,')]),
        schema.node('verseLine', { id: 'r6', indent: 1 }, [schema.text('the tide comes in.')]),
      ]),
    ]),
    schema.node('list', { id: 'r7', ordered: true, start: 3 }, [
      schema.node('item', { id: 'r8' }, [schema.node('paragraph', { id: 'r9' }, [schema.text('Three')])]),
    ]),
    schema.node('figure', { id: 'r10', picture: 'p1', alt: 'A map', width: 60 }, [schema.text('The flats')]),
    schema.node('paragraph', { id: 'r11' }, [
      schema.text('Back to the carts', [schema.mark('link', { kind: 'place', target: 'c1' })]),
    ]),
    schema.node('subhead', { id: 'r12', level: 1 }, [schema.text('A subhead')]),
    schema.node('table', { id: 'r13' }, [
      schema.node('row', { id: 'r14' }, [
        schema.node('cell', { id: 'r15' }, [schema.node('paragraph', { id: 'r16' }, [schema.text('cell')])]),
      ]),
    ]),
    schema.node('quotation', { id: 'r17' }, [
      schema.node('paragraph', { id: 'r18' }, [schema.text('Quoted')]),
      schema.node('attribution', { id: 'r19' }, [schema.text('Anon.')]),
    ]),
    schema.node('noteBody', { id: 'f1' }, [
      schema.node('paragraph', { id: 'f1p' }, [schema.text('A note.')]),
    ]),
  ]);
  const sections = [
    ...b.sections.slice(0, -1),
    { ...section('c3', 'chapter', [], { title: 'Odds & Ends', parent: 'p1' }), content },
    b.sections.at(-1)!,
  ];
  return {
    ...b,
    sections,
    pictures: [
      { id: 'p1', name: 'map', type: 'image/png', width: 300, height: 200 },
      { id: 'cover', name: 'cover', type: 'image/png', width: 160, height: 250 },
    ],
    record: { ...b.record, cover: 'cover', description: 'Mud & water.', keywords: ['tides', 'carts'] },
    editions: b.editions.map((e) =>
      e.id === 'ebook' ? { ...e, isbn: '978-92-95055-12-4', date: '2026-03-01' } : e,
    ),
  };
};
const pictures = new Map([
  ['p1', png(300, 200)],
  ['cover', png(160, 250)],
]);
let bytes: Uint8Array;
let parts: Record<string, Uint8Array>;
const textOf = (name: string): string => new TextDecoder().decode(parts[name]);

beforeAll(async () => {
  const made = await makeEbook(rich(), 'ebook', {
    pictures: (id) => pictures.get(id) ?? null,
    print: { edition: 'paperback' },
  });
  if (!made.ok) throw new Error(made.refusal.message);
  bytes = made.value.bytes;
  parts = unzipSync(bytes);
});

describe('the reflowable EPUB', () => {
  it('passes every check of ours', () => expect(faultsOf(bytes)).toEqual([]));
  it('is the same to the byte each time', () => {
    const once = writeEpub({ book: rich(), edition: 'ebook', pictures, print: null });
    const again = writeEpub({ book: rich(), edition: 'ebook', pictures, print: null });
    expect(once.ok && again.ok && Buffer.from(once.value).equals(Buffer.from(again.value))).toBe(true);
  });
  it('has no list of landmarks where there is nothing to list', () => {
    const only = book([section('d', 'dedication', ['For nobody.'])]);
    const made = writeEpub({ book: only, edition: 'ebook', pictures: new Map(), print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    const nav = new TextDecoder().decode(unzipSync(made.value)['EPUB/nav.xhtml']);
    expect(nav).not.toContain('landmarks');
    expect(nav).not.toMatch(/<ol>\s*<\/ol>/);
  });
  it('lists three levels in its navigation and its NCX, each entry pointing to what it names', () => {
    const b = rich();
    const three = { ...b, editions: b.editions.map((e) => ({ ...e, contents: { heading: '', levels: 3 } })) };
    const made = writeEpub({ book: three, edition: 'ebook', pictures, print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    expect(faultsOf(made.value)).toEqual([]);
    const file = (name: string): string => new TextDecoder().decode(unzipSync(made.value)[name]);
    const to =
      /<ol>\s*<li><a href="text\/s\d+\.xhtml">Part I: Water<\/a>\s*<ol>[\s\S]*<a href="(text\/s\d+\.xhtml)#r12">A subhead<\/a>/.exec(
        file('EPUB/nav.xhtml'),
      );
    expect(to).not.toBeNull();
    expect(file(`EPUB/${to?.[1]}`)).toContain('<h2 id="r12">A subhead</h2>');
    expect(file('EPUB/toc.ncx')).toContain('name="dtb:depth" content="3"');
  });
  it('passes the Nu HTML checker, every page and style sheet', () => {
    // vnu-jar: the W3C's Nu HTML checker.
    const dir = mkdtempSync(join(tmpdir(), 'epub-'));
    const files: string[] = [];
    for (const [name, data] of Object.entries(parts)) {
      if (!/\.(xhtml|css)$/.test(name)) continue;
      const path = join(dir, name);
      mkdirSync(dirname(path), { recursive: true });
      writeFileSync(path, data);
      files.push(path);
    }
    const problems = [
      ...nu(files.filter((f) => f.endsWith('.xhtml'))).split('\n'),
      ...nu(['--css', ...files.filter((f) => f.endsWith('.css'))]).split('\n'),
    ].filter((l) => l && !/info warning: The (first|“)/.test(l));
    // A checker of plain HTML reads epub:type (EPUB 3.3 §6.1.4.1) as a “type” where HTML has none; we write no such “type”.
    for (const path of files)
      expect(readFileSync(path, 'utf8')).not.toMatch(/<(span|section|body|a|nav|aside|p)\b[^>]* type=/);
    expect(problems.filter((l) => !/Attribute “type” not allowed on element “/.test(l))).toEqual([]);
  });
  it('takes its looks from each interior, in style sheets that the Nu HTML checker passes', async () => {
    const dir = mkdtempSync(join(tmpdir(), 'styles-'));
    const sheets = new Map<string, string>();
    for (const interior of INTERIOR_NAMES) {
      const b = threeChapters();
      const editions = b.editions.map((e) => ({ ...e, interior }));
      const made = await makeEbook({ ...b, editions }, 'ebook', { pictures: () => null, print: null });
      if (!made.ok) throw new Error(made.refusal.message);
      expect(faultsOf(made.value.bytes)).toEqual([]);
      const css = new TextDecoder().decode(unzipSync(made.value.bytes)['EPUB/style.css']);
      sheets.set(interior, css);
      writeFileSync(join(dir, `${interior}.css`), css);
    }
    expect(new Set(sheets.values()).size).toBe(INTERIOR_NAMES.length);
    // Size, face and colour are the reader's (DESIGN of the ebook): no sheet says any.
    for (const css of sheets.values())
      expect(css).not.toMatch(/font-family|[^-]color:(?! inherit)|font-size: [\d.]+p[tx]/);
    // A vendor's prefix and properties newer than the checker are no faults of the sheet.
    const faults = nu(['--css', ...[...sheets.keys()].map((n) => join(dir, `${n}.css`))])
      .split('\n')
      .filter((l) => l && !/initial-letter|text-wrap|vendor/.test(l));
    expect(faults).toEqual([]);
  }, 60_000);
  it('opens in the lingo reader’s library with the same contents', async () => {
    const path = join(mkdtempSync(join(tmpdir(), 'epub-')), 'book.epub');
    writeFileSync(path, bytes);
    const epub = await initEpubFile(path, mkdtempSync(join(tmpdir(), 'epub-images-')));
    expect(epub.getToc().map((t) => t.label)).toEqual(['Part I: Water', 'Acknowledgements']);
    expect(epub.getToc()[0]?.children?.map((t) => t.label)).toEqual([
      'Chapter One: The Carts',
      'Chapter Two: The Rope',
      'Chapter Three: Odds & Ends',
    ]);
    expect(epub.getMetadata().title).toBe('The Causeway');
    expect(epub.getSpine().length).toBe(9);
    epub.destroy();
  });
  it('has one file a section, the contents in their place, and landmarks', () => {
    expect(
      textOf('EPUB/package.opf')
        .match(/<itemref idref="[^"]+"\/>/g)
        ?.slice(0, 4),
    ).toEqual([
      '<itemref idref="cover"/>',
      '<itemref idref="t1"/>',
      '<itemref idref="t2"/>',
      '<itemref idref="nav"/>',
    ]);
    expect(textOf('EPUB/nav.xhtml')).toMatch(
      /epub:type="landmarks"[\s\S]*epub:type="bodymatter" href="text\/s004\.xhtml"/,
    );
  });
  it('lists the pages of the print edition, each where it begins', () => {
    const nav = textOf('EPUB/nav.xhtml');
    const labels = [...(nav.split('page-list')[1] ?? '').matchAll(/#page-([^"]+)"/g)].map((m) => m[1]);
    expect(labels.slice(0, 6)).toEqual(['i', 'ii', '1', '3', '4', '5']);
    for (const m of nav.matchAll(/href="([^"#]+)#(page-[^"]+)"/g))
      expect(textOf(`EPUB/${m[1]}`)).toContain(`id="${m[2]}"`);
  });
  it('derives its accessibility metadata from what it holds', () => {
    const opf = textOf('EPUB/package.opf');
    for (const v of ['textual', 'visual', 'alternativeText', 'pageBreakMarkers', 'structuralNavigation'])
      expect(opf).toContain(`>${v}<`);
    const bare = writeEpub({
      book: book([section('a', 'chapter', [prose(20)])]),
      edition: 'ebook',
      pictures: new Map(),
      print: null,
    });
    const other = bare.ok ? new TextDecoder().decode(unzipSync(bare.value)['EPUB/package.opf']) : '';
    expect(other).not.toContain('visual');
    expect(other).not.toContain('pageBreak');
  });
  it('agrees with the record, and a change of the record is found out', () => {
    const subject = epubSubject(bytes);
    if (!subject.ok) throw new Error(subject.refusal.message);
    const b = rich();
    const edition = b.editions.find((e) => e.id === 'ebook')!;
    expect(checkFileAgreement(b, edition, epubFacts(subject.value, 'the-causeway.epub'))).toEqual([]);
    const renamed = {
      ...b,
      record: {
        ...b.record,
        title: 'The Ferry',
        contributors: [
          { name: 'Someone Else', role: 'author' as const, sortName: '', life: '', portrait: null },
        ],
      },
    };
    const found = checkFileAgreement(
      renamed,
      { ...edition, isbn: '978-0-306-40615-7' },
      epubFacts(subject.value, 'final-v2.epub'),
    ).map((f) => f.rule);
    expect(found).toEqual(['agree/file-title', 'agree/file-author', 'agree/file-isbn', 'agree/file-name']);
  });
  it('will not be made without a title or without sections', () => {
    const b = rich();
    const r1 = writeEpub({
      book: { ...b, record: { ...b.record, title: ' ' } },
      edition: 'ebook',
      pictures,
      print: null,
    });
    const r2 = writeEpub({ book: { ...b, sections: [] }, edition: 'ebook', pictures, print: null });
    expect([r1.ok, r2.ok]).toEqual([false, false]);
  });
});

/** The parts as a container again, mimetype first and stored where it is there. */
function packed({ mimetype, ...rest }: Record<string, Uint8Array>): Uint8Array {
  return zipSync(
    {
      ...(mimetype ? { mimetype: [mimetype, { level: 0 as const }] as [Uint8Array, { level: 0 }] } : {}),
      ...rest,
    },
    { level: 6 },
  );
}

describe('the checks of an EPUB', () => {
  const broken = (change: (p: Record<string, Uint8Array>) => void): string[] => {
    const copy = { ...parts };
    change(copy);
    const r = checkEpub(packed(copy));
    return r.ok ? r.value.map((f) => f.rule) : [r.refusal.code];
  };
  const edit = (name: string, f: (t: string) => string) => (p: Record<string, Uint8Array>) =>
    void (p[name] = new TextEncoder().encode(f(new TextDecoder().decode(p[name]))));
  it.each([
    ['a missing mimetype', (p: Record<string, Uint8Array>) => void delete p.mimetype, 'zip/mimetype-missing'],
    ['a wrong mimetype', edit('mimetype', () => 'application/zip'), 'zip/mimetype-words'],
    [
      'no container',
      (p: Record<string, Uint8Array>) => void delete p['META-INF/container.xml'],
      'container/missing',
    ],
    [
      'a page that is not well-formed',
      edit('EPUB/text/s005.xhtml', (t) => t.replace('</p>', '')),
      'xml/never-closed',
    ],
    [
      'a missing title',
      edit('EPUB/package.opf', (t) => t.replace(/<dc:title id="title">[^<]*<\/dc:title>/, '')),
      'metadata/no-title',
    ],
    ['a wrong date', edit('EPUB/package.opf', (t) => t.replace('T00:00:00Z', '')), 'metadata/modified-form'],
    [
      'a mistyped ISBN',
      edit('EPUB/package.opf', (t) => t.replace('9789295055124', '9789295055125')),
      'metadata/isbn',
    ],
    [
      'a lost file',
      (p: Record<string, Uint8Array>) => void delete p['EPUB/text/s005.xhtml'],
      'manifest/missing-file',
    ],
    [
      'a stray file',
      (p: Record<string, Uint8Array>) => void (p['EPUB/stray.txt'] = new Uint8Array([1])),
      'manifest/unlisted-file',
    ],
    [
      'a doubled id in the manifest',
      edit('EPUB/package.opf', (t) => t.replace('id="t2"', 'id="t1"')),
      'package/ids',
    ],
    [
      'a dead link',
      edit('EPUB/text/s007.xhtml', (t) => t.replace('href="s005.xhtml"', 'href="s999.xhtml"')),
      'link/dead-file',
    ],
    [
      'a link to a place that is gone',
      edit('EPUB/text/s007.xhtml', (t) => t.replace('#note-f1', '#note-f9')),
      'link/dead-place',
    ],
    [
      'a picture without alternative text',
      edit('EPUB/text/s007.xhtml', (t) => t.replace('alt="A map"', '')),
      'access/alt',
    ],
    [
      'no navigation',
      edit('EPUB/package.opf', (t) => t.replace(' properties="nav"', '')),
      'manifest/navigation-count',
    ],
    [
      'a spine that names nothing',
      edit('EPUB/package.opf', (t) => t.replace('idref="t4"', 'idref="t99"')),
      'spine/reference-gone',
    ],
    [
      'ids used twice on a page',
      edit('EPUB/text/s007.xhtml', (t) => t.replace('id="r11"', 'id="r1"')),
      'attribute/id-twice',
    ],
  ])('find %s', (_name, change, rule) => expect(broken(change)).toContain(rule));
  it('follow the chain of fallbacks of a foreign resource, one that runs in a ring too', () => {
    // EPUB 3.3 §3.5.1: each chain ends in a core media type, and §5.7.2: in the spine in a content document.
    const foreign = (after: string, to: string) => (p: Record<string, Uint8Array>) => {
      p['EPUB/data.bin'] = new Uint8Array([1]);
      edit('EPUB/package.opf', (t) =>
        t
          .replace(
            '</manifest>',
            `<item id="data" href="data.bin" media-type="application/x-data" ${after}/></manifest>`,
          )
          .replace('</spine>', `${to}</spine>`),
      )(p);
    };
    const inSpine = '<itemref idref="data"/>';
    expect(broken(foreign('fallback="t4"', inSpine))).not.toContain('spine/no-page');
    expect(broken(foreign('', inSpine))).toContain('spine/no-page');
    expect(broken(foreign('fallback="data"', inSpine))).toEqual(
      expect.arrayContaining(['manifest/fallback-circle', 'spine/no-page']),
    );
  });
  it('tell file and line', () => {
    const copy = {
      ...parts,
      'EPUB/text/s007.xhtml': new TextEncoder().encode(
        textOf('EPUB/text/s007.xhtml').replace('href="s005.xhtml"', 'href="nowhere.xhtml"'),
      ),
    };
    const r = checkEpub(packed(copy));
    const f = r.ok ? r.value.find((x) => x.rule === 'link/dead-file') : undefined;
    expect(f?.file).toBe('EPUB/text/s007.xhtml');
    expect(f?.line).toBe(
      1 +
        textOf('EPUB/text/s007.xhtml')
          .split('\n')
          .findIndex((l) => l.includes('s005.xhtml')),
    );
  });
});
