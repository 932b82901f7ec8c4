/** Which fixed pages a wide screen shows together (EPUB 3.3 §8.2.2.5). */
import { describe, expect, it } from 'vitest';
import type { ReadingDocument, ReadingOrder } from '@pagina/core/package';
import { spreadOf } from '../src/reader/spread';

const order = (
  sides: (ReadingDocument['side'] | 'flows')[],
  direction: 'ltr' | 'rtl' = 'ltr',
): ReadingOrder =>
  ({
    direction,
    documents: sides.map((side, i) => ({
      path: `p${i}`,
      linear: true,
      fixed: side !== 'flows',
      side: side === 'flows' ? null : side,
    })),
  }) as unknown as ReadingOrder;
const shown = (o: ReadingOrder): string[] =>
  o.documents.map(({ path }) => {
    const s = spreadOf(o, path);
    return s ? `${s.left ?? ''}|${s.right ?? ''}` : path;
  });

describe('fixed pages on a wide screen', () => {
  it('face each other as the file says, the first alone on the right', () => {
    expect(shown(order(['centre', 'right', 'left', 'right', 'left']))).toEqual([
      'p0',
      '|p1',
      'p2|p3',
      'p2|p3',
      'p4|',
    ]);
  });
  it('follow one another where the file does not say, and begin as a book does', () => {
    expect(shown(order([null, null, null, null]))).toEqual(['|p0', 'p1|p2', 'p1|p2', 'p3|']);
  });
  it('leave a hand empty where two lie on the same', () => {
    expect(shown(order(['left', 'left', 'right']))).toEqual(['p0|', 'p1|p2', 'p1|p2']);
  });
  it('go from right to left in a book that reads so', () => {
    expect(shown(order([null, null, null], 'rtl'))).toEqual(['p0|', 'p2|p1', 'p2|p1']);
  });
  it('stand alone among text that flows', () => {
    expect(shown(order(['flows', 'left', 'flows']))).toEqual(['p0', 'p1|', 'p2']);
  });
  it('know where a turn of the page leads', () => {
    const o = order(['right', 'left', 'right', 'left', 'right']);
    expect(spreadOf(o, 'p2')).toMatchObject({ from: 1, to: 2 });
    expect(spreadOf(o, 'p0')).toMatchObject({ from: 0, to: 0 });
  });
});
