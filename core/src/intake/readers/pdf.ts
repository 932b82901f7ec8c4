/**
 * The PDF of an earlier printing as a manuscript: lines joined to paragraphs, hyphens at lines' ends undone, heads and
 * folios left out. A page says only where glyphs stand, so much of this is a guess, and the author is told so.
 */
import { CHAPTER_WORDS, done, PART_WORDS, refused, type Outcome } from '../../base';
import { schema } from '../../book';
import { pagesOf, type Line, type PdfPage } from './pdf-lines';
import { hasPictures, PictureTaker, type PaintedPicture } from './pdf-pictures';
import { PictureShelf } from './pictures';
import { rawManuscript, rawParagraph, type RawManuscript, type RawOptions, type RawParagraph } from '../raw';

/** Errors: `intake/encrypted`, `intake/pdf-pictures`, `intake/damaged`. */
export async function readPdf(
  bytes: Uint8Array,
  { convert, pictures = true }: RawOptions = {},
): Promise<Outcome<RawManuscript>> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const loading = getDocument({
    data: Uint8Array.from(bytes),
    verbosity: VerbosityLevel.ERRORS,
    isEvalSupported: false,
  });
  const m = rawManuscript();
  let pages: PdfPage[];
  const taker = pictures && hasPictures(bytes) ? new PictureTaker(convert) : null;
  try {
    const document = await loading.promise;
    const info = (await document.getMetadata()).info as Record<string, unknown>;
    m.title = typeof info.Title === 'string' ? info.Title : '';
    m.author = typeof info.Author === 'string' ? info.Author : '';
    m.language = typeof info.Language === 'string' ? info.Language : '';
    pages = await pagesOf(document, taker);
  } catch (e) {
    return (e as Error).name === 'PasswordException'
      ? refused(
          'intake/encrypted',
          'The PDF is locked with a password. Save it without one and import it again.',
        )
      : refused('intake/damaged', 'The PDF is damaged and can’t be read.');
  } finally {
    await loading.destroy();
  }
  const words = pages.reduce((n, p) => n + p.lines.length, 0);
  if (words === 0)
    return refused(
      'intake/pdf-pictures',
      'This PDF contains images of pages, not text, so there is nothing to import.',
    );
  const shelf = new PictureShelf(m);
  const joiner = new PageJoiner(pages, (picture) => shelf.add(picture));
  m.blocks = joiner.run();
  if (joiner.furniture > 0) m.dropped['heads-and-folios'] = joiner.furniture;
  if (joiner.hyphens > 0) m.dropped['hyphens-undone'] = joiner.hyphens;
  m.cautions.push({
    rule: 'intake/from-pdf',
    message: `The text was taken from printed pages: ${joiner.furniture} heads and folios were left out and ${joiner.hyphens} hyphens at lines’ ends undone. Where paragraphs part, and which hyphens were the author’s, had to be guessed; notes’ places could not be kept. Read it through.`,
  });
  if (taker && taker.damaged > 0)
    m.cautions.push({
      rule: 'intake/picture-damaged',
      message: `${taker.damaged === 1 ? 'A picture of the PDF is' : `${taker.damaged} pictures of the PDF are`} damaged and could not be taken. Add ${taker.damaged === 1 ? 'it' : 'them'} in the manuscript.`,
    });
  if (taker && taker.stopped !== null)
    m.cautions.push({
      rule: 'intake/pictures-left',
      message: `Pictures were taken from the first ${taker.stopped} pages only: there are too many, or they are too large. Add the others in the manuscript.`,
    });
  return done(m);
}

const median = (values: number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? 0;
};
const shape = (text: string): string =>
  text
    .replace(/[\divxlc]+/gi, '#')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();

/** Letters set apart, as capitals of headings are, read as letters with spaces: "c h a p t e r o n e". */
function unspaced(text: string): string {
  const tokens = text.trim().split(' ');
  if (tokens.length < 5 || tokens.filter((t) => t.length === 1).length < tokens.length * 0.9) return text;
  const word = tokens.join('');
  const label = [...CHAPTER_WORDS, ...PART_WORDS].find((l) => word.toLowerCase().startsWith(l));
  return label && word.length > label.length
    ? `${word.slice(0, label.length)} ${word.slice(label.length)}`
    : word;
}

