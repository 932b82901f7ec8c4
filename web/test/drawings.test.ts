/** Pages on their way to the screen, in the order in which they matter. */
import { describe, expect, it } from 'vitest';
import { Drawings, type Drawn } from '../src/title/drawings';
import type { DrawAsked } from '../src/workers/messages';

const drawn = { lines: [] } as unknown as Drawn;
function desk() {
  const sent: DrawAsked[] = [];
  const drawings = new Drawings((asked) => sent.push(asked));
  const ask = (page: number, width = 84, unwanted = new AbortController()) => {
    const answer = drawings.draw(
      { of: 'book', page, width, readable: false, generation: 1 },
      unwanted.signal,
    );
    return { answer, drop: () => unwanted.abort() };
  };
  const answerAll = (): void => {
    for (let i = 0; i < sent.length; i++) drawings.answer(sent[i]!.id, drawn);
  };
  return { sent, drawings, ask, answerAll, pages: () => sent.map((s) => s.page) };
}

describe('pages asked for', () => {
  it('are sent a few at a time, and all in the end', () => {
    const { ask, pages, drawings, sent, answerAll } = desk();
    for (let p = 0; p < 10; p++) void ask(p).answer;
    expect(pages()).toEqual([0, 1, 2]);
    drawings.answer(sent[1]!.id, drawn);
    expect(pages()).toEqual([0, 1, 2, 3]);
    answerAll();
    expect(pages()).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
  });
  it('come large before small', () => {
    const { ask, pages, answerAll } = desk();
    for (let p = 0; p < 5; p++) void ask(p, 46).answer;
    void ask(70, 340).answer;
    answerAll();
    expect(pages()).toEqual([0, 1, 2, 70, 3, 4]);
  });
  it('are not drawn when nobody wants them any more', async () => {
    const { ask, pages, answerAll } = desk();
    const asked = Array.from({ length: 100 }, (_, p) => ask(p));
    for (const a of asked.slice(3, 97)) a.drop();
    expect(await asked[50]!.answer).toBeNull();
    answerAll();
    expect(pages()).toEqual([0, 1, 2, 97, 98, 99]);
    expect(await asked[99]!.answer).toBe(drawn);
  });
  it('that are with the worker already come all the same when they are dropped', async () => {
    const { ask, answerAll } = desk();
    const first = ask(0);
    first.drop();
    answerAll();
    expect(await first.answer).toBe(drawn);
  });
  it('that cannot be drawn make room for the next', async () => {
    const { ask, drawings, sent } = desk();
    const asked = [0, 1, 2, 3].map((p) => ask(p));
    drawings.answer(sent[0]!.id, null);
    expect(await asked[0]!.answer).toBeNull();
    expect(sent.map((s) => s.page)).toEqual([0, 1, 2, 3]);
  });
});
