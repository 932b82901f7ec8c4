/**
 * EPUBs emended as they are. What was kept is compared by fflate’s own reading of both files; links are followed by the
 * URL class of the platform; entries are read by @lingo-reader/epub-parser; texts by regular expressions.
 */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { initEpubFile } from '@lingo-reader/epub-parser';
import { makeEbook } from '@pagina/make';
import { parseXml, type Outcome, type XmlElement } from '../src/base';
import { checkEpub } from '../src/check';
import {
  applyChanges,
  copyOf,
  declareFace,
  differencesOf,
  editBetween,
  emend,
  fileRows,
  inverseOf,
  locate,
  moveEdits,
  openEmended,
  overviewOf,
  passageAt,
  passages,
  styleRules,
  textOfPart,
  type Command,
  type Emended,
  type PartChange,
  type TextEdit,
} from '../src/emend';
import { book, everyBlock, threeChapters } from './fixtures/books';
import { FOREIGN, foreignEpub } from './fixtures/foreign';
import { png } from './fixtures/manuscript';

const value = <T>(o: Outcome<T>): T => {
  if (!o.ok) throw new Error(o.refusal.message);
  return o.value;
};
const open = (bytes = foreignEpub()): Emended => value(openEmended(bytes));
const after = (e: Emended, c: Command): Emended => {
  const { changes } = value(emend(e, c, null));
  return value(applyChanges(e, changes));
};
const parts = (e: Emended): Record<string, Uint8Array> => unzipSync(copyOf(e));
const text = (e: Emended, path: string): string => new TextDecoder().decode(parts(e)[path]);
const refusal = (e: Emended, c: Command): string => {
  const r = emend(e, c, null);
  return r.ok ? '' : r.refusal.message;
};

/** Links of a file that lead nowhere, followed by the platform’s own URLs. */
function deadLinks(e: Emended): string[] {
  const files = parts(e);
  const dead: string[] = [];
  const decode = (b: Uint8Array | undefined): string => new TextDecoder().decode(b);
  for (const [name, bytes] of Object.entries(files)) {
    if (!/\.(xhtml|opf|ncx|css)$/.test(name)) continue;
    const source = decode(bytes).replace(/<!--[\s\S]*?-->/g, '');
    const base = new URL(name.split('/').map(encodeURIComponent).join('/'), 'http://book.invalid/');
    const found = name.endsWith('.css')
      ? source.matchAll(/(?:url\(\s*|@import\s+(?!url))["']?([^"')\s;]+)/g)
      : source.matchAll(/(?:\s(?:xlink:)?(?:href|src)=|url\()\s*["']([^"']*)["']/g);
    for (const m of found) {
      const to = new URL((m[1] ?? '').replaceAll('&amp;', '&'), base);
      if (to.host !== 'book.invalid') continue;
      const path = decodeURIComponent(to.pathname.slice(1));
      const id = decodeURIComponent(to.hash.slice(1));
      if (!(path in files)) dead.push(`${name}: ${m[1] ?? ''}`);
      else if (id && !new RegExp(`\\sid=["']${id}["']`).test(decode(files[path])))
        dead.push(`${name}: ${m[1] ?? ''}`);
    }
  }
  return dead;
}
function none(what: string, faults: readonly string[]): void {
  if (faults.length > 0) throw new Error(`${what}: ${faults.join('; ')}`);
}
/** The words of all documents in the order of the spine, by regular expressions alone. */
function words(e: Emended): string[] {
  const files = parts(e);
  const opfName = Object.keys(files).find((n) => n.endsWith('.opf')) ?? '';
  const opf = new TextDecoder().decode(files[opfName]);
  const items = new Map(
    [...opf.matchAll(/<(?:opf:)?item\s[^>]*>/g)].map(([tag]) => [
      /\sid="([^"]*)"/.exec(tag)?.[1] ?? '',
      /\shref="([^"]*)"/.exec(tag)?.[1] ?? '',
    ]),
  );
  return [...opf.matchAll(/<(?:opf:)?itemref\s[^>]*idref="([^"]*)"/g)].flatMap((m) => {
    const path = decodeURIComponent(
      new URL(items.get(m[1] ?? '') ?? '', `http://book.invalid/${opfName}`).pathname.slice(1),
    );
    const source = new TextDecoder().decode(files[path]);
    const body = source.slice(source.indexOf('<body'));
    return body
      .replace(/<!--[\s\S]*?-->|<[^>]*>/g, ' ')
      .split(/\s+/)
      .filter(Boolean);
  });
}

