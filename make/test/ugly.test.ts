/**
 * Ugly books, printed and read back from the file by pdfjs-dist: nothing runs off the sheet or over the measure, nothing
 * is printed over anything else, and every word of the source is on a page. Not a line of the typesetter's code is asked.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { freshSection, schema, type Book } from '@pagina/core/book';
import { INTERIOR_NAMES } from '@pagina/core/design';
import { makePrint } from '@pagina/make';
import { book, prose } from '../../core/test/fixtures/books';
import { chapter, id, note, noteBody, numbers, on, para, text, uglyChapters } from './fixtures';

interface Printed {
  x: number;
  width: number;
  y: number;
  size: number;
  text: string;
}
interface Read {
  pages: Printed[][];
  width: number;
  height: number;
  /** All words of the file. */
  all: string;
  report: Record<string, unknown>;
}

async function printed(b: Book): Promise<Read> {
  const made = await makePrint(b, 'paperback', { pictures: () => null });
  if (!made.ok) throw new Error(made.refusal.message);
  const path = join(mkdtempSync(join(tmpdir(), 'ugly-')), 'a.pdf');
  writeFileSync(path, made.value.bytes);
  // Poppler reads what a glyph stands for where several characters share one (ISO 32000-1 §14.9.4); pdf.js does not.
  const all = execFileSync('pdftotext', ['-enc', 'UTF-8', path, '-'], { encoding: 'utf8' });
  const file = await getDocument({ data: made.value.bytes.slice(), verbosity: 0 }).promise;
  const pages: Printed[][] = [];
  let width = 0;
  let height = 0;
  for (let p = 1; p <= file.numPages; p++) {
    const page = await file.getPage(p);
    ({ width, height } = page.getViewport({ scale: 1 }));
    const { items } = await page.getTextContent();
    pages.push(
      items.flatMap((i) => {
        if (!('str' in i) || i.str.trim() === '') return [];
        const [a = 0, , , , x = 0, y = 0] = i.transform as number[];
        return [{ x, width: i.width, y, size: Math.abs(a), text: i.str }];
      }),
    );
  }
  return { pages, width, height, all, report: made.value.composition.report as never };
}

/** Words that are printed over one another: boxes of their x-height that cross. */
function overprinted(page: readonly Printed[]): string[] {
  const found: string[] = [];
  page.forEach((a, i) => {
    for (const b of page.slice(i + 1)) {
      // A mark over a letter has a width in the file that the pen takes back.
      if (Math.abs(a.y - b.y) < 0.1 && /\p{M}/u.test((a.text + b.text).normalize('NFD'))) continue;
      // Two slashes lean into one another: that is the face's own kerning.
      if (a.text.endsWith('/') && b.text.startsWith('/')) continue;
      const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
      const up = Math.min(a.y + a.size * 0.4, b.y + b.size * 0.4) - Math.max(a.y, b.y);
      // A letter's own white counts to its width.
      if (across > 1.5 + 0.06 * Math.max(a.size, b.size) && up > 0.5)
        found.push(`“${a.text}” over “${b.text}”`);
    }
  });
  return found;
}

/** Letters and figures of a text, each as often as it occurs; as capitals, since a design may set what it likes in capitals. */
function letters(text: string): Map<string, number> {
  const counts = new Map<string, number>();
  for (const c of text
    .toUpperCase()
    .normalize('NFD')
    .replace(/[^\p{L}\p{N}\p{So}]/gu, ''))
    counts.set(c, (counts.get(c) ?? 0) + 1);
  return counts;
}

function expectSound(b: Book, r: Read, what = ''): void {
  for (const [n, page] of r.pages.entries()) {
    for (const i of page) {
      const where = `${what} page ${n + 1}: “${i.text}” ${JSON.stringify(i)}`;
      expect(i.x, where).toBeGreaterThan(4);
      expect(i.x + i.width, where).toBeLessThan(r.width - 4);
      expect(i.y, where).toBeGreaterThan(2);
      expect(i.y + i.size * 0.6, where).toBeLessThan(r.height);
    }
    expect(overprinted(page), `${what} page ${n + 1}`).toEqual([]);
  }
  const shown = letters(r.all);
  const source: string[] = [];
  for (const s of b.sections) {
    source.push(s.title, s.subtitle);
    s.content.descendants((n) => {
      if (n.isTextblock) source.push(n.textContent);
      return !n.isTextblock;
    });
  }
  for (const [c, n] of letters(source.join(' ')))
    expect(shown.get(c) ?? 0, `${what}: ${c} of the source`).toBeGreaterThanOrEqual(n);
}

const sound = async (b: Book, what = ''): Promise<Read> => {
  const r = await printed(b);
  expectSound(b, r, what);
  expect(r.report, what).toMatchObject({ overfullLines: 0, lostNotes: 0 });
  return r;
};

