import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { breakLines as texBreakLines, MaxAdjustmentExceededError, type InputItem } from 'tex-linebreak';
import {
  After,
  breakLines,
  breakpointsOf,
  Divider,
  DEMERITS,
  Kind,
  MAX_LADDER,
  otherLengths,
  ParagraphBuilder,
  Spaces,
  type Paragraph,
  type SetLine,
} from '../src/compose';
import { coreByPattern, plainCore } from '../src/compose/lines/divide';
import { loadHyphenator, TypeCase, type Style } from '../src/type';
import { family, typeSource } from '@pagina/make';
import { openNovelChapters, paragraphsOf } from '../../bench/open-novel';

let style: Style;
let divider: Divider;
beforeAll(async () => {
  const source = await typeSource();
  style = new TypeCase(source.harfbuzz).style(family('EB Garamond'), 'regular', {
    size: 11_000,
    features: 'onum',
    language: 'en',
    rise: 0,
    tracking: 0,
  });
  divider = new Divider(await loadHyphenator('en-US'));
});

const SHARES = { natural: null, stretch: 167, shrink: 80 };
const paragraph = (text: string, indent = 18_000): Paragraph =>
  new ParagraphBuilder(new Spaces(SHARES), 'p', { indent }).text(text, style).done();
const MEASURE = 306_000;

/** Demerits of given lines by the formula told in lines.ts, worked out here anew from the breakpoints. */
function demerits(p: Paragraph, ends: readonly number[], measure: number, h: Divider | null): number {
  const b = breakpointsOf(p, { divider: h, narrowest: measure });
  let total = 0;
  let ladder = 0;
  let fitness = 1;
  let before = -1;
  for (const j of ends) {
    const start = before < 0 ? b.first : (b.start[before] as number);
    const missing = measure - ((b.end[j] as number) - start);
    const stretch = (b.stretchEnd[j] as number) - (before < 0 ? 0 : (b.stretchStart[before] as number));
    const shrink = (b.shrinkEnd[j] as number) - (before < 0 ? 0 : (b.shrinkStart[before] as number));
    const forced = b.kind[j] === Kind.forced;
    const r = missing >= 0 ? (forced ? 0 : missing / stretch) : missing / shrink;
    if (r < -1 || !Number.isFinite(r)) return Infinity;
    const hyphen = b.kind[j] === Kind.hyphen || b.kind[j] === Kind.dash;
    ladder = hyphen ? ladder + 1 : 0;
    if (ladder > MAX_LADDER) return Infinity;
    const line =
      1 +
      100 * Math.abs(r) ** 3 +
      (b.kind[j] === Kind.hyphen ? DEMERITS.hyphen : b.kind[j] === Kind.dash ? DEMERITS.dash : 0);
    total += line * line + (ladder > 1 ? DEMERITS.twoInARow : 0);
    const f = r < -0.5 ? 0 : r <= 0.5 ? 1 : r <= 1 ? 2 : 3;
    if (Math.abs(f - fitness) > 1) total += DEMERITS.fitness;
    fitness = f;
    if (j === b.count - 1 && before >= 0 && measure - missing < Math.max(p.indent, measure >> 4))
      total += DEMERITS.shortLast;
    before = j;
  }
  return total;
}

/** The largest ratio of lines with those ends. */
function loosest(p: Paragraph, ends: readonly number[]): number {
  const b = breakpointsOf(p, { divider: null, narrowest: MEASURE });
  return Math.max(
    ...ends.slice(0, -1).map((j, i) => {
      const a = ends[i - 1] ?? -1;
      const natural = (b.end[j] as number) - (a < 0 ? b.first : (b.start[a] as number));
      return (
        (MEASURE - natural) / ((b.stretchEnd[j] as number) - (a < 0 ? 0 : (b.stretchStart[a] as number)))
      );
    }),
  );
}

/** Our lines as indexes of breakpoints. */
function endsOf(p: Paragraph, lines: readonly SetLine[], measure: number, h: Divider | null): number[] {
  const b = breakpointsOf(p, { divider: h, narrowest: measure });
  return lines.map((l) => {
    for (let j = 0; j < b.count; j++)
      if (b.piece[j] === l.to && b.cut[j] === l.toCut && b.kind[j] === l.kind) return j;
    throw new Error('a line ends where no line can');
  });
}

const usesHyphens = (lines: readonly SetLine[]): boolean => lines.some((l) => l.kind === Kind.hyphen);