class PageJoiner {
  furniture = 0;
  hyphens = 0;
  private readonly out: RawParagraph[] = [];
  private readonly size: number;
  private readonly leading: number;
  /** Right edge of full lines, from the left of theirs. */
  private readonly measure: number;
  private now: RawParagraph | null = null;
  private last: Line | null = null;
  /** Pictures passed while a paragraph goes on: they stand behind it. */
  private passed: string[] = [];

  constructor(
    private readonly pages: readonly PdfPage[],
    /** Keeps a picture; answers its id. */
    private readonly keep: (picture: Uint8Array) => string | null,
  ) {
    const lines = pages.flatMap((p) => p.lines);
    this.size = median(lines.flatMap((l) => Array<number>(Math.ceil(l.text.length / 10)).fill(l.size)));
    const gaps = pages.flatMap((p) => p.lines.slice(1).map((l, i) => (p.lines[i] as Line).y - l.y));
    this.leading = median(gaps.filter((g) => g > this.size * 0.8 && g < this.size * 3)) || this.size * 1.3;
    this.measure = median(
      lines.filter((l) => Math.abs(l.size - this.size) < 0.6).map((l) => l.right - l.left),
    );
  }

  run(): RawParagraph[] {
    const furniture = this.furnitureOf();
    const top = Math.min(
      ...this.pages.filter((p) => p.lines.length > 5).map((p) => p.height - this.bodyTop(p, furniture)),
    );
    for (const page of this.pages) {
      const lines = page.lines.filter((l) => !furniture.has(l));
      this.furniture += page.lines.length - lines.length;
      if (lines.length === 0) {
        this.paint(page.pictures);
        continue;
      }
      const body = lines.filter((l) => !this.isNote(l, lines));
      const notes = lines.filter((l) => !body.includes(l));
      const left = this.leftOf(body);
      // A page that begins far down is where something opens.
      const sunk = page.height - (body[0]?.y ?? 0) > top + this.leading * 2.5;
      const pictures = [...page.pictures];
      body.forEach((line, i) => {
        const above = pictures.findIndex((p) => p.y < line.y);
        this.paint(pictures.splice(0, above < 0 ? pictures.length : above));
        this.line(line, body[i - 1] ?? null, left, page, i === 0 && sunk);
      });
      this.paint(pictures);
      for (const n of notes) this.noteLine(n);
    }
    this.close();
    return this.out;
  }

  private paint(pictures: readonly PaintedPicture[]): void {
    for (const { bytes } of pictures) {
      const id = this.keep(bytes);
      if (id) this.passed.push(id);
    }
  }

  private bodyTop(p: PdfPage, furniture: ReadonlySet<Line>): number {
    return p.lines.find((l) => !furniture.has(l))?.y ?? 0;
  }

  /**
   * First and last lines of pages that say the same on many, numbers aside; that stand at one height on most, apart from
   * the text; or that are nothing but a number.
   */
  private furnitureOf(): Set<Line> {
    const edges = this.pages.flatMap((p) =>
      [...p.lines.slice(0, 1), ...p.lines.slice(-1)].map((line) => ({ line, p, top: line === p.lines[0] })),
    );
    const words = new Map<string, number>();
    const heights = new Map<string, number>();
    const more = (of: Map<string, number>, key: string): void => void of.set(key, (of.get(key) ?? 0) + 1);
    const heightOf = (e: (typeof edges)[number]): string =>
      `${e.top} ${Math.round((e.p.height - e.line.y) / 2)}`;
    const apartBy = (e: (typeof edges)[number]): number =>
      e.top ? this.gap(e.line, e.p.lines[1]) : this.gap(e.p.lines.at(-2), e.line);
    for (const e of edges) {
      more(words, shape(e.line.text));
      if (apartBy(e) > 1.2) more(heights, heightOf(e));
    }
    const found = new Set<Line>();
    for (const e of edges) {
      const { line, p } = e;
      if (line.text.length > 100) continue;
      const often = (words.get(shape(line.text)) ?? 0) >= 3;
      const fixed = (heights.get(heightOf(e)) ?? 0) > this.pages.length * 0.4;
      const number = /^[\s\u2013\u2014-]*(\d{1,4}|[ivxlc]{1,7})[\s\u2013\u2014-]*$/i.test(line.text);
      if ((often || fixed || number) && (apartBy(e) > 1.2 || (number && p.lines.length === 1)))
        found.add(line);
    }
    return found;
  }
  private gap(above: Line | undefined, below: Line | undefined): number {
    return above && below ? (above.y - below.y) / this.leading : 9;
  }