describe('letters', () => {
  it('with marks over and under them are drawn with their marks, and widen no line', async () => {
    const words = 'За́мок на горе́, ẹ̀kọ́ ni ìwọ̀n, ǵ̱ǎ̤ȩ̈ ';
    const r = await sound(book([chapter([para(text(words.repeat(30)))])]));
    // Every line but the last fills the measure of 306 pt to the point: widths in the file are those it was set with.
    const lines = new Map<number, number>();
    for (const i of r.pages.flat().filter((p) => p.size > 10 && p.size < 12))
      lines.set(Math.round(i.y), Math.max(lines.get(Math.round(i.y)) ?? 0, i.x + i.width));
    const ends = [...lines.values()].map(Math.round);
    expect(Math.max(...ends)).toBeLessThanOrEqual(54 + 306 + 4);
  });
  it('that no face has are boxes that can be copied, counted and found', async () => {
    const b = book([chapter([para(text(`${prose(20)} שלום 你好 🙂 ${prose(20)}`))])]);
    const r = await sound(b);
    expect(r.report).toMatchObject({ missingGlyphs: 7 });
    expect(r.all).toContain('你好');
  });
});

describe('notes', () => {
  it('called from subheads, tables, captions, verse, quotations and titles stand at a foot, over nothing', async () => {
    const blocks: Node[] = [];
    const bodies: Node[] = [];
    for (let k = 0; k < 14; k++) {
      const refs = Array.from({ length: 5 }, () => id());
      blocks.push(
        para(text(prose(90, k + 1))),
        schema.node('subhead', { id: id(), level: 1 + (k % 3) }, [text(`Subhead ${k}`), note(refs[0]!)]),
        schema.node('table', { id: id() }, [
          schema.node('row', { id: id() }, [
            schema.node('cell', { id: id() }, [para(text('cell'), note(refs[1]!))]),
            schema.node('cell', { id: id() }, [para(text(prose(12, k)))]),
          ]),
        ]),
        schema.node('figure', { id: id(), picture: 'none' }, [
          text('A caption in '),
          text('italics', 'emphasis'),
          note(refs[2]!),
        ]),
        schema.node('quotation', { id: id() }, [para(text(prose(30, k)), note(refs[3]!))]),
        schema.node('verse', { id: id() }, [
          schema.node('stanza', { id: id() }, [
            schema.node('verseLine', { id: id() }, [text('A line of verse'), note(refs[4]!)]),
          ]),
        ]),
      );
      refs.forEach((r, i) => bodies.push(noteBody(r, `Note ${k} ${i}. ${prose(8 + ((k * 7) % 40), k)}`)));
    }
    const r = await sound(book([chapter([...blocks, ...bodies])]));
    const all = r.pages
      .flat()
      .map((i) => i.text)
      .join(' ');
    for (let k = 0; k < 14; k++) expect(all).toContain(`Note ${k}`);
  });
});

describe('pages of a form of their own', () => {
  const academic = (b: Book): Book => ({
    ...b,
    record: {
      ...b.record,
      title: 'Reclamation, Enclosure and the Household Economy of the Northern Salt Marshes',
      subtitle: 'A Comparative Study of Fourteen Parishes between the Two Surveys, with an Appendix of Wills',
      contributors: [
        {
          name: 'Bartholomew Fairweather-Huntingdon',
          role: 'author',
          sortName: '',
          life: '',
          portrait: null,
        },
        { name: 'Constance Ottoline Abernethy', role: 'author', sortName: '', life: '', portrait: null },
        { name: 'Maximiliane von Hohenfels', role: 'translator', sortName: '', life: '', portrait: null },
        { name: 'Archibald Penhaligon-Trevelyan', role: 'foreword', sortName: '', life: '', portrait: null },
      ],
      imprint: 'Shingle Street Books',
    },
  });
  it.each(INTERIOR_NAMES)(
    '%s: a title page of an academic book fits on small trims',
    async (interior) => {
      for (const trim of ['5 × 8 in', '4.25 × 7 in', '3.5 × 5 in']) {
        const b = on(
          academic(
            book([
              freshSection('t', 'title-page'),
              freshSection('h', 'half-title'),
              chapter([para(text(prose(40)))]),
            ]),
          ),
          { interior, trim },
        );
        const r = await sound(b, `${interior} ${trim}`);
        const bare = (t: string): string => t.toLowerCase().replace(/[^\p{L}]/gu, '');
        const all = bare(r.all);
        for (const word of [
          'reclamation',
          'enclosure',
          'comparative',
          'fairweather-huntingdon',
          'abernethy',
          'hohenfels',
          'trevelyan',
          'shingle street',
        ])
          expect(all, `${interior} ${trim}`).toContain(bare(word));
      }
    },
    120_000,
  );
  it('a copyright page with every clause fits on a small trim', async () => {
    const b = book([freshSection('c', 'copyright-page'), chapter([para(text(prose(40)))])]);
    const record = {
      ...b.record,
      clauses: ['rights-reserved', 'moral-rights', 'fiction', 'no-training', 'cc-by', 'first-edition'],
      publisher: 'Shingle Street Books and Associated Presses of the Northern Coast',
    } as Book['record'];
    for (const trim of ['5 × 8 in', '4.25 × 7 in', '3.5 × 5 in'])
      await sound(on({ ...b, record }, { trim }), trim);
  });
  it('a chapter’s title of four hundred letters, and a word longer than the measure, stay on the page', async () => {
    const long = 'The extraordinary and in every respect unprecedented understanding '.repeat(6);
    for (const interior of INTERIOR_NAMES) {
      const b = book([
        freshSection('p', 'part', { title: long }),
        chapter([para(text(prose(80)))], { title: long, subtitle: long }),
        chapter(
          [
            schema.node('subhead', { id: id(), level: 1 }, [
              text('Donaudampfschifffahrtselektrizitätenhauptbetriebswerk'),
            ]),
            para(text(prose(80))),
          ],
          {
            title: 'Donaudampfschifffahrtselektrizitätenhauptbetriebswerkbauunterbeamtengesellschaft',
          },
        ),
      ]);
      await sound(on(b, { interior, trim: '4.25 × 7 in' }), interior);
    }
  }, 120_000);
});