describe('total fit', () => {
  it('finds what an exhaustive search finds, on short paragraphs', () => {
    const words = openNovelChapters()[0]!.text.split(/\s+/);
    for (let n = 0; n < 24; n++) {
      const p = paragraph(words.slice(n * 17, n * 17 + 14 + (n % 9)).join(' '));
      const measure = 110_000 + n * 2_500;
      const ours = breakLines(p, { measure }, null);
      const b = breakpointsOf(p, { divider: null, narrowest: measure });
      let best = Infinity;
      const search = (ends: number[]): void => {
        const from = (ends.at(-1) ?? -1) + 1;
        for (let j = from; j < b.count; j++) {
          const next = [...ends, j];
          const d = demerits(p, next, measure, null);
          if (d === Infinity && j !== b.count - 1) {
            if (
              (b.end[j] as number) - (ends.length ? (b.start[ends.at(-1)!] as number) : b.first) >
              measure * 1.3
            )
              return;
            continue;
          }
          if (j === b.count - 1) best = Math.min(best, d);
          else if (d < best) search(next);
        }
      };
      search([]);
      const mine = demerits(p, endsOf(p, ours.lines, measure, null), measure, null);
      // Where nothing fits, the emergency pass may exceed what an honest line can shrink.
      if (best < Infinity) expect(mine).toBeCloseTo(best, 3);
    }
  });

  it('is never worse than the tex-linebreak library by the same demerits, on long paragraphs', () => {
    let compared = 0;
    for (const text of openNovelChapters()
      .slice(0, 12)
      .flatMap((c) => paragraphsOf(c.text))
      .filter((t) => t.length > 400)
      .slice(0, 120)) {
      const p = paragraph(text);
      const items: InputItem[] = [{ type: 'box', width: p.indent }];
      const at: number[] = [];
      p.pieces.forEach((piece, i) => {
        if (piece.kind === 'word') {
          items.push({ type: 'box', width: piece.width });
          if (p.after[i] === After.dash) {
            at[items.length] = i;
            items.push({ type: 'penalty', width: 0, cost: DEMERITS.dash, flagged: true });
          }
        } else {
          at[items.length] = i - 1;
          items.push({ type: 'glue', width: piece.width, stretch: piece.stretch, shrink: piece.shrink });
        }
      });
      items.push(
        { type: 'glue', width: 0, stretch: 1e6, shrink: 0 },
        { type: 'penalty', width: 0, cost: -1000, flagged: false },
      );
      let theirs: number[];
      try {
        theirs = texBreakLines(items, MEASURE, {
          maxAdjustmentRatio: 3,
          doubleHyphenPenalty: 100,
          adjacentLooseTightPenalty: 50,
        });
      } catch (e) {
        if (e instanceof MaxAdjustmentExceededError) continue;
        throw e;
      }
      const b = breakpointsOf(p, { divider: null, narrowest: MEASURE });
      const ends = theirs.slice(1).map((i, n, all) => {
        if (n === all.length - 1) return b.count - 1;
        for (let j = 0; j < b.count; j++) if (b.piece[j] === at[i]) return j;
        return -1;
      });
      // Lines looser than our first pass takes are no solutions to us: there we hyphenate instead.
      if (ends.includes(-1) || loosest(p, ends) > 0.7) continue;
      const ours = breakLines(p, { measure: MEASURE }, null);
      expect(demerits(p, endsOf(p, ours.lines, MEASURE, null), MEASURE, null)).toBeLessThanOrEqual(
        demerits(p, ends, MEASURE, null) + 0.001,
      );
      compared++;
    }
    expect(compared).toBeGreaterThan(15);
  });

  it('keeps every word, in order, in any measure down to one letter', () => {
    const p = paragraph(
      'Incomprehensibilities of the neighbourhood — well-known ones — are extraordinarily understated.',
    );
    for (const measure of [306_000, 120_000, 60_000, 30_000, 12_000]) {
      const { lines } = breakLines(p, { measure }, divider);
      let piece = 0;
      let cut = 0;
      for (const l of lines) {
        while (p.pieces[piece]?.kind === 'space' && l.from > piece) piece++;
        expect([l.from, l.fromCut]).toEqual([piece, cut]);
        [piece, cut] = l.toCut > 0 ? [l.to, l.toCut] : [l.to + 1, 0];
      }
      expect(piece).toBe(p.pieces.length);
    }
  });

  it('never makes three hyphens in a row at the measure of a novel', () => {
    for (const text of openNovelChapters()
      .slice(0, 20)
      .flatMap((c) => paragraphsOf(c.text))
      .slice(0, 200)) {
      const { lines } = breakLines(paragraph(text), { measure: MEASURE }, divider);
      let run = 0;
      for (const l of lines) {
        run = l.kind === Kind.hyphen || l.kind === Kind.dash ? run + 1 : 0;
        expect(run).toBeLessThanOrEqual(MAX_LADDER);
      }
    }
  });

  it('breaks at a forced break and nowhere twice', () => {
    const p = new ParagraphBuilder(new Spaces(SHARES), 'p')
      .text('One', style)
      .lineBreak()
      .text('Two', style)
      .done();
    expect(breakLines(p, { measure: MEASURE }, null).lines.map((l) => l.kind)).toEqual([
      Kind.forced,
      Kind.forced,
    ]);
  });

  it('offers a paragraph a line longer or shorter only with decent spaces', () => {
    const text = paragraphsOf(openNovelChapters()[3]!.text)[1] as string;
    const p = paragraph(text);
    const best = breakLines(p, { measure: MEASURE }, divider);
    for (const o of otherLengths(p, { measure: MEASURE }, divider, best.lines.length)) {
      expect(Math.abs(o.lines.length - best.lines.length)).toBe(1);
      expect(Math.max(...o.lines.map((l) => l.ratio))).toBeLessThanOrEqual(0.8);
      expect(o.demerits).toBeGreaterThanOrEqual(best.demerits);
    }
    expect(usesHyphens(best.lines)).toBeTypeOf('boolean');
  });
});

it('finds the letters of plain text as the pattern for all letters does', () => {
  const sign = fc.constantFrom(
    ...'abzAQ\'\u2019"\u201c\u201d\u2018,.;!?()-\u2013\u2014\u2026/&*_1é\u00ad \u00a0',
  );
  fc.assert(
    fc.property(fc.array(sign, { maxLength: 12 }), (letters) => {
      const text = letters.join('');
      const plain = plainCore(text);
      if (plain) expect([text, plain]).toEqual([text, coreByPattern(text)]);
    }),
    { numRuns: 5000 },
  );
});
