/** Every rule of the book with the least that breaks it, and with what stands next to that. */
import { describe, expect, it } from 'vitest';
import { findingKey, type Finding } from '../../src/base';
import { apply, bookFromJson, bookToJson, type Book } from '../../src/book';
import { bookMendLabel, checkBook, judged, mendBook } from '../../src/check';
import { BOOK_RULES, SECTION_RULES } from '../../src/check/book';
import { book, section } from '../fixtures/books';
import { BOOK_CASES } from './cases-book';

const rules = new Map([...BOOK_RULES, ...SECTION_RULES].map((r) => [r.name, r]));

it('has a case for every rule, and a rule for every case', () => {
  expect(BOOK_CASES.map((c) => c.rule).sort()).toEqual([...rules.keys()].sort());
});

describe.each(BOOK_CASES.map((c) => [c.rule, c] as const))('%s', (rule, { bad, good }) => {
  it('is found in the least that breaks it', () => {
    for (const [i, b] of bad.entries()) {
      const found = checkBook(b).filter((f) => f.rule === rule);
      expect(found.length, `bad ${i}`).toBeGreaterThan(0);
      for (const f of found) {
        expect(f.severity).toBe(rules.get(rule)?.severity);
        expect(f.remedy ?? '', f.message).not.toBe('');
        if (f.place) expect(b.sections.map((s) => s.id)).toContain(f.place.section);
      }
    }
  });
  it('is not seen beside it', () => {
    for (const [i, b] of good.entries())
      expect(
        checkBook(b)
          .filter((f) => f.rule === rule)
          .map((f) => f.message),
        `good ${i}`,
      ).toEqual([]);
  });
});

describe('mends of the book', () => {
  const words = (b: Book): string =>
    b.sections.map((s) => s.content.textBetween(0, s.content.content.size, ' ')).join(' ');
  const mended = (b: Book, rule: string): Book => {
    const found = checkBook(b).filter((f) => f.rule === rule);
    expect(found.map(bookMendLabel)).not.toContain(null);
    const change = mendBook(b, found, 'Mend');
    const done = change && apply(b, change);
    if (!done?.ok) throw new Error('nothing was mended');
    expect(checkBook(done.value.book).filter((f) => f.rule === rule).length).toBeLessThan(found.length);
    const back = apply(done.value.book, done.value.inverse);
    expect(back.ok && words(back.value.book)).toBe(words(b));
    return done.value.book;
  };
  const of = (...paragraphs: string[]): Book =>
    book([
      section('t', 'title-page', []),
      section('c', 'copyright-page', []),
      section('one', 'chapter', paragraphs, { title: 'One' }),
    ]);
  it.each([
    ['wording/repeated-word', 'He went to the the gate, and and left.', 'He went to the gate, and left.'],
    ['wording/hyphenated-and-not', 'A teacup, a teacup. Tea-cup!', 'A teacup, a teacup. Teacup!'],
    [
      'wording/two-spellings',
      'They realized and realized. To realise.',
      'They realized and realized. To realize.',
    ],
    ['wording/two-spellings', 'The colour, the colour, the COLOR.', 'The colour, the colour, the COLOUR.'],
    ['wording/stray-space', 'He  came .', 'He came.'],
    ['wording/typewriter-signs', 'It\'s "late".', 'It’s “late”.'],
  ])('%s: %s', (rule, before, after) => expect(words(mended(of(before), rule)).trim()).toBe(after));
  it('order/doubled-number takes the number out of the title', () => {
    const b = of('Text.');
    const doubled = {
      ...b,
      sections: b.sections.map((s) => (s.id === 'one' ? { ...s, title: 'Chapter 3: The Boat' } : s)),
    };
    expect(mended(doubled, 'order/doubled-number').sections.at(-1)?.title).toBe('The Boat');
  });
  it('do nothing where the text has moved on', () => {
    const found = checkBook(of('He went to the the gate.'));
    expect(mendBook(of('He went to the gate at noon, and home.'), found, 'Mend')).toBeNull();
  });
});

describe('a caution that is accepted', () => {
  const b = book([
    section('t', 'title-page', []),
    section('c', 'copyright-page', []),
    section('one', 'chapter', ['The the gate. A second.'], { title: 'One' }),
  ]);
  const [found] = checkBook(b).filter((f) => f.rule === 'wording/repeated-word');
  const accept = (x: Book, f: Finding): Book => {
    const done = apply(x, {
      type: 'set-accepted',
      finding: findingKey(f),
      as: { finding: findingKey(f), reason: 'A stammer.', at: '2026-01-02' },
    });
    if (!done.ok) throw new Error(done.refusal.message);
    const undone = apply(done.value.book, done.value.inverse);
    expect(undone.ok && undone.value.book.accepted).toEqual(x.accepted);
    return done.value.book;
  };
  it('waits no longer, keeps its reason, and comes back when what it is about has changed', () => {
    const accepted = accept(b, found!);
    expect(judged(accepted, checkBook(accepted)).accepted.map((a) => a.as.reason)).toEqual(['A stammer.']);
    expect(judged(accepted, checkBook(accepted)).open.map((f) => f.rule)).not.toContain(found!.rule);
    const again = {
      ...accepted,
      sections: accepted.sections.map((s) =>
        s.id === 'one' ? section('one', 'chapter', ['The the gate and a a fence.'], { title: 'One' }) : s,
      ),
    };
    expect(judged(again, checkBook(again)).open.map((f) => f.about)).toContain('a a');
    expect(bookFromJson(JSON.parse(JSON.stringify(bookToJson(accepted))))).toMatchObject({
      ok: true,
      value: { accepted: accepted.accepted },
    });
  });
  it('can be no blocker', () => {
    const untitled = { ...b, record: { ...b.record, title: '' } };
    const [blocker] = checkBook(untitled).filter((f) => f.severity === 'blocker');
    expect(judged(accept(untitled, blocker!), [blocker!]).open).toEqual([blocker]);
  });
});