describe('a copy', () => {
  it('is the file that was opened, to the byte, while nothing is changed, and after all is undone', () => {
    const bytes = foreignEpub();
    let e = open(bytes);
    expect(copyOf(e)).toEqual(bytes);
    const { changes } = value(
      emend(
        e,
        {
          type: 'divide',
          path: 'OPS/Text/second.xhtml',
          at: at(e, 'OPS/Text/second.xhtml', "<p id='wheel'"),
        },
        null,
      ),
    );
    e = value(applyChanges(e, changes));
    expect(copyOf(e)).not.toEqual(bytes);
    expect(copyOf(value(applyChanges(e, inverseOf(changes))))).toEqual(bytes);
  });
  it('keeps all that was not touched as it lay: data, method, date', () => {
    const bytes = foreignEpub();
    const e = open(bytes);
    const path = 'OPS/Text/third.xhtml';
    const edit = editBetween(
      path,
      textOfPart(e, path) ?? '',
      (textOfPart(e, path) ?? '').replace('Fast', 'Slow'),
    ) as TextEdit;
    const now = value(applyChanges(e, [edit]));
    const was = unzipSync(bytes);
    const is = parts(now);
    expect(Object.keys(is)).toEqual(Object.keys(was));
    for (const name of Object.keys(was)) if (name !== path) expect(is[name]).toEqual(was[name]);
    expect(text(now, path)).toBe((FOREIGN[path] as string).replace('Fast', 'Slow'));
    const renamed = after(now, { type: 'rename', path, to: 'OPS/race.xhtml' });
    expect(differencesOf(renamed)).toMatchObject({
      added: [],
      removed: [],
      renamed: [{ from: path, to: 'OPS/race.xhtml' }],
    });
    expect(differencesOf(now)).toMatchObject({
      changed: [path],
      added: [],
      removed: [],
      untouched: Object.keys(was).length - 1,
    });
    // The compressed data itself, found in the new file as it was in the old.
    const copy = Buffer.from(copyOf(now));
    const zip = open(bytes).zip;
    for (const entry of zip.entries) {
      if (entry.name === path || entry.compressed < 8) continue;
      const start = entry.offset + 30 + new TextEncoder().encode(entry.name).length + entry.localExtra;
      expect(copy.includes(Buffer.from(bytes.subarray(start, start + entry.compressed)))).toBe(true);
      const date = Buffer.from(bytes.subarray(entry.offset + 10, entry.offset + 14));
      const again = open(copyOf(now)).zip.entries.find((x) => x.name === entry.name);
      expect(Buffer.from(copyOf(now).subarray((again?.offset ?? 0) + 10, (again?.offset ?? 0) + 14))).toEqual(
        date,
      );
    }
  });
  it('keeps line ends, marks of byte order and UTF-16', () => {
    const utf16 = new Uint8Array(
      Buffer.from(
        '\ufeff<?xml version="1.0" encoding="UTF-16"?>\r\n<html><body><p>Ærø</p></body></html>',
        'utf16le',
      ),
    );
    const marked = '\ufeff<html>\r\n<body><p>One</p></body>\n</html>';
    const e = open(foreignEpub({ ...FOREIGN, 'OPS/wide.xhtml': utf16, 'OPS/marked.xhtml': marked }));
    const change = (path: string, from: string, to: string): TextEdit => {
      const was = textOfPart(e, path) ?? '';
      return editBetween(path, was, was.replace(from, to)) as TextEdit;
    };
    const now = value(
      applyChanges(e, [change('OPS/wide.xhtml', 'Ærø', 'Øst'), change('OPS/marked.xhtml', 'One', 'Two')]),
    );
    expect(Buffer.from(parts(now)['OPS/wide.xhtml'] ?? []).toString('utf16le')).toContain(
      'encoding="UTF-16"?>\r\n<html><body><p>Øst</p>',
    );
    expect(Buffer.from(parts(now)['OPS/marked.xhtml'] ?? []).toString('utf8')).toBe(
      marked.replace('One', 'Two'),
    );
    expect(textOfPart(e, 'OPS/Images/weïr.png')).toBeNull();
  });
});

const at = (e: Emended, path: string, source: string): number => (textOfPart(e, path) ?? '').indexOf(source);

