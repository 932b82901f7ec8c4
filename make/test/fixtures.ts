/** Ugly books: words that no typesetter expects, in every block and mark of the schema, called notes and all. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Node } from 'prosemirror-model';
import { makePrint } from '@pagina/make';
import { freshSection, schema, type Book, type Section } from '@pagina/core/book';
import { prose } from '../../core/test/fixtures/books';

let ids = 0;
export const id = (): string => `u${++ids}`;
export const text = (t: string, ...marks: string[]): Node =>
  schema.text(
    t,
    marks.map((m) => schema.mark(m)),
  );
export const para = (...inline: Node[]): Node => schema.node('paragraph', { id: id() }, inline);
export const note = (ref: string): Node => schema.node('note', { ref });
export const noteBody = (ref: string, ...paragraphs: string[]): Node =>
  schema.node(
    'noteBody',
    { id: ref },
    paragraphs.map((p) => para(text(p))),
  );
export const chapter = (blocks: Node[], more: Partial<Section> = {}): Section =>
  freshSection(id(), 'chapter', { title: 'The Tide', content: schema.node('doc', null, blocks), ...more });
export const on = (b: Book, fields: object): Book => ({
  ...b,
  editions: b.editions.map((e) => (e.form === 'print' ? { ...e, ...fields } : e)),
});

/** Numbers from a seed (a linear congruential generator; Numerical Recipes' constants, from memory). */
export function numbers(seed: number): (n: number) => number {
  let x = seed;
  return (n) => {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    return (x >>> 8) % n;
  };
}
/** Two chapters of random blocks, always the same for a seed. */
export function uglyChapters(seed: number): Section[] {
  const below = numbers(seed);
  const words = [
    'tide',
    'ẹ̀kọ́',
    'За́мок',
    'שלום',
    '漢字',
    '🙂',
    'https://a.example/very/long/path/that/goes/on/and/on?x=1&y=2',
    'a\u00a0b\u00a0c\u00a0d\u00a0e\u00a0f',
    'Ünïcödé',
    'well-known',
    'ﬁn',
    'x'.repeat(90),
    '“quoted”',
    'π',
    'L’été',
  ];
  const line = (n: number): string =>
    Array.from({ length: 1 + below(n) }, () =>
      below(3) ? prose(1, below(99) + 1).replace('.', '') : words[below(words.length)]!,
    ).join(' ');
  const marks = ['emphasis', 'strong', 'smallCaps', 'super', 'sub', 'underline', 'strike', 'monospaced'];

  const bodies: Node[] = [];
  const inline = (most: number): Node[] =>
    Array.from({ length: 1 + below(4) }, () => {
      if (below(6) === 0) {
        const ref = id();
        bodies.push(noteBody(ref, line(60), line(20)));
        return note(ref);
      }
      // To a place that is not carried: its words stand as they were.
      if (below(9) === 0)
        return schema.node('reference', { target: 'nowhere', shows: 'page', words: `${line(4)} ` });
      return text(`${line(most)} `, ...(below(3) ? [] : [marks[below(marks.length)]!]));
    });
  const block = (): Node => {
    switch (below(10)) {
      case 0:
        return schema.node('subhead', { id: id(), level: 1 + below(3) }, inline(8));
      case 1:
        return schema.node('quotation', { id: id() }, [
          para(...inline(40)),
          schema.node('attribution', { id: id() }, inline(4)),
        ]);
      case 2:
        return schema.node('verse', { id: id() }, [
          schema.node(
            'stanza',
            { id: id() },
            [0, 1, 2].map(() => schema.node('verseLine', { id: id(), indent: below(4) }, inline(9))),
          ),
        ]);
      case 3:
        return schema.node(
          'list',
          { id: id(), ordered: below(2) === 0, terms: below(2) === 0 },
          [0, 1].map(() =>
            schema.node(
              'item',
              { id: id() },
              Array.from({ length: 1 + below(3) }, () => para(...inline(20))),
            ),
          ),
        );
      case 4:
        return schema.node(
          'table',
          { id: id() },
          [0, 1, 2].map(() =>
            schema.node(
              'row',
              { id: id() },
              Array.from({ length: 3 }, () => schema.node('cell', { id: id() }, [para(...inline(10))])),
            ),
          ),
        );
      case 5:
        return schema.node('monospace', { id: id() }, [text(`${line(30)}\n\t${line(9)}`)]);
      case 6:
        return schema.node('passage', { id: id(), align: ['centre', 'right', 'inset'][below(3)] }, [
          para(...inline(20)),
        ]);
      case 7:
        return schema.node('figure', { id: id(), picture: 'none', credit: line(3) }, inline(12));
      default:
        return para(...inline(120));
    }
  };
  const made = (): Section => {
    bodies.length = 0;
    const blocks = Array.from({ length: 2 + below(14) }, block);
    return chapter([...blocks, ...bodies], { title: line(9), subtitle: below(3) ? '' : line(6) });
  };
  return [made(), made()];
}

/** Where every word of a book's interior stands, as Poppler's pdftotext says it, in XHTML. */
export const boxesOf = (b: Book): Promise<string> => printed(b, ['-bbox']);

/** The text of its pages in the order in which it was set, without the hyphens at lines' ends. */
export async function pagesOf(b: Book): Promise<string[]> {
  const pages = (await printed(b, ['-raw'])).split('\f').slice(0, -1);
  return pages.map((p) =>
    p
      .replace(/\u00ad\n/g, '')
      .replace(/\s+/g, ' ')
      .trim(),
  );
}

async function printed(b: Book, options: string[]): Promise<string> {
  const made = await makePrint(b, 'paperback', { pictures: () => null });
  if (!made.ok) throw new Error(made.refusal.message);
  if (made.value.composition.report.lostNotes !== 0) throw new Error('a note was lost');
  const dir = mkdtempSync(join(tmpdir(), 'printed-'));
  try {
    const path = join(dir, 'book.pdf');
    writeFileSync(path, made.value.bytes);
    return execFileSync('pdftotext', [...options, '-enc', 'UTF-8', path, '-'], {
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    });
  } finally {
    rmSync(dir, { recursive: true });
  }
}
