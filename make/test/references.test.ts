/**
 * What the book says where it refers to itself, read off the files made. The PDF is read page by page by Poppler’s
 * pdftotext, and folios are reckoned from its physical pages: the body begins on a right-hand page that is page 1
 * (common practice). The ebook is unzipped and parsed by parse5.
 */
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { apply, schema, type Book, type Section } from '@pagina/core/book';
import { changeOfEdits, tidyReferences } from '@pagina/core/tidy';
import { checkBook } from '@pagina/core/check';
import { divide, join, type Shows } from '@pagina/core/order';
import { readManuscript } from '@pagina/core/intake';
import { book, prose, section } from '../../core/test/fixtures/books';
import { makeEbook, makePrint } from '../src';
import { makeWordFile } from '../src/word-file';
import { chapter, id, note, noteBody, numbers, on, pagesOf, para, text } from './fixtures';

async function filesOf(b: Book): Promise<Record<string, string>> {
  const made = await makeEbook(b, 'ebook', { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  const files = Object.entries(unzipSync(made.value.bytes)).filter(([name]) => /xhtml$/.test(name));
  return Object.fromEntries(files.map(([name, b]) => [name, new TextDecoder().decode(b)]));
}

const refer = (target: string, shows: Shows, capital = false) =>
  schema.node('reference', { target, shows, capital, words: 'OLD WORDS' });

/** What stands between "<n:" and ":n>" on the pages. */
const said = (pages: readonly string[], n: number): string =>
  new RegExp(`<${n}:(.*?):${n}>`).exec(pages.join(' '))?.[1]?.trim() ?? 'nothing';

describe('references to pages', () => {
  it.each([1, 2, 3, 4, 5, 6])('name the page on which the place stands (random book %i)', async (seed) => {
    const below = numbers(seed);
    const at = (n: number): { section: string; block: string; word: string } => places[n % places.length]!;
    const places: { section: string; block: string; word: string }[] = [];
    const ids = Array.from({ length: 6 }, () => id());
    // Places first: paragraphs that begin with a word of their own.
    const texts = ids.map((section) =>
      Array.from({ length: 4 + below(9) }, () => {
        const block = id();
        const word = `zz${places.length}zz`;
        places.push({ section, block, word });
        return { block, words: `${word} ${prose(40 + below(260), 1 + below(99))}` };
      }),
    );
    let asked = 0;
    const wanted: string[] = [];
    const sections: Section[] = ids.map((own, i) =>
      chapter(
        [
          para(text('Here it opens.')),
          ...texts[i]!.flatMap(({ block, words: w }) => {
            const to = at(below(999));
            wanted.push(to.word);
            const n = asked++;
            return [
              schema.node('paragraph', { id: block }, [text(w)]),
              para(text(`See <${n}:`), refer(`${to.section}#${to.block}`, 'page'), text(`:${n}>.`)),
            ];
          }),
        ],
        { id: own, title: `Title ${i}` },
      ),
    );
    const pages = await pagesOf(
      book([section('t', 'title-page', []), section('toc', 'contents', []), ...sections]),
    );
    const first = pages.findIndex((p) => p.includes('zz0zz'));
    expect(first % 2).toBe(0);
    wanted.forEach((word, n) => {
      const folio = pages.findIndex((p) => p.includes(word)) - first + 1;
      expect([n, said(pages, n)]).toEqual([n, `page ${folio}`]);
    });
  });
  it('name a range from the first page to the last, and the one page of a short place', async () => {
    const long = chapter([para(text('Here it opens.')), para(text(`zzlong ${prose(3000, 3)} zzend.`))], {
      id: 'long',
      title: 'Long',
    });
    const b = book([
      chapter([
        para(
          text('<1:'),
          refer('long', 'pages'),
          text(':1> and <2:'),
          refer('short', 'pages', true),
          text(':2>'),
        ),
      ]),
      long,
      chapter([para(text('Here it opens.')), para(text('zzshort'))], { id: 'short', title: 'Short' }),
    ]);
    const pages = await pagesOf(b);
    const [from, to, short] = ['zzlong', 'zzend', 'zzshort'].map(
      (w) => pages.findIndex((p) => p.includes(w)) + 1,
    );
    expect(to! - from!).toBeGreaterThan(4);
    expect(said(pages, 1)).toBe(`pages ${from}–${to}`);
    expect(said(pages, 2)).toBe(`Page ${short}`);
  });
  it('keep their words where the edition does not carry the place', async () => {
    const b = book([
      chapter([para(text('<1:'), refer('gone', 'page'), text(':1>'))]),
      chapter([para(text('Text.'))], { id: 'gone', leftOut: ['paperback'] }),
    ]);
    expect(said(await pagesOf(b), 1)).toBe('OLD WORDS');
  });
});

/** A part, chapters, an appendix, figures, a table and a note, with every reference to each of them. */
function everything(): { b: Book; targets: string[] } {
  const figure = (id: string, caption: string) =>
    schema.node('figure', { id, picture: 'none' }, [text(caption)]);
  const cell = (t: string) => schema.node('cell', { id: id() }, [para(text(t))]);
  const table = (t: string, caption: string) => [
    schema.node('tableCaption', { id: `${t}c` }, [text(caption)]),
    schema.node('table', { id: t }, [schema.node('row', { id: id() }, [cell('a'), cell('b')])]),
  ];
  const targets = ['p1', 'c2', 'c2#h', 'c2#f2', 'c2#t1', 'c2#n1', 'app', 'pre'];
  const asking = targets.flatMap((t, i) =>
    (['label', 'number', 'title'] as const).map((shows, k) =>
      para(text(`<${i * 3 + k}:`), refer(t, shows), text(`:${i * 3 + k}>`)),
    ),
  );
  const b = book([
    section('pre', 'preface', ['Before.']),
    section('p1', 'part', [], { title: 'Water' }),
    chapter([figure('f1', 'The first lock'), ...asking], { id: 'c1', title: 'The Carts', parent: 'p1' }),
    chapter(
      [
        schema.node('subhead', { id: 'h', level: 1 }, [text('Of gates')]),
        figure('f0', 'A gate'),
        figure('f2', 'A sluice'),
        ...table('t1', 'Tolls'),
        para(text('Noted'), note('n1'), text('.')),
        noteBody('n1', 'A note.'),
      ],
      { id: 'c2', title: 'The Rope', parent: 'p1' },
    ),
    section('app', 'appendix', ['Tides.'], { title: 'Tides' }),
    section('app2', 'appendix', ['Winds.'], { title: 'Winds' }),
  ]);
  return { b: { ...b, numbering: { ...b.numbering, figures: 'by-chapter', tables: 'through' } }, targets };
}
const EXPECTED = [
  'part I', 'I', 'Water', 'chapter 2', '2', 'The Rope', 'chapter 2', '2', 'Of gates', 'figure 2.2', '2.2', 'A sluice',
  'table 1', '1', 'Tolls', 'note 1', '1', 'The Rope', 'appendix A', 'A', 'Tides', 'Preface', 'OLD WORDS', 'Preface',
]; // prettier-ignore

describe('references to numbers and titles', () => {
  it('are right in print, and captions bear their numbers', async () => {
    const pages = await pagesOf(everything().b);
    expect(EXPECTED.map((_, n) => said(pages, n))).toEqual(EXPECTED);
    const all = pages.join(' ');
    for (const caption of [
      'Figure 1.1. The first lock',
      'Figure 2.1. A gate',
      'Figure 2.2. A sluice',
      'Table 1. Tolls',
    ])
      expect(all).toContain(caption);
  });
  it('are right in the ebook, and lead there; pages become chapters', async () => {
    const { b, targets } = everything();
    const asking = chapter(
      [para(text('<90:'), refer('c2', 'page'), text(':90> <91:'), refer('pre', 'pages'), text(':91>'))],
      { title: 'Last' },
    );
    const files = await filesOf({ ...b, sections: [...b.sections, asking] });
    const markup = Object.values(files).join('\n');
    const found = (n: number): [href: string, words: string] => {
      const m = new RegExp(`&lt;${n}:(?:<a href="([^"]*)">)?(.*?)(?:</a>)?:${n}&gt;`).exec(markup);
      return [m?.[1] ?? '', m?.[2]?.replace(/\u00a0/g, ' ') ?? ''];
    };
    EXPECTED.forEach((words, n) => expect([n, found(n)[1]]).toEqual([n, words]));
    expect(found(90)[1]).toBe('chapter 2');
    expect(found(91)[1]).toBe('Preface');
    targets.forEach((_, i) => {
      const [href] = found(i * 3);
      const [file, hash] = href.split('#');
      const target = files[`EPUB/text/${file}`];
      expect(target, href).toBeTruthy();
      if (hash) expect(target).toContain(`id="${hash}"`);
    });
    expect(markup).toContain('<span class="label">Figure 2.2.</span> A sluice');
  });
  it('in a .docx stand as words, and pages as fields that a word processor renews', async () => {
    const { b } = everything();
    const asking = chapter([para(text('See '), refer('c2#h', 'page'), text('.'))], { title: 'Last' });
    const made = await makeWordFile({ ...b, sections: [...b.sections, asking] }, () => null);
    if (!made.ok) throw new Error(made.refusal.message);
    const xml = new TextDecoder().decode(unzipSync(made.value)['word/document.xml']);
    const [, anchor] = /PAGEREF (\w+)/.exec(xml) ?? [];
    expect(xml).toContain(`w:name="${anchor}"`);
    expect(xml).toContain('appendix\u00a0A');
    expect(xml).toContain('Figure 2.2. ');
  });
});

describe('places that move', () => {
  const asking = (target: string, n: number) => para(text(`<${n}:`), refer(target, 'title'), text(`:${n}>`));
  const b = (): Book =>
    book([
      chapter([asking('c2', 1), asking('c2#h', 2), asking('c3', 3)], { id: 'c1', title: 'One' }),
      chapter(
        [
          para(text('First.')),
          schema.node('subhead', { id: 'h', level: 1 }, [text('Of gates')]),
          schema.node('paragraph', { id: 'after' }, [text('Last.')]),
        ],
        { id: 'c2', title: 'Two' },
      ),
      chapter([schema.node('paragraph', { id: 'third' }, [text('Third.')])], { id: 'c3', title: 'Three' }),
    ]);
  const applied = (from: Book, change: ReturnType<typeof join>): Book => {
    const made = change.ok ? apply(from, change.value) : change;
    if (!made.ok) throw new Error(made.refusal.message);
    return made.value.book;
  };
  const newId = (): string => id();
  const saidIn = async (x: Book): Promise<string[]> => {
    const pages = await pagesOf(x);
    const files = Object.values(await filesOf(x)).join(' ');
    // Every reference leads somewhere in the ebook too.
    expect(files.match(/&lt;\d:<a href/g)).toHaveLength(3);
    expect(checkBook(x).map((f) => f.rule)).not.toContain('reference/dead-place');
    return [1, 2, 3].map((n) => said(pages, n));
  };
  it('are followed when sections are joined and divided', async () => {
    expect(await saidIn(b())).toEqual(['Two', 'Of gates', 'Three']);
    const joined = applied(b(), join(b(), 'c3', newId));
    expect(await saidIn(joined)).toEqual(['Two', 'Of gates', 'Three']);
    const divided = applied(joined, divide(joined, 'c2', 'h', newId));
    expect(divided.sections.length).toBe(3);
    expect((await saidIn(divided))[2]).toBe('Three');
  });
});

describe('references found in the text', () => {
  const HTML = `<h1>Chapter 1: The Boats</h1><p>Here it opens.</p><p>As chapter 2 says, and Figure 2.1 shows; chapter 9 does not. In chapter one of his life he was young.</p>
<p>See chapter two, or Appendix B, or appendix c. Part of it is in Table 1.</p>
<h1>Chapter 2: The Nets</h1><p>Nets. Chapter 2 is short.</p><p>Table 1. Ropes</p><table><tr><td>a</td><td>b</td></tr></table>
<h1>Appendix A: Tides</h1><p>Tides.</p><h1>Appendix B: Winds</h1><p>Winds.</p>`;
  const withFigure = async (): Promise<Book> => {
    const r = await readManuscript(new TextEncoder().encode(HTML), 'a.html');
    if (!r.ok) throw new Error(r.refusal.message);
    const { book: b } = r.value;
    const nets = b.sections.find((s) => s.title === 'The Nets')!;
    const figure = schema.node('figure', { id: 'f', picture: 'x' }, [text('Figure 2.1: A net')]);
    const content = nets.content.copy(nets.content.content.addToStart(figure));
    return { ...b, sections: b.sections.map((s) => (s === nets ? { ...s, content } : s)) };
  };
  it('are those whose place is there, and no manner of speaking', async () => {
    const items = tidyReferences(await withFigure());
    expect(items.map((i) => `${i.was} > ${i.by}`)).toEqual([
      'chapter 2 > The Nets',
      'Figure 2.1 > Figure 2.1: A net',
      'chapter two > The Nets',
      'Appendix B > Winds',
      'Table 1 > Table 1. Ropes',
    ]);
  });
  it('become references, and follow when the order changes; typed caption numbers go once the book numbers', async () => {
    const b = await withFigure();
    const numbered: Book = { ...b, numbering: { ...b.numbering, figures: 'by-chapter', tables: 'through' } };
    const change = changeOfEdits(numbered, tidyReferences(numbered), 'All');
    const done = change && apply(numbered, change);
    if (!done?.ok) throw new Error('not applied');
    // The nets come first now.
    const { sections } = done.value.book;
    const at = (title: string): Section => sections.find((s) => s.title === title)!;
    const others = sections.filter((s) => s.kind !== 'chapter');
    const turned = { ...done.value.book, sections: [at('The Nets'), at('The Boats'), ...others] };
    const pages = (await pagesOf(on(turned, {}))).join(' ');
    expect(pages).toContain('As chapter 1 says, and Figure 1.1 shows; chapter 9 does not.');
    expect(pages).toContain('Figure 1.1. A net');
    expect(pages).toContain('Table 1. Ropes');
    expect(pages).not.toContain('Figure 2.1');
  });
});

describe('a table that goes over pages, with its heads again on each', () => {
  it('has the page marks of the ebook at the rows that begin the pages, and its index entries where they stand', async () => {
    const cell = (t: string, head = false, term = '') =>
      schema.node('cell', { id: id(), head }, [
        para(term ? schema.text(t, [schema.mark('indexed', { term })]) : text(t)),
      ]);
    const rows = Array.from({ length: 90 }, (_, r) =>
      schema.node('row', { id: id() }, [
        cell(r === 0 ? 'headcell' : `rowcell${r}`, r === 0, r === 0 ? 'heads' : ''),
      ]),
    );
    const b = book([
      chapter([para(text('It opens here.')), schema.node('table', { id: id() }, rows)]),
      section('ix', 'index', []),
    ]);
    const pages = await pagesOf(b);
    const first = pages.findIndex((p) => p.includes('rowcell1 '));
    // The entry stands where its head stood first.
    expect(pages.join(' ')).toContain(`heads, ${first + 1} `);
    const print = await makePrint(b, 'paperback', { pictures: () => null });
    if (!print.ok) throw new Error(print.refusal.message);
    const made = await makeEbook(b, 'ebook', {
      pictures: () => null,
      print: { edition: 'paperback', composition: print.value.composition },
    });
    if (!made.ok) throw new Error(made.refusal.message);
    const page = Object.entries(unzipSync(made.value.bytes))
      .map(([, x]) => new TextDecoder().decode(x))
      .find((x) => x.includes('rowcell5'))!;
    for (const [folio, row] of pages.flatMap((p, i) => {
      const begins = i > first && /rowcell(\d+)/.exec(p)?.[1];
      return begins ? [[i + 1, begins] as const] : [];
    }))
      expect(page).toMatch(new RegExp(`id="page-${folio}"[^>]*></span>rowcell${row}<`));
  });
});