describe('documents', () => {
  const first = 'OPS/Text/first chapter.xhtml';
  const second = 'OPS/Text/second.xhtml';
  const third = 'OPS/Text/third.xhtml';
  const spine = (e: Emended): string[] => overviewOf(e).documents.map((d) => d.path);
  const contents = (e: Emended): string[] =>
    overviewOf(e).contents.map((c) => `${'>'.repeat(c.depth)}${c.label}`);

  it('are moved, and the contents and the NCX with them', () => {
    const e = after(open(), { type: 'move', path: third, before: first });
    expect(spine(e).slice(0, 3)).toEqual([third, first, second]);
    expect(contents(e)).toEqual(['The Race', 'The Weir', '>Later', 'The Mill']);
    expect(text(e, 'OPS/toc.ncx').match(/playOrder="(\d)"><navLabel><text>[^<]*/g)).toBeNull();
    const order = [...text(e, 'OPS/toc.ncx').matchAll(/playOrder="(\d+)"[\s\S]*?<text>([^<]*)/g)].map(
      (m) => `${m[1] ?? ''} ${m[2] ?? ''}`,
    );
    expect(order).toEqual(['1 The Race', '2 The Weir', '3 Later', '4 The Mill']);
    expect(text(e, 'OPS/nav.xhtml')).toContain('The <em>Weir</em>');
    expect(deadLinks(e)).toEqual([]);
    expect(
      spine(after(e, { type: 'move', path: third, before: 'OPS/Text/notes.xhtml' })).slice(0, 3),
    ).toEqual([first, second, third]);
  });
  it('are divided, and every link finds its half', () => {
    const e = after(open(), { type: 'divide', path: first, at: at(open(), first, "<h2 id='later'") });
    const half = 'OPS/Text/first chapter-2.xhtml';
    expect(spine(e).slice(0, 3)).toEqual([first, half, second]);
    expect(text(e, half)).toContain('<title>Later &amp; lower</title>');
    expect(text(e, half)).toContain("<section class='wrap'>");
    expect(text(e, half)).toContain("<a href='first%20chapter.xhtml#h'>");
    expect(text(e, first)).toContain("<a href='first%20chapter-2.xhtml#later'>");
    expect(text(e, second)).toContain("<a href='first%20chapter-2.xhtml#x'>");
    expect(text(e, 'OPS/nav.xhtml')).toContain('Text/first%20chapter-2.xhtml#later');
    expect(deadLinks(e)).toEqual([]);
    expect(words(e)).toEqual(words(open()));
  });
  it('are joined, and ids that both have are told apart', () => {
    const e = after(open(), { type: 'join', path: first });
    expect(spine(e)).toEqual([first, third, 'OPS/Text/notes.xhtml']);
    expect(text(e, first)).toMatch(/<section id="second">\s*<h1 id="h-2">The Mill/);
    expect(text(e, first)).toContain("href='#wheel'");
    expect(text(e, first)).toContain("<style type='text/css'>#wheel");
    expect(text(e, third)).toContain("href='first%20chapter.xhtml#second'");
    expect(text(e, 'OPS/book.opf')).toMatch(/id="one"[^>]*properties="svg"/);
    expect(deadLinks(e)).toEqual([]);
    expect(words(e)).toEqual(words(open()));
  });
  it('are added with a place in the contents, and read by another hand', async () => {
    // That library knows no prefixes.
    const plain = (FOREIGN['OPS/book.opf'] as string).replaceAll('opf:', '').replace('xmlns:opf', 'xmlns');
    const bytes = foreignEpub({ ...FOREIGN, 'OPS/book.opf': plain.replace(':opf=', '=') });
    const e = after(open(bytes), { type: 'add-document', after: second, title: 'The Miller’s <Daughter>' });
    expect(contents(e)).toEqual(['The Weir', '>Later', 'The Mill', 'The Miller’s <Daughter>', 'The Race']);
    expect(text(e, 'OPS/Text/the-miller-s-daughter.xhtml')).toContain("href='../Styles/main%20sheet.css'");
    const folder = mkdtempSync(join(tmpdir(), 'emended-'));
    writeFileSync(join(folder, 'x.epub'), copyOf(e));
    const read = await initEpubFile(join(folder, 'x.epub'), folder);
    expect(read.getToc().map((t) => t.label)).toEqual([
      'The Weir',
      'The Mill',
      'The Miller’s <Daughter>',
      'The Race',
    ]);
    expect(read.getSpine()).toHaveLength(5);
  });
  it('are renamed into another folder, and everything follows both ways', () => {
    const e = after(open(), { type: 'rename', path: first, to: 'OPS/Body matter/Chapter 1 & more.xhtml' });
    expect(text(e, 'OPS/book.opf')).toContain('href="Body%20matter/Chapter%201%20%26%20more.xhtml"');
    expect(text(e, 'OPS/Body matter/Chapter 1 & more.xhtml')).toContain("href='../Text/second.xhtml#wheel'");
    expect(deadLinks(e)).toEqual([]);
    expect(refusal(open(), { type: 'rename', path: first, to: 'OPS/TEXT/Second.xhtml' })).toContain(
      'already has',
    );
    for (const to of [
      '../x.xhtml',
      'OPS//x',
      'mimetype',
      'OPS/a:b',
      'OPS/',
      'META-INF/x.xml',
      `OPS/${'x'.repeat(300)}`,
    ])
      expect(refusal(open(), { type: 'rename', path: first, to })).not.toBe('');
    const sheet = after(open(), { type: 'rename', path: 'OPS/Styles/more.css', to: "OPS/it's.css" });
    expect(text(sheet, 'OPS/Styles/main sheet.css')).toContain('@import url("../it%27s.css")');
    expect(deadLinks(sheet)).toEqual([]);
    const opf = after(open(), { type: 'rename', path: 'OPS/book.opf', to: 'package.opf' });
    expect(overviewOf(opf).documents).toHaveLength(4);
    expect(deadLinks(opf)).toEqual([]);
  });
  it('are removed, and nothing leads to them', () => {
    const e = after(open(), { type: 'remove-document', path: first });
    expect(contents(e)).toEqual(['Later', 'The Mill', 'The Race'].slice(1));
    expect(deadLinks(e)).toEqual([]);
    expect(text(e, third)).toContain('<a>The weir</a>');
    expect(text(e, 'OPS/nav.xhtml')).not.toContain('landmarks');
    expect(refusal(e, { type: 'remove-document', path: first })).toContain('no longer');
  });
  it('are joined whatever their bodies and roots say of language', () => {
    const german = (FOREIGN[second] as string)
      .replace('<body>', "<body lang='de' class='x'>")
      .replace("lang='en' xml:lang='en'", "lang='de' xml:lang='de'");
    const e = after(open(foreignEpub({ ...FOREIGN, [second]: german })), { type: 'join', path: first });
    expect(parseXml(text(e, first)).fault).toBeNull();
    expect(text(e, first)).toContain("<section id=\"second\" lang='de' class='x' xml:lang='de'>");
  });
  it('may have any title', () => {
    const e = after(open(), { type: 'add-document', after: second, title: "Salt $& $1 $' cost" });
    expect(text(e, 'OPS/Text/salt-1-cost.xhtml')).toContain("<title>Salt $&amp; $1 $' cost</title>");
    expect(parseXml(text(e, 'OPS/Text/salt-1-cost.xhtml')).fault).toBeNull();
  });
  it('of a fixed size are neither divided nor joined', () => {
    const fixed = (FOREIGN['OPS/book.opf'] as string).replace(
      '</opf:metadata>',
      '<opf:meta property="rendition:layout">pre-paginated</opf:meta></opf:metadata>',
    );
    const e = open(foreignEpub({ ...FOREIGN, 'OPS/book.opf': fixed }));
    expect(refusal(e, { type: 'join', path: first })).toContain('fixed size');
    expect(refusal(e, { type: 'divide', path: first, at: at(e, first, "<h2 id='later'") })).toContain(
      'fixed size',
    );
  });
  it('are refused what would break them, in a sentence', () => {
    const e = open();
    expect(refusal(e, { type: 'divide', path: second, at: at(e, second, '<li>A sieve') })).toContain(
      'list or a table',
    );
    expect(refusal(e, { type: 'divide', path: second, at: at(e, second, "<h1 id='h'") })).toContain(
      'Nothing comes before',
    );
    expect(refusal(e, { type: 'join', path: 'OPS/Text/notes.xhtml' })).toContain('No document comes after');
    const inOrder = value(
      openEmended(
        foreignEpub({
          ...FOREIGN,
          'OPS/book.opf': (FOREIGN['OPS/book.opf'] as string).replace(
            '<opf:itemref idref="three"/>',
            '<opf:itemref idref="nav"/>',
          ),
        }),
      ),
    );
    expect(refusal(inOrder, { type: 'remove-document', path: 'OPS/nav.xhtml' })).toContain('navigation');
    expect(refusal(inOrder, { type: 'join', path: second })).toContain('navigation');
    expect(refusal(inOrder, { type: 'join', path: 'OPS/nav.xhtml' })).toContain('navigation');
  });
});

