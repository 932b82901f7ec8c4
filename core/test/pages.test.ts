import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { planPages, type FlowBlock, type Plan } from '../src/compose';

const ROWS = 12;
const shape = (notes: Record<string, number> = {}, starts: 'recto' | 'verso' = 'recto') => ({
  rows: ROWS,
  starts,
  noteRows: (lines: number) => (lines === 0 ? 0 : Math.ceil((0.6 + lines * 0.8) / 1)),
  noteLines: (id: string) => notes[id] ?? 0,
});
const text = (
  rows: number,
  more: Partial<FlowBlock> = {},
  others: number[] = [],
  notes: [number, string[]][] = [],
): FlowBlock => {
  const variant = (n: number, cost: number) => ({
    rows: n,
    cost,
    items: [],
    hyphenAt: new Set<number>(),
    notes: new Map(notes),
  });
  return {
    place: { section: 's' },
    kind: 'text',
    before: 0,
    keep: 0,
    best: variant(rows, 0),
    others: others.length ? () => others.map((n) => variant(n, 100)) : null,
    atEdge: null,
    heading: false,
    ...more,
  };
};
const solid = (rows: number, more: Partial<FlowBlock> = {}): FlowBlock => ({
  ...text(rows),
  kind: 'solid',
  ...more,
});

const NO_ROWS: FlowBlock['kind'][] = ['new-page', 'float', 'flush'];
const picture = (rows: number, stands: NonNullable<FlowBlock['stands']>): FlowBlock =>
  solid(rows, { kind: 'float', stands });
const flush = solid(0, { kind: 'flush' });
const floatsOf = (plan: Plan): number[] => [...new Set(plan.pages.flatMap((p) => p.floats))];

/** Every row of every block, in order, once. */
function rowsPlaced(plan: Plan): string[] {
  return plan.pages.flatMap((p) =>
    p.slices.flatMap((s) =>
      Array.from({ length: s.to - s.from }, (_, i) => `${s.block}:${s.from + i}/${s.variant.rows}`),
    ),
  );
}
function expectWhole(blocks: readonly FlowBlock[], plan: Plan, noteRows: (n: number) => number): void {
  let block = 0;
  let row = 0;
  for (const placed of rowsPlaced(plan)) {
    while (blocks[block] && (blocks[block]!.best.rows === 0 || NO_ROWS.includes(blocks[block]!.kind)))
      block++;
    const [, r, total] = /(\d+):(\d+)\/(\d+)/.exec(placed)!.slice(1).map(Number) as [number, number, number];
    expect(placed).toBe(`${block}:${row}/${total}`);
    expect(r).toBe(row);
    row++;
    if (row === total) {
      block++;
      row = 0;
    }
  }
  for (const p of plan.pages) {
    const notes = p.notes.reduce((n, q) => n + q.to - q.from, 0);
    const last = p.slices.at(-1);
    const used = last ? last.at + last.to - last.from : 0;
    const standing = p.floats.map((f) => blocks[f] as FlowBlock);
    const held = standing.filter((b) => b.stands === 'head' || b.stands === 'foot');
    const room = held.reduce((n, b) => n + b.best.rows + 1, 0);
    expect(used + noteRows(notes) + Math.min(room, ROWS)).toBeLessThanOrEqual(ROWS);
    // What fills a page shares it with nothing.
    if (standing.length > held.length) expect([used, notes, standing.length]).toEqual([0, 0, 1]);
  }
}

