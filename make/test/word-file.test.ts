/** The manuscript as .docx: read by a library not ours, and brought in again without loss. */
import { strFromU8, unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import mammoth from 'mammoth';
import type { Node } from 'prosemirror-model';
import { compareTexts, schema, type Book, type Section } from '@pagina/core/book';
import { readManuscript, wordsOfSection } from '@pagina/core/intake';
import { makeWordFile } from '@pagina/make/word-file';
import { openNovel } from '../../bench/open-novel';
import { png } from '../../core/test/fixtures/manuscript';
import { book, section, threeChapters } from '../../core/test/fixtures/books';

const text = (t: string, ...marks: string[]): Node =>
  schema.text(
    t,
    marks.map((m) => schema.mark(m)),
  );
const p = (id: string, ...content: Node[]): Node => schema.node('paragraph', { id }, content);

function rich(): Book {
  const content = schema.node('doc', null, [
    p(
      'a',
      text('Plain, '),
      text('slanted', 'emphasis'),
      text(' and '),
      text('strong', 'strong'),
      schema.node('note', { ref: 'f1' }),
    ),
    p(
      'a2',
      text('Small', 'smallCaps'),
      text(' x'),
      text('2', 'super'),
      text(' and '),
      text('gone', 'strike'),
      text(' code', 'monospaced'),
    ),
    schema.node('subhead', { id: 'h', level: 1 }, [text('A subhead')]),
    p(
      'b',
      text('See '),
      schema.text('the rope', [schema.mark('link', { kind: 'place', target: 'c2' })]),
      text(' or '),
      schema.text('the web', [schema.mark('link', { kind: 'web', target: 'https://example.org/' })]),
    ),
    schema.node('break', { id: 'br', ornament: true }),
    p('c', text('After the break.')),
    schema.node('quotation', { id: 'q' }, [
      p('q1', text('Quoted.')),
      schema.node('attribution', { id: 'q2' }, [text('Somebody')]),
    ]),
    schema.node('verse', { id: 'v' }, [
      schema.node('stanza', { id: 'v1' }, [
        schema.node('verseLine', { id: 'v2' }, [text('The tide goes out,')]),
        schema.node('verseLine', { id: 'v3', indent: 1 }, [text('the tide comes in.')]),
      ]),
      schema.node('stanza', { id: 'v4' }, [schema.node('verseLine', { id: 'v5' }, [text('So do I.')])]),
    ]),
    schema.node('list', { id: 'l', ordered: true }, [
      schema.node('item', { id: 'l1' }, [p('l2', text('One'))]),
      schema.node('item', { id: 'l3' }, [p('l4', text('Two'))]),
    ]),
    schema.node('letter', { id: 'le' }, [p('le1', text('Dear clerk,'))]),
    schema.node('passage', { id: 'pa', align: 'right' }, [p('pa1', text('Ranged right'))]),
    schema.node('table', { id: 't' }, [
      schema.node('row', { id: 'r' }, [
        schema.node('cell', { id: 'x' }, [p('x1', text('left'))]),
        schema.node('cell', { id: 'y' }, [p('y1', text('right'))]),
      ]),
    ]),
    schema.node('figure', { id: 'fig', picture: 'map', alt: 'A map', width: 50 }, [text('The flats')]),
    p('z', text('The last line.')),
    schema.node('noteBody', { id: 'f1' }, [p('f2', text('A note.'))]),
  ]);
  const b = threeChapters();
  const sections = [
    ...b.sections.slice(0, -1),
    {
      ...section('c3', 'chapter', [], { title: 'Odds & Ends', parent: 'p1', subtitle: 'Or what was left' }),
      content,
    },
    section('epi', 'epilogue', ['It ended.'], { title: 'Last Light' }),
    b.sections.at(-1)!,
  ];
  return {
    ...b,
    sections,
    pictures: [{ id: 'map', name: 'map', type: 'image/png', width: 300, height: 200 }],
  };
}
const made = async (b: Book): Promise<Uint8Array> => {
  const r = await makeWordFile(b, (id) => (id === 'map' ? png(300, 200) : null));
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};
const again = async (bytes: Uint8Array): Promise<Book> => {
  const r = await readManuscript(bytes, 'again.docx');
  if (!r.ok) throw new Error(r.refusal.message);
  expect(r.value.wordsOut + r.value.setAside.reduce((n, s) => n + s.words, 0)).toBe(r.value.wordsIn);
  return r.value.book;
};
const shape = (n: Node): string => {
  const inner: string[] = [];
  if (!n.isTextblock) n.forEach((c) => void inner.push(shape(c)));
  return n.type.name + (inner.length ? `(${inner.join(' ')})` : '');
};

describe('the manuscript as .docx', () => {
  it('comes in again with its kinds, parts, titles, styles, marks, notes, links and pictures', async () => {
    const before = rich();
    const after = await again(await made(before));
    const facts = (b: Book) =>
      b.sections.map((s) => [s.kind, s.title, s.subtitle, b.sections.findIndex((x) => x.id === s.parent)]);
    expect(facts(after)).toEqual(
      facts(before).map(([kind, title, ...rest]) => [
        kind,
        kind === 'acknowledgements' ? 'Acknowledgements' : title,
        ...rest,
      ]),
    );
    expect(after.record).toMatchObject({ title: 'The Causeway', contributors: [{ name: 'Ines Calloway' }] });
    const [old, fresh] = [before, after].map(
      (b) => b.sections.find((s) => s.title === 'Odds & Ends')!.content,
    );
    expect(shape(fresh!)).toBe(shape(old!));
    // Only the picture has another id.
    const differing = compareTexts(old!, fresh!).paragraphs.filter((x) => x.how !== 'same');
    expect(
      differing.every((x) =>
        x.runs
          .map((r) => r.text)
          .join('')
          .startsWith('▣'),
      ),
    ).toBe(true);
    const marks = (doc: Node): string[] => {
      const out: string[] = [];
      doc.descendants(
        (n) =>
          void (
            n.isText &&
            n.marks.length &&
            out.push(`${n.text}: ${n.marks.map((m) => m.type.name).join()}`)
          ),
      );
      return out;
    };
    expect(marks(fresh!)).toEqual(marks(old!));
    const link = fresh!.child(3).child(1).marks[0]!;
    expect(after.sections.find((s) => s.id === link.attrs.target)?.title).toBe('The Rope');
    expect(after.pictures.map((x) => [x.width, x.height])).toEqual([[300, 200]]);
  });
  it('has headings that another reader sees', async () => {
    // mammoth, a general-purpose reader of .docx.
    const { value } = await mammoth.convertToHtml({ buffer: Buffer.from(await made(rich())) });
    expect(value).toContain('Part I: Water</h1>');
    expect(value).toContain('Chapter One: The Carts</h2>');
    expect(value).toContain('A subhead</h3>');
    expect(value).toMatch(/<img alt="A map"/);
  });
  it('of the open novel comes in again word for word', async () => {
    const novel = openNovel(1);
    const after = await again(await made(novel));
    expect(after.sections.filter((s) => s.kind !== 'title-page').length).toBe(novel.sections.length);
    const words = (b: Book): number => b.sections.reduce((n, s) => n + wordsOfSection(s), 0);
    expect(words(after)).toBe(words(novel));
  }, 120_000);
  it('of text with signs that XML has no room for is well-formed, and comes in again without them', async () => {
    const odd = book([
      section('a', 'chapter', ['Salt & <sand>\u0001, "said" he\u000b.'], { title: 'A & B' }),
    ]);
    const [chapter] = (await again(await made(odd))).sections;
    expect(chapter?.title).toBe('A & B');
    expect(chapter?.content.textContent).toBe('Salt & <sand>, "said" he.');
  });
  it('has contents that lead to every section, and links to books in the shop that it is for', async () => {
    const before = rich();
    const link = p(
      'sl',
      schema.text('Low Water', [schema.mark('link', { kind: 'shop', target: '9799000000165' })]),
    );
    const sections = before.sections.flatMap((s): Section[] =>
      s.kind === 'contents'
        ? [s, section('fig', 'list-of-figures', [])]
        : s.title === 'The Carts'
          ? [{ ...s, content: schema.node('doc', null, [...s.content.children, link]) }]
          : [s],
    );
    const b: Book = { ...before, sections };
    const file = await makeWordFile(
      b,
      () => png(300, 200),
      (isbn) => `https://sallowby.example/read/${isbn}?from=me`,
    );
    if (!file.ok) throw new Error(file.refusal.message);
    // Read by saxes, a general-purpose reader of XML (ECMA-376-1 §17.16.22 and §17.13.6.2).
    const parts = unzipSync(file.value);
    const anchors: string[] = [];
    const bookmarks: string[] = [];
    const parser = new SaxesParser();
    parser.on('opentag', ({ name, attributes }) => {
      if (name === 'w:hyperlink' && attributes['w:anchor']) anchors.push(attributes['w:anchor'] as string);
      if (name === 'w:bookmarkStart') bookmarks.push(attributes['w:name'] as string);
    });
    parser.write(strFromU8(parts['word/document.xml']!)).close();
    // Counted by hand in the book above: figures, part, three chapters, epilogue and acknowledgements; the figure; the link.
    expect(anchors.length).toBe(9);
    expect(anchors.filter((a) => !bookmarks.includes(a))).toEqual([]);
    expect(new Set(bookmarks).size).toBe(bookmarks.length);
    expect(strFromU8(parts['word/_rels/document.xml.rels']!)).toContain(
      'https://sallowby.example/read/9799000000165?from=me',
    );
    // It comes in again without the lists becoming text.
    const after = await again(file.value);
    expect(after.sections.map((s) => s.kind)).toEqual(b.sections.map((s) => s.kind));
    expect(
      after.sections
        .filter((s) => s.kind === 'contents' || s.kind === 'list-of-figures')
        .map((s) => s.content.textContent),
    ).toEqual(['', '']);
  });
  it('of an empty book is refused', async () => {
    const r = await makeWordFile(book([]), () => null);
    expect(r.ok ? '' : r.refusal.message).toBe('The book has no section yet.');
  });
});