describe('the navigation', () => {
  it('has words and targets changed in place, in both forms', () => {
    const entries = overviewOf(open()).contents.map((c, from) => ({ ...c, from }));
    const e = after(open(), {
      type: 'list',
      list: 'contents',
      entries: entries.map((x, i) =>
        i === 2
          ? { ...x, label: 'The Great Mill & Co', path: 'OPS/Text/second.xhtml', fragment: 'wheel' }
          : x,
      ),
    });
    expect(text(e, 'OPS/nav.xhtml')).toBe(
      (FOREIGN['OPS/nav.xhtml'] as string).replace(
        'href="Text/second.xhtml">The Mill',
        'href="Text/second.xhtml#wheel">The Great Mill &amp; Co',
      ),
    );
    expect(text(e, 'OPS/toc.ncx')).toContain(
      '<text>The Great Mill &amp; Co</text></navLabel><content src="Text/second.xhtml#wheel"/>',
    );
  });
  it('has entries moved in and out, and made from the headings', () => {
    const e = after(open(), {
      type: 'list',
      list: 'contents',
      entries: [
        { from: 2, label: 'The Mill', path: 'OPS/Text/second.xhtml', fragment: '', depth: 0 },
        { from: 0, label: 'The Weir', path: 'OPS/Text/first chapter.xhtml', fragment: '', depth: 1 },
        { from: null, label: 'Wheel', path: 'OPS/Text/second.xhtml', fragment: 'wheel', depth: 2 },
      ],
    });
    expect(overviewOf(e).contents.map((c) => `${c.depth} ${c.label}`)).toEqual([
      '0 The Mill',
      '1 The Weir',
      '2 Wheel',
    ]);
    expect(parseXml(text(e, 'OPS/nav.xhtml')).fault).toBeNull();
    expect(parseXml(text(e, 'OPS/toc.ncx')).fault).toBeNull();
    expect(text(e, 'OPS/toc.ncx').match(/<navPoint /g)).toHaveLength(3);
    const made = after(e, { type: 'contents-from-headings', depth: 2 });
    expect(overviewOf(made).contents.map((c) => `${c.depth} ${c.label} ${c.fragment}`)).toEqual([
      '0 The Weir ',
      '1 Later & lower later',
      '0 The Mill ',
      '0 The Race ',
    ]);
    expect(deadLinks(made)).toEqual([]);
  });
  it('gets contents where it has none, and says nothing of lists that stay', () => {
    const bare = (FOREIGN['OPS/nav.xhtml'] as string).replace(/<nav epub:type="toc">[\s\S]*?<\/nav>/, '');
    const e = after(open(foreignEpub({ ...FOREIGN, 'OPS/nav.xhtml': bare })), {
      type: 'contents-from-headings',
      depth: 1,
    });
    expect(text(e, 'OPS/nav.xhtml')).toMatch(/<body>\s*<nav epub:type="toc"><ol>[\s\S]*The Race/);
    expect(overviewOf(e).contents.map((c) => c.label)).toEqual(['The Weir', 'The Mill', 'The Race']);
    const made = value(emend(open(), { type: 'remove-document', path: 'OPS/Text/notes.xhtml' }, null));
    expect(made.notes).toEqual(['2 links to it became plain words.']);
  });
});