describe('the page optimiser', () => {
  it('fills pages and leaves no widow, by running a spread short', () => {
    // 12 + 13 rows: plainly the last row of the second paragraph would stand alone on page three.
    const plan = planPages([text(11), text(14), text(30)], shape({}, 'verso'));
    expect(plan.faults).toEqual([]);
    expect(plan.pages[0]?.shortfall).toBe(plan.pages[1]?.shortfall);
  });
  it('takes a paragraph a row longer or shorter only where that heals', () => {
    const plain = planPages([text(6, {}, [5, 7]), text(4, {}, [3, 5])], shape());
    expect(plain.pages[0]?.slices.map((s) => s.variant.rows)).toEqual([6, 4]);
    const healed = planPages([text(8, {}, [7, 9]), text(6, {}, [5]), text(1)], shape());
    expect(healed.faults.filter((f) => f.kind === 'short-last')).toEqual([]);
  });
  it('keeps a heading with two rows of what follows', () => {
    const plan = planPages([text(10), solid(1, { keep: 2, heading: true, before: 1 }), text(20)], shape());
    expect(plan.faults.map((f) => f.kind)).not.toContain('stranded');
    expect(plan.pages[1]?.slices[0]?.block).toBe(1);
  });
  it('drops blank rows at the head of a page', () => {
    const plan = planPages([text(12), text(3, { before: 2 })], shape());
    expect(plan.pages[1]?.slices[0]?.at).toBe(0);
  });
  it('puts a note on the page of its call', () => {
    const plan = planPages([text(9, {}, [], [[8, ['n']]]), text(6)], shape({ n: 2 }));
    const call = plan.pages.findIndex((p) => p.slices.some((s) => s.block === 0 && s.to === 9));
    expect(plan.pages[call]?.notes).toEqual([{ id: 'n', from: 0, to: 2 }]);
  });
  it('splits a note only when it must, and loses no line of it', () => {
    const plan = planPages([text(5, {}, [], [[4, ['long']]]), text(20)], shape({ long: 24 }));
    const lines = plan.pages.flatMap((p) => p.notes).reduce((n, q) => n + q.to - q.from, 0);
    expect(lines).toBe(24);
  });
  it('gives a picture higher than the page a page of its own', () => {
    const plan = planPages([text(3), solid(40), text(3)], shape());
    expect(plan.pages.map((p) => p.slices.map((s) => s.block))).toEqual([[0], [1], [2]]);
  });
  it('stands a picture at the head of the page that names it, or of the next, and leaves no hole', () => {
    const near = planPages([text(5), picture(4, 'head'), text(20), flush], shape());
    expect(near.pages[0]?.floats).toEqual([1]);
    const next = planPages([text(10), picture(4, 'foot'), text(20), flush], shape());
    expect(next.pages.map((p) => p.floats)).toEqual([[], [1], [], ...next.pages.slice(3).map(() => [])]);
    expect(next.faults).toEqual([]);
  });
  it('lets the text flow on before a picture that fills a page, and begins a spread on a verso', () => {
    const plan = planPages([text(5), picture(12, 'page'), text(20), flush], shape());
    expect(plan.pages.map((p) => p.floats)).toEqual([[], [1], [], ...plan.pages.slice(3).map(() => [])]);
    expect(plan.pages[0]?.used).toBeGreaterThan(8);
    for (const starts of ['recto', 'verso'] as const) {
      const spread = planPages([text(5), picture(12, 'spread'), text(60), flush], shape({}, starts));
      const at = spread.pages.flatMap((p, i) => (p.floats.length > 0 ? [i] : []));
      expect(at.length).toBe(2);
      expect((at[0]! % 2 === 0) === (starts === 'verso')).toBe(true);
    }
    expect(planPages([picture(12, 'page'), flush], shape()).pages.map((p) => p.floats)).toEqual([[0]]);
  });
  it('keeps a picture and the text beside it on one page', () => {
    const held = { ...text(14), best: { ...text(14).best, hold: 6 } };
    const plan = planPages([text(8), held, text(9)], shape());
    const first = plan.pages.flatMap((p) => p.slices).find((s) => s.block === 1 && s.from === 0);
    expect(first!.to).toBeGreaterThanOrEqual(6);
  });
  it('loses nothing and overfills nothing, whatever the chapter', () => {
    const block = fc.oneof(
      {
        weight: 6,
        arbitrary: fc.record({
          kind: fc.constant('text'),
          rows: fc.integer({ min: 1, max: 30 }),
          before: fc.integer({ min: 0, max: 2 }),
          note: fc.option(fc.integer({ min: 1, max: 20 })),
        }),
      },
      {
        weight: 2,
        arbitrary: fc.record({
          kind: fc.constant('head'),
          rows: fc.integer({ min: 1, max: 3 }),
          before: fc.integer({ min: 0, max: 2 }),
          note: fc.constant(null),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          kind: fc.constant('solid'),
          rows: fc.integer({ min: 1, max: 12 }),
          before: fc.integer({ min: 0, max: 1 }),
          note: fc.constant(null),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          kind: fc.constant('new-page'),
          rows: fc.constant(0),
          before: fc.constant(0),
          note: fc.constant(null),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          kind: fc.constantFrom('head', 'foot', 'page', 'edges', 'spread').map((s) => `at ${s}`),
          rows: fc.integer({ min: 1, max: 12 }),
          before: fc.constant(0),
          note: fc.constant(null),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          kind: fc.constant('beside'),
          rows: fc.integer({ min: 6, max: 14 }),
          before: fc.constant(1),
          note: fc.constant(null),
        }),
      },
    );
    fc.assert(
      fc.property(
        fc.array(block, { minLength: 1, maxLength: 40 }),
        fc.constantFrom('recto' as const, 'verso' as const),
        (specs, starts) => {
          const notes: Record<string, number> = {};
          const blocks = specs.map((s, i) => {
            if (s.kind === 'head') return solid(s.rows, { keep: 2, heading: true, before: s.before });
            if (s.kind === 'solid') return solid(s.rows, { before: s.before });
            if (s.kind === 'new-page') return solid(0, { kind: 'new-page' });
            if (s.kind.startsWith('at '))
              return picture(s.rows, s.kind.slice(3) as NonNullable<FlowBlock['stands']>);
            if (s.kind === 'beside') return { ...text(s.rows), best: { ...text(s.rows).best, hold: 6 } };
            if (s.note !== null) notes[`n${i}`] = s.note;
            return text(
              s.rows,
              { before: s.before },
              s.rows > 3 ? [s.rows - 1, s.rows + 1] : [],
              s.note !== null ? [[s.rows >> 1, [`n${i}`]]] : [],
            );
          });
          const sh = shape(notes, starts);
          blocks.push(flush);
          const plan = planPages(blocks, sh);
          const pictures = blocks.flatMap((b, i) => (b.kind === 'float' ? [i] : []));
          expect(floatsOf(plan)).toEqual(pictures);
          for (const p of plan.pages)
            for (const slice of p.slices)
              if (slice.variant.hold && slice.from === 0)
                expect(slice.to).toBeGreaterThanOrEqual(Math.min(6, slice.variant.rows));
          expectWhole(blocks, plan, sh.noteRows);
          const placedNotes = plan.pages.flatMap((p) => p.notes).reduce((n, q) => n + q.to - q.from, 0);
          expect(placedNotes).toBe(Object.values(notes).reduce((a, b) => a + b, 0));
        },
      ),
      { numRuns: 1500 },
    );
  });
  it('is never dearer than the best of all ways to cut a short chapter', () => {
    // Exhaustive: every set of page ends over chapters of a few paragraphs, costed by the faults alone.
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 5 }), (lengths) => {
        const plan = planPages(
          lengths.map((n) => text(n)),
          shape(),
        );
        const bad = plan.faults.filter((f) => f.kind === 'widow' || f.kind === 'orphan').length;
        const total = lengths.reduce((a, b) => a + b, 0);
        const edges = new Set<number>();
        let at = 0;
        for (const n of lengths) {
          if (n > 1) edges.add(at + 1).add(at + n - 1);
          at += n;
        }
        const faults = (cuts: number[]): number => cuts.filter((c) => edges.has(c)).length;
        let best = Infinity;
        const cut = (from: number, cuts: number[]): void => {
          if (total - from <= ROWS) best = Math.min(best, faults(cuts));
          for (let to = Math.max(from + 1, from + ROWS - 3); to <= Math.min(from + ROWS, total - 1); to++)
            cut(to, [...cuts, to]);
        };
        cut(0, []);
        expect(bad).toBeLessThanOrEqual(best);
      }),
      { numRuns: 200 },
    );
  });
});