describe('blocks', () => {
  it('code keeps its indents and tabs, and turns over instead of running out', async () => {
    const code =
      'function tide() {\n\tif (water > mark) {\n\t\treturn "' +
      'salt '.repeat(40) +
      '";\n\n    }\n' +
      'x'.repeat(400) +
      '\n}';
    const r = await sound(
      book([chapter([para(text(prose(30))), schema.node('monospace', { id: id() }, [text(code)])])]),
    );
    const first = r.pages.flat().find((i) => i.text.startsWith('function'))!;
    const inner = r.pages.flat().find((i) => i.text.trim().startsWith('if'))!;
    // A tab is four characters, and those of one width.
    const each = first.width / first.text.length;
    const indent = inner.text.startsWith(' ')
      ? inner.text.length - inner.text.trimStart().length
      : (inner.x - first.x) / each;
    expect(Math.round(indent)).toBe(4);
  });
  it('chains of no-break spaces and words of many styles are broken before they run out', async () => {
    const chain = Array.from({ length: 80 }, (_, k) => `word${k}`).join('\u00a0');
    const mixed = Array.from({ length: 40 }, (_, k) =>
      text(`syllab${k}`, ...(k % 2 ? ['emphasis'] : ['strong'])),
    );
    const r = await sound(book([chapter([para(text(chain)), para(...mixed)])]));
    const gaps = r.pages
      .flat()
      .map((i) => i.text)
      .join(' ');
    expect(gaps).toMatch(/word3\s+word4/u);
  });
  it('addresses divide after their signs and show no hyphen', async () => {
    const address = 'https://www.example.org/archives/northern-marshes/surveys?year=1843&parish=all#table_7';
    const r = await sound(
      book([chapter([para(text(`${prose(9)} ${address} ${prose(12)} ${address}, ${prose(20)}`))])]),
    );
    expect(
      r.pages
        .flat()
        .map((i) => i.text)
        .join('')
        .replace(/\s/g, ''),
    ).toContain(address);
  });
  it('a row of a table higher than a page goes over to the next', async () => {
    const row = (n: number): Node =>
      schema.node('row', { id: id() }, [
        schema.node('cell', { id: id() }, [para(text(`Row ${n}`))]),
        schema.node('cell', { id: id() }, [para(text(prose(900, n))), para(text(prose(300, n + 9)))]),
      ]);
    await sound(
      book([chapter([para(text(prose(100))), schema.node('table', { id: id() }, [row(1), row(2)])])]),
    );
  });
  it.each(['strike', 'underline'])('text with a line is kept, and has it: %s', async (mark) => {
    const r = await sound(book([chapter([para(text('It is '), text('not at all', mark), text(' so.'))])]));
    expect(
      r.pages
        .flat()
        .map((i) => i.text)
        .join(' '),
    ).toMatch(/not\s+at\s+all/);
  });
  it('ragged text ends within its measure', async () => {
    const b = on(book([chapter(Array.from({ length: 30 }, (_, k) => para(text(prose(70, k)))))]), {
      design: { from: {}, set: { 'text.set': 'ragged' } },
    });
    const r = await sound(b);
    for (const [n, page] of r.pages.entries()) {
      const right = n % 2 === 0 ? r.width - 36 : r.width - 54;
      for (const i of page) expect(i.x + i.width).toBeLessThan(right + 1);
    }
  });
});

it('random ugly books in every interior are sound', async () => {
  for (let n = 0; n < 16; n++) {
    const below = numbers(n + 1);
    const interior = INTERIOR_NAMES[n % INTERIOR_NAMES.length]!;
    const trim = ['5 × 8 in', '4.25 × 7 in', '6 × 9 in'][below(3)]!;
    await sound(on(book(uglyChapters(20261 + n)), { interior, trim }), `book ${n}, ${interior}, ${trim}`);
  }
}, 300_000);