describe('the package', () => {
  const row = (e: Emended, name: string) => overviewOf(e).metadata.find((m) => m.name === name);
  it('has its lines changed one by one', () => {
    let e = open();
    e = after(e, {
      type: 'metadata',
      change: { do: 'set', at: row(e, 'dc:title')?.at ?? -1, value: 'Weir < Mill' },
    });
    e = after(e, {
      type: 'metadata',
      change: { do: 'refine', at: row(e, 'dc:creator')?.at ?? -1, name: 'role', value: 'aut' },
    });
    e = after(e, {
      type: 'metadata',
      change: { do: 'refine', at: row(e, 'dc:creator')?.at ?? -1, name: 'file-as', value: 'Quill, A.' },
    });
    e = after(e, { type: 'metadata', change: { do: 'add', name: 'dc:subject', value: 'Water' } });
    const lines = (FOREIGN['OPS/book.opf'] as string).split('\n');
    const now = text(e, 'OPS/book.opf').split('\n');
    expect(now.filter((l) => !lines.includes(l)).map((l) => l.trim())).toEqual([
      '<dc:title id="t">Weir &lt; Mill</dc:title>',
      '<meta refines="#c1" property="role" scheme="marc:relators">aut</meta>',
      '<opf:meta refines="#c1" property="file-as">Quill, A.</opf:meta>',
      '<dc:subject>Water</dc:subject>',
    ]);
    expect(
      refusal(e, { type: 'metadata', change: { do: 'remove', at: row(e, 'dc:language')?.at ?? -1 } }),
    ).toContain('must have');
    e = after(e, {
      type: 'metadata',
      change: { do: 'set', at: row(e, 'dc:identifier')?.at ?? -1, value: 'urn:isbn:9780306406157' },
    });
    expect(text(e, 'OPS/toc.ncx')).toContain('content="urn:isbn:9780306406157"');
    e = after(e, { type: 'restamp', moment: '2026-11-28T22:00:00Z' });
    expect(row(e, 'dcterms:modified')?.value).toBe('2026-11-28T22:00:00Z');
  });
  it('keeps an identifier by which typefaces are scrambled (EPUB 3.3 §4.4)', () => {
    const scrambled =
      '<encryption xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><enc:EncryptedData xmlns:enc="http://www.w3.org/2001/04/xmlenc#"><enc:EncryptionMethod Algorithm="http://www.idpf.org/2008/embedding"/><enc:CipherData><enc:CipherReference URI="OPS/f.otf"/></enc:CipherData></enc:EncryptedData></encryption>';
    const e = open(foreignEpub({ ...FOREIGN, 'META-INF/encryption.xml': scrambled, 'OPS/f.otf': 'OTTO' }));
    const identifier = row(e, 'dc:identifier')?.at ?? -1;
    expect(refusal(e, { type: 'metadata', change: { do: 'set', at: identifier, value: 'x' } })).toContain(
      'scrambled',
    );
    const moved = after(e, { type: 'rename', path: 'OPS/f.otf', to: 'OPS/Faces/a b.otf' });
    expect(text(moved, 'META-INF/encryption.xml')).toContain('URI="OPS/Faces/a%20b.otf"');
  });
  it('has its cover replaced, and a picture of another sort renamed', () => {
    const bytes = new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]);
    const sha256 = 'a'.repeat(64);
    const { changes } = value(
      emend(
        open(),
        { type: 'cover', file: { sha256, name: 'New cover.JPG' } },
        { sha256, bytes, type: 'image/jpeg', name: 'New cover.JPG' },
      ),
    );
    const e = value(applyChanges({ ...open(), files: new Map([[sha256, bytes]]) }, changes));
    expect(parts(e)['OPS/Images/weïr.jpg']).toEqual(bytes);
    expect(text(e, 'OPS/book.opf')).toContain(
      'href="Images/we%C3%AFr.jpg" media-type="image/jpeg" properties="cover-image"',
    );
    expect(deadLinks(e)).toEqual([]);
  });
  it('lists its files with what uses them, describes pictures, and removes only what nothing shows', () => {
    const rows = fileRows(open());
    const picture = rows.find((r) => r.path === 'OPS/Images/weïr.png');
    expect(picture).toMatchObject({ isCover: true, type: 'image/png' });
    expect(picture?.usedBy).toEqual([
      'OPS/Styles/main sheet.css',
      'OPS/Text/first chapter.xhtml',
      'OPS/Text/second.xhtml',
    ]);
    expect(picture?.alternatives).toEqual([expect.objectContaining({ text: 'The weir', decorative: false })]);
    const { path = '', offset = 0 } = picture?.alternatives[0] ?? {};
    const e = after(open(), { type: 'alternative', path, offset, text: '', decorative: true });
    expect(text(e, path)).toContain('alt="" role="presentation"/>');
    expect(refusal(open(), { type: 'remove-file', path: 'OPS/Images/weïr.png' })).toContain('It is used in');
    const bare = after(open(), { type: 'remove-file', path: 'OPS/Styles/main sheet.css' });
    expect(deadLinks(bare)).toEqual([]);
    expect(
      parts(after(open(), { type: 'remove-file', path: 'OPS/left over.txt' }))['OPS/left over.txt'],
    ).toBeUndefined();
  });
  it('has style sheets as rules with the place of each value', () => {
    const css = FOREIGN['OPS/Styles/main sheet.css'] as string;
    const rules = styleRules(css);
    expect(rules.map((r) => [r.within, r.selector])).toEqual([
      ['', 'body'],
      ['', '.cover'],
      ['', 'p + p'],
      ['@media (max-width: 30em)', 'p'],
    ]);
    for (const d of rules.flatMap((r) => r.declarations)) expect(css.slice(d.from, d.to)).toBe(d.value);
  });
  it('has typefaces declared otherwise, in the rule that names them', () => {
    const css =
      '/* f */ @font-face { font-family: "Old"; src: url(../F/a%20b.ttf) format("truetype") }\np { margin: 0 }';
    const edited = (property: 'font-family' | 'font-weight', to: string): string => {
      const edit = declareFace('S/x.css', css, 'F/a b.ttf', property, to);
      return edit ? css.slice(0, edit.at) + edit.inserted + css.slice(edit.at + edit.removed.length) : css;
    };
    expect(edited('font-family', 'New "Face"')).toBe(css.replace('"Old"', '"New \\"Face\\""'));
    expect(edited('font-weight', '700')).toBe(
      css.replace('{ font-family', '{ font-weight: 700; font-family'),
    );
    expect(declareFace('S/x.css', css, 'F/other.ttf', 'font-weight', '700')).toBeNull();
  });
});

