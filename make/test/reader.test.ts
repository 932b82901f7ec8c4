/** The printed novel read back from its PDF by pdfjs-dist: what a proofreader sees, counted without the typesetter's code. */
import { beforeAll, describe, expect, it } from 'vitest';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { makePrint } from '@pagina/make';
import { openNovel } from '../../bench/open-novel';

/** Points. 5.5 × 8.5 in with 0.75 in inside and 0.5 in outside; text 11/14 pt, indented by 0.25 in; 36 lines. */
const PAGE = { width: 396, height: 612, inside: 54, outside: 36, leading: 14, indent: 18, lines: 36 };
const MEASURE = PAGE.width - PAGE.inside - PAGE.outside;

interface Line {
  /** From the left of the measure that the page's side has. */
  from: number;
  to: number;
  /** From the foot of the sheet. */
  y: number;
  size: number;
  text: string;
}
interface Sheet {
  recto: boolean;
  /** Text of the body's size, from the head down. */
  body: Line[];
  /** It begins a chapter: something larger than text stands on it. */
  opens: boolean;
}
let sheets: Sheet[];

beforeAll(async () => {
  const made = await makePrint(openNovel(), 'paperback', { pictures: () => null });
  if (!made.ok) throw new Error(made.refusal.message);
  const file = await getDocument({ data: made.value.bytes, verbosity: 0 }).promise;
  sheets = [];
  for (let p = 1; p <= file.numPages; p++) {
    const recto = p % 2 === 1;
    const left = recto ? PAGE.inside : PAGE.outside;
    const { items } = await (await file.getPage(p)).getTextContent();
    const lines = new Map<number, Line>();
    let opens = false;
    for (const item of items) {
      if (!('str' in item) || item.str.trim() === '') continue;
      const [a = 0, , , , x = 0, y = 0] = item.transform as number[];
      // Drop capitals and titles are larger; heads and folios stand outside the body's height.
      if (Math.abs(a) > 14) {
        opens = true;
        continue;
      }
      const key = Math.round(y * 10);
      const line = lines.get(key) ?? { from: Infinity, to: -Infinity, y, size: a, text: '' };
      line.from = Math.min(line.from, x - left);
      line.to = Math.max(line.to, x - left + item.width);
      line.text += item.str;
      lines.set(key, line);
    }
    const body = [...lines.values()]
      .filter((l) => l.y < PAGE.height - 50 && l.y > 50)
      .sort((a, b) => b.y - a.y);
    sheets.push({ recto, body, opens });
    (file as unknown as { cleanup(): void }).cleanup?.();
  }
  await file.destroy();
}, 120_000);

/** A paragraph begins: the line is moved in by the indent. Hanging marks move a line out by a little. */
const begins = (l: Line): boolean => Math.abs(l.from - PAGE.indent) < 6;
const full = (s: Sheet): boolean => s.body.length > 4 && !s.opens;

describe('the novel, read back from its pages', () => {
  it('has text on every second page at least, and as many pages as a novel', () => {
    expect(sheets.length).toBeGreaterThan(600);
    expect(sheets.filter((s) => s.body.length > 0).length).toBeGreaterThan(550);
  });
  it('stands within the measure, with the wider margin inside', () => {
    for (const s of sheets)
      for (const l of s.body) {
        // Hyphens, stops and quotation marks hang by less than an em's third.
        expect(l.from).toBeGreaterThan(-6);
        expect(l.to).toBeLessThan(MEASURE + 6);
      }
    // Whole lines reach both edges on versos and rectos.
    for (const recto of [true, false]) {
      const whole = sheets
        .filter((s) => s.recto === recto)
        .flatMap((s) => s.body.filter((l) => l.to > MEASURE - 1));
      expect(whole.length).toBeGreaterThan(5_000);
    }
  });
  it('stands on one grid on all pages', () => {
    const first = sheets.find(full)!.body[0]!.y;
    for (const s of sheets.filter(full))
      for (const l of s.body) {
        const rows = (first - l.y) / PAGE.leading;
        expect(Math.abs(rows - Math.round(rows))).toBeLessThan(0.01);
      }
  });
  it('has no widow and no orphan', () => {
    let looked = 0;
    for (let p = 1; p < sheets.length; p++) {
      const [before, after] = [sheets[p - 1]!, sheets[p]!];
      if (!full(before) || after.opens || after.body.length === 0) continue;
      const last = before.body.at(-1)!;
      const [head, next] = after.body as [Line, Line | undefined];
      looked++;
      // A paragraph's last line at the head: text goes on from before, and the next line begins another.
      const widow = !begins(head) && head.to < MEASURE - 1 && (next === undefined || begins(next));
      // Its first line alone at the foot: it begins there and goes on overleaf.
      const orphan = begins(last) && last.to > MEASURE - 1 && !begins(head) && !(head.from > 2);
      expect([p + 1, widow, orphan, head.text.slice(0, 30)]).toEqual([
        p + 1,
        false,
        false,
        head.text.slice(0, 30),
      ]);
    }
    expect(looked).toBeGreaterThan(300);
  });
  it('ends level on facing pages', () => {
    let looked = 0;
    for (let p = 1; p + 1 < sheets.length; p += 2) {
      const [verso, recto] = [sheets[p]!, sheets[p + 1]!];
      const after = sheets[p + 2];
      // A chapter's last page ends where it ends: the next page opens, or is blank.
      if (!full(verso) || !full(recto) || !after || after.opens || after.body.length === 0) continue;
      looked++;
      expect([p + 1, verso.body.at(-1)!.y]).toEqual([p + 1, expect.closeTo(recto.body.at(-1)!.y, 1)]);
    }
    expect(looked).toBeGreaterThan(100);
  });
});