  /** Small lines at a page's foot, under a gap. */
  private isNote(line: Line, lines: readonly Line[]): boolean {
    if (line.size > this.size * 0.92) return false;
    const at = lines.indexOf(line);
    return lines.slice(at).every((l) => l.size <= this.size * 0.92) && at > 0;
  }

  private leftOf(lines: readonly Line[]): number {
    const full = lines.filter((l) => l.right - l.left > this.measure * 0.9);
    return full.length > 0 ? Math.min(...full.map((l) => l.left)) : Math.min(...lines.map((l) => l.left));
  }

  private line(line: Line, above: Line | null, left: number, page: PdfPage, opens: boolean): void {
    const big = line.size > this.size * 1.12;
    const inset = line.left - left;
    const middle = (line.left + line.right) / 2 - (left + this.measure / 2);
    const room = left + this.measure - line.right;
    const centred = inset > this.size * 1.5 && room > this.size * 1.2 && Math.abs(middle) < this.size;
    const gap = above ? (above.y - line.y) / this.leading : 1;
    const before = this.last;
    const full = before !== null && before.right > left + this.measure - this.size * 2.2;
    const goesOn =
      this.now !== null &&
      before !== null &&
      !opens &&
      !centred &&
      gap < 1.45 &&
      Math.abs(line.size - before.size) < 1 &&
      this.now.align !== 'centre' &&
      (full || /[-\u00ad]$/.test(before.text.trim())) &&
      inset < this.size * 0.7;
    const sameHeading =
      this.now !== null &&
      before !== null &&
      !opens &&
      centred &&
      this.now.align === 'centre' &&
      gap < 1.45 &&
      big &&
      Math.abs(line.size - before.size) < 0.5;
    if (!goesOn && !sameHeading) {
      this.close();
      if (gap > 1.7 && !opens && !big) this.out.push(rawParagraph());
      this.now = rawParagraph({ align: centred ? 'centre' : 'left', size: line.size, breakBefore: opens });
    }
    this.add(line);
    this.last = line;
  }

  private add(line: Line): void {
    const p = this.now as RawParagraph;
    const end = p.inline.at(-1);
    if (end && /\p{L}[-\u00ad]\s*$/u.test(p.text) && /^\s*\p{Ll}/u.test(line.text)) {
      this.hyphens++;
      const kept = (end.text as string).trimEnd().slice(0, -1);
      p.inline.pop();
      if (kept) p.inline.push(schema.text(kept, end.marks));
    } else if (end && !/[\s\u2014]$/.test(p.text)) p.inline.push(schema.text(' ', end.marks));
    line.runs.forEach((r, i) => {
      let t = unspaced(r.text.replace(/\s+/g, ' '));
      if (i === 0) t = t.trimStart();
      if (i === line.runs.length - 1) t = t.trimEnd();
      if (t === '') return;
      const m = schema.marks;
      p.inline.push(
        schema.text(t, [
          ...(r.italic ? [m.emphasis!.create()] : []),
          ...(r.bold ? [m.strong!.create()] : []),
        ]),
      );
    });
    p.text = p.inline.map((n) => n.text ?? '').join('');
    p.bold = line.runs.every((r) => r.bold || r.text.trim() === '');
  }

  private close(): void {
    if (this.now) this.out.push(this.now);
    for (const id of this.passed) this.out.push(rawParagraph({ pictures: [{ id, alt: '' }] }));
    this.passed = [];
    this.now = null;
    this.last = null;
  }

  /** Notes come after the paragraph that they interrupt. */
  private waiting: RawParagraph | null = null;
  private noteLine(line: Line): void {
    const begins = /^\s*(\d{1,3}|[*\u2020\u2021])/.test(line.text);
    if (begins || !this.waiting) {
      this.waiting = rawParagraph({ size: line.size, style: 'Note at a page’s foot' });
      this.out.push(this.waiting);
    }
    const { now } = this;
    this.now = this.waiting;
    this.add(line);
    this.now = now;
  }
}