describe('the place of everything in its source', () => {
  it('agrees with another parser (saxes), element by element', () => {
    for (const [name, source] of Object.entries(FOREIGN)) {
      if (typeof source !== 'string' || !/^<\?xml/.test(source)) continue;
      const { root } = parseXml(source);
      const flat = (e: XmlElement): XmlElement[] => [
        e,
        ...e.children.flatMap((c) => (typeof c === 'string' ? [] : flat(c))),
      ];
      const located = locate(source);
      expect([name, located.map((l) => l.name.replace(/^.*:/, ''))]).toEqual([
        name,
        flat(root as XmlElement).map((e) => e.name),
      ]);
      located.forEach((l, i) => {
        expect(Object.fromEntries(l.attributes.map((a) => [a.name, a.value]))).toEqual(
          flat(root as XmlElement)[i]?.attrs,
        );
        expect(source.slice(l.from)).toMatch(new RegExp(`^<${l.name}[\\s/>]`));
      });
    }
  });
  it('is a passage: the line for a picture in it, the item for its words, nothing in the head', () => {
    const source = FOREIGN['OPS/Text/first chapter.xhtml'] as string;
    const all = locate(source);
    const name = (s: string): string =>
      source.slice(all[passageAt(all, source.indexOf(s), source) ?? 0]?.from).slice(0, 9);
    expect(name('<img')).toBe("<p id='x'");
    expect(name('lower')).toBe("<h2 id='l");
    expect(name('later</a>')).toBe('<p>See <a');
    expect(passageAt(all, source.indexOf('<title>'), source)).toBeNull();
    expect(passages(all, source)).toHaveLength(6);
  });
});

