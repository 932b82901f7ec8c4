/** What stands at a chapter's head: a subtitle, a first subhead or an epigraph, told apart by comparing chapters. */
import { describe, expect, it } from 'vitest';
import { readManuscript, type Intake } from '../src/intake';
import { writeEpub } from '../src/epub';
import { prose } from './fixtures/books';

async function read(text: string, name: string): Promise<Intake> {
  const r = await readManuscript(new TextEncoder().encode(text), name);
  if (!r.ok) throw new Error(r.refusal.message);
  const i = r.value;
  expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
  return i;
}
const chapter = (n: number, below: string): string =>
  `<h1>Chapter ${n}: Title ${n}</h1>\n${below}\n<p>${prose(120, n)}</p>`;
const html = (chapters: string[]): Promise<Intake> =>
  read(`<html><body>${chapters.join('\n')}</body></html>`, 'x.html');
const heads = (i: Intake) => i.book.sections.map((s) => [s.title, s.subtitle, s.content.child(0).type.name]);

describe('a line below the titles', () => {
  it('is a subtitle when most chapters have one that looks the same', async () => {
    const i = await html(
      [1, 2, 3, 4].map((n) => chapter(n, n === 3 ? '' : `<h2>In which tide ${n} rises</h2>`)),
    );
    expect(heads(i)).toEqual([
      ['Title 1', 'In which tide 1 rises', 'paragraph'],
      ['Title 2', 'In which tide 2 rises', 'paragraph'],
      ['Title 3', '', 'paragraph'],
      ['Title 4', 'In which tide 4 rises', 'paragraph'],
    ]);
  });
  it('is a first subhead when the others lack it', async () => {
    const i = await html([1, 2, 3, 4].map((n) => chapter(n, n === 2 ? '<h2>The rope</h2>' : '')));
    expect(heads(i)[1]).toEqual(['Title 2', '', 'subhead']);
  });
  it('is a subtitle by its looks alone, in a manuscript without styles', async () => {
    const i = await html(
      [1, 2, 3].map(
        (n) =>
          `<p align="center"><b>Chapter ${n}: Title ${n}</b></p><p align="center"><i>Place ${n}, in spring</i></p><p>${prose(120, n)}</p>`,
      ),
    );
    expect(heads(i).map(([, subtitle]) => subtitle)).toEqual([1, 2, 3].map((n) => `Place ${n}, in spring`));
  });
});

describe('an epigraph at a chapter’s head', () => {
  const quotation = (i: Intake, s = 0): string[] => {
    const first = i.book.sections[s]!.content.child(0);
    const parts: string[] = [first.type.name];
    first.forEach((n) => void parts.push(`${n.type.name}: ${n.textContent}`));
    return parts;
  };
  it('is a quotation with the line that says whose it is', async () => {
    const i = await html([
      chapter(1, '<p><i>The sea keeps no accounts.</i></p><p>— Old saying of the flats</p>'),
      chapter(2, ''),
      chapter(3, ''),
    ]);
    expect(quotation(i)).toEqual([
      'quotation',
      'paragraph: The sea keeps no accounts.',
      'attribution: — Old saying of the flats',
    ]);
    expect(i.book.sections[1]!.content.child(0).type.name).toBe('paragraph');
  });
  it('is known in every chapter, and is no subtitle', async () => {
    const i = await html(
      [1, 2, 3].map((n) =>
        chapter(n, `<p align="center"><i>Saying number ${n}</i></p><p align="center">— A. Drover</p>`),
      ),
    );
    expect(heads(i).map((h) => h.slice(1))).toEqual(Array(3).fill(['', 'quotation']));
  });
  it('is not made of a chapter that begins with a speech', async () => {
    const i = await html([
      chapter(1, '<p>“Come here,” she said.</p><p>He went.</p>'),
      chapter(2, ''),
      chapter(3, ''),
    ]);
    expect(i.book.sections[0]!.content.child(0).type.name).toBe('paragraph');
  });
});

it('a quotation anywhere has its last line for its source', async () => {
  const i = await read('# One\n\nText.\n\n> The tide is a clerk.\n>\n> — Maren\n\nMore.\n', 'x.md');
  const kinds: string[] = [];
  i.book.sections[0]!.content.descendants((n) => void kinds.push(n.type.name));
  expect(kinds).toContain('attribution');
});

describe('links inside the manuscript', () => {
  /** Links as "text → where": the title of the section, and the words of the block. */
  const links = (i: Intake): string[] => {
    const out: string[] = [];
    for (const s of i.book.sections)
      s.content.descendants((n) => {
        const link = n.marks.find((m) => m.type.name === 'link');
        if (!link || link.attrs.kind !== 'place') return;
        const [section, block] = (link.attrs.target as string).split('#');
        const to = i.book.sections.find((x) => x.id === section);
        let words = '';
        to?.content.descendants((b) => {
          if (block && b.attrs.id === block) words = b.textContent;
        });
        out.push(`${n.text} → ${to?.title ?? 'nowhere'}${block ? ` / ${words.slice(0, 12)}` : ''}`);
      });
    return out;
  };
  const body = `<h1 id="one">Chapter 1: The Boat</h1><p>See <a href="#two">the tide</a>, <a href="#post">the post</a>
    and <a href="#none">nothing</a>.</p>
    <h1><a name="two"></a>Chapter 2: The Tide</h1><p>Text.</p><p id="post">The ninth post stands.</p>`;
  const all = ['the tide → The Tide', 'the post → The Tide / The ninth po'];
  it('of HTML lead to sections and to blocks; those that lead nowhere are plain text', async () => {
    const i = await html([body]);
    expect(links(i)).toEqual(all);
    expect(i.book.sections[0]!.content.textContent).toContain('nothing');
  });
  it('of .docx lead to bookmarks', async () => {
    // Written by the docx library.
    const d = await import('docx');
    const heading = (text: string, id: string) =>
      new d.Paragraph({
        heading: d.HeadingLevel.HEADING_1,
        children: [new d.Bookmark({ id, children: [new d.TextRun(text)] })],
      });
    const doc = new d.Document({
      sections: [
        {
          children: [
            heading('Chapter 1: The Boat', 'one'),
            new d.Paragraph({
              children: [
                new d.TextRun('See '),
                new d.InternalHyperlink({ anchor: 'two', children: [new d.TextRun('the tide')] }),
                new d.TextRun(' and '),
                new d.InternalHyperlink({ anchor: 'post', children: [new d.TextRun('the post')] }),
              ],
            }),
            heading('Chapter 2: The Tide', 'two'),
            new d.Paragraph('Text.'),
            new d.Paragraph({
              children: [new d.Bookmark({ id: 'post', children: [new d.TextRun('The ninth post stands.')] })],
            }),
          ],
        },
      ],
    });
    const r = await readManuscript(new Uint8Array(await d.Packer.toBuffer(doc)), 'x.docx');
    expect(r.ok && links(r.value)).toEqual(all);
  });
  it('survive the way into an ebook and back', async () => {
    const first = await html([body]);
    const made = writeEpub({
      book: { ...first.book, record: { ...first.book.record, title: 'Posts' } },
      edition: 'ebook',
      pictures: new Map(),
      print: null,
    });
    if (!made.ok) throw new Error(made.refusal.message);
    const again = await readManuscript(made.value, 'x.epub');
    expect(again.ok && links(again.value)).toEqual(all);
  });
});