describe('what two windows type at once', () => {
  const TEXT = 'The water went over the weir and on to the mill.';
  const edits = fc.array(
    fc.record({ at: fc.nat(TEXT.length), length: fc.nat(12), inserted: fc.stringMatching(/^[A-Z]{0,4}$/) }),
    { minLength: 1, maxLength: 4 },
  );
  const made = (list: { at: number; length: number; inserted: string }[], mark: string): TextEdit[] => {
    let now = TEXT;
    return list.map((x) => {
      const at = Math.min(x.at, now.length);
      const removed = now.slice(at, at + x.length);
      const inserted = x.inserted && mark + x.inserted;
      now = now.slice(0, at) + inserted + now.slice(at + removed.length);
      return { op: 'edit', path: 'a', at, removed, inserted };
    });
  };
  it('is all there, whoever comes first', () => {
    const e = open(foreignEpub({ a: TEXT }));
    fc.assert(
      fc.property(edits, edits, (a, b) => {
        const [mine, theirs] = [made(a, '+'), made(b, '-')];
        const theirsFirst = value(applyChanges(e, [...theirs, ...moveEdits(mine, theirs).edits]));
        const result = textOfPart(theirsFirst, 'a') ?? '';
        // What the last edits of both typed, which nobody removed again, is in the text.
        for (const last of [mine.at(-1), theirs.at(-1)]) expect(result).toContain(last?.inserted);
        // What neither removed is there still, in its order.
        const kept = [...TEXT].filter((c) => /[a-z ]/.test(c)).length;
        const gone = [...mine, ...theirs].reduce((n, x) => n + x.removed.replace(/[^a-z ]/g, '').length, 0);
        expect(result.replace(/[^a-z ]/g, '').length).toBeGreaterThanOrEqual(kept - gone);
      }),
      { numRuns: 400 },
    );
  });
  it('follows a part that was renamed, and is told where the part is gone', () => {
    const mine: TextEdit[] = [{ op: 'edit', path: 'a', at: 0, removed: '', inserted: 'X' }];
    expect(moveEdits(mine, [{ op: 'rename', path: 'a', to: 'b' }]).edits[0]?.path).toBe('b');
    expect(moveEdits(mine, [{ op: 'remove', path: 'a', index: 0, content: { text: '' } }]).lost).toEqual(
      mine,
    );
  });
});

describe('whatever is done, in whatever order', () => {
  let ours: Uint8Array;
  let older: Uint8Array;
  beforeAll(async () => {
    const made = async (form: 'epub3' | 'epub2'): Promise<Uint8Array> => {
      const three = threeChapters();
      const base = {
        ...book([...three.sections, everyBlock()]),
        pictures: [{ id: 'p1', name: 'p1.png', type: 'image/png', width: 8, height: 8 }],
      } as never as ReturnType<typeof book>;
      const editions = base.editions.map((x) =>
        x.form === 'reflow' && form === 'epub2' ? { ...x, version: '2.0.1' } : x,
      ) as typeof base.editions;
      const r = await makeEbook({ ...base, editions }, 'ebook', { pictures: () => png(8, 8), print: null });
      return value(r).bytes;
    };
    ours = await made('epub3');
    older = await made('epub2');
  });
  const blockers = (bytes: Uint8Array): string[] =>
    value(checkEpub(bytes))
      .filter((f) => f.severity === 'blocker')
      .map((f) => `${f.rule} ${f.message}`);

  const step = fc.record({
    what: fc.constantFrom('move', 'divide', 'join', 'add', 'rename', 'remove', 'linear', 'contents'),
    a: fc.nat(1_000),
    b: fc.nat(1_000),
  });
  const commandFor = (e: Emended, { what, a, b }: { what: string; a: number; b: number }): Command => {
    const docs = overviewOf(e).documents;
    const path = docs[a % docs.length]?.path ?? '';
    switch (what) {
      case 'move':
        return { type: 'move', path, before: docs[b % (docs.length + 1)]?.path ?? null };
      case 'divide': {
        const source = textOfPart(e, path) ?? '';
        const all = locate(source);
        const list = passages(all, source);
        return { type: 'divide', path, at: all[list[b % Math.max(1, list.length)] ?? 0]?.from ?? 0 };
      }
      case 'join':
        return { type: 'join', path };
      case 'add':
        return { type: 'add-document', after: path, title: `New & ${b}` };
      case 'rename': {
        const all = [...e.parts.keys()];
        return {
          type: 'rename',
          path: all[a % all.length] ?? '',
          to: `X ${b % 7}/é${a}-${b}.${(all[a % all.length] ?? '').split('.').at(-1) ?? ''}`,
        };
      }
      case 'remove':
        return { type: 'remove-document', path };
      case 'linear':
        return { type: 'linear', path, linear: b % 2 === 0 };
      default:
        return { type: 'contents-from-headings', depth: (b % 3) + 1 };
    }
  };
  it('no link is dead, no word lost, no blocker made, and Undo leads back to the byte', () => {
    for (const [sort, bytes] of [
      ['foreign', foreignEpub()],
      ['ours', ours],
      ['older', older],
    ] as const) {
      const known = blockers(bytes).length;
      fc.assert(
        fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
          let e = open(bytes);
          const done: PartChange[] = [];
          for (const s of steps) {
            const before = words(e);
            const c = commandFor(e, s);
            const made = emend(e, c, null);
            if (!made.ok) continue;
            e = value(applyChanges(e, made.value.changes));
            done.push(...made.value.changes);
            const now = words(e);
            if (c.type === 'divide' || c.type === 'join' || c.type === 'linear') expect(now).toEqual(before);
            if (c.type === 'move') expect([...now].sort()).toEqual([...before].sort());
            none(`${sort} ${JSON.stringify(c)}`, deadLinks(e));
          }
          const found = blockers(copyOf(e));
          none(sort, found.length > known ? found : []);
          expect(copyOf(value(applyChanges(e, inverseOf(done))))).toEqual(bytes);
        }),
        { numRuns: 15, includeErrorInReport: true },
      );
    }
  });
});
