/** Signs and spaces over the whole book: what most of it does, and where the rest departs from that. */
import type { Node } from 'prosemirror-model';
import { primaryLanguage } from '../../base';
import { styleFor, tidySection, type RuleName } from '../../tidy';
import type { Breach, Rule } from '../rules';
import { matchesIn, type Block, type Reading } from './reading';
import { atBlock, places, type BookSubject } from './subject';

const PRACTICE = 'common practice';

/** Manners of doing one thing, each by the sign that shows it. */
type Manner = string;
interface Sighting {
  manner: Manner;
  block: Block;
  at: number;
}

/** What is counted once in a text is not counted again. */
function remembered<T>(of: (r: Reading) => T): (r: Reading) => T {
  const known = new WeakMap<Node, { language: string; value: T }>();
  return (r) => {
    const before = known.get(r.section.content);
    if (before?.language === r.language) return before.value;
    const value = of(r);
    known.set(r.section.content, { language: r.language, value });
    return value;
  };
}

/** A manner belongs to the book when at least so many places show it, and to at most so large a share when it is a slip. */
const HABIT = 10;
const SLIP = 0.2;

/** Places that depart from what the book does elsewhere, a finding a section. */
function* departures(
  subject: BookSubject,
  sightings: (r: Reading) => readonly Sighting[],
  say: (manner: Manner, count: string, usual: Manner) => string,
): Generator<Breach> {
  const totals = new Map<Manner, number>();
  for (const r of subject.readings)
    for (const { manner } of sightings(r)) totals.set(manner, (totals.get(manner) ?? 0) + 1);
  const [usual, most] = [...totals].sort((a, b) => b[1] - a[1])[0] ?? ['', 0];
  if (most < HABIT) return;
  for (const r of subject.readings) {
    const here = new Map<Manner, Sighting[]>();
    for (const s of sightings(r)) {
      if (s.manner === usual || (totals.get(s.manner) ?? 0) > most * SLIP) continue;
      here.set(s.manner, [...(here.get(s.manner) ?? []), s]);
    }
    for (const [manner, all] of here) {
      const first = all[0] as Sighting;
      yield atBlock(r.section, first.block, say(manner, places(all.length), usual), first.at, {
        about: manner,
      });
    }
  }
}

/** How a paragraph of speech opens; straight marks are told of by themselves. Words that begin with an apostrophe (’Tis) don't count, nor does a mark that never closes. */
const OPENERS: readonly [Manner, RegExp][] = [
  ['double quotation marks', /^[\u2014\s]*\u201c(?=[\p{L}\p{N}\u2026\u2018])/u],
  [
    'single quotation marks',
    /^[\u2014\s]*\u2018(?=[\p{L}\p{N}\u2026\u201c])(?=.*[\p{L}\p{N}.,!?\u2026\u2014]\u2019(?![\p{L}\p{N}]))/u,
  ],
  ['angle quotation marks', /^[\u2014\s]*[\u00ab\u00bb][\s\u00a0\u202f]?(?=[\p{L}\p{N}\u2026])/u],
  ['low quotation marks', /^[\u2014\s]*\u201e(?=[\p{L}\p{N}\u2026])/u],
];
const ELIDED = /^[\u2014\s]*\u2018(?:tis|twas|twere|twill|em|cause|bout|round|til|n|neath|gainst)(?!\p{L})/iu;

const speech = remembered((r) =>
  r.blocks.flatMap((block): Sighting[] => {
    if (block.type !== 'paragraph' || block.note || ELIDED.test(block.text)) return [];
    const manner = OPENERS.find(([, opens]) => opens.test(block.text))?.[0];
    return manner ? [{ manner, block, at: 0 }] : [];
  }),
);

const DASHES: readonly [Manner, RegExp][] = [
  ['closed em dashes', /(?<=[\p{L}\p{N},.!?\u2019\u201d])\u2014(?=[\p{L}\p{N}\u2018\u201c])/gu],
  ['spaced em dashes', /(?<=\S)[ \u00a0\u2009\u200a]\u2014[ \u00a0\u2009\u200a](?=\S)/gu],
  ['spaced en dashes', /(?<=\S)[ \u00a0\u2009]\u2013[ \u00a0\u2009](?=\S)/gu],
  ['closed en dashes', /(?<=\p{Ll})\u2013(?=\p{Ll})/gu],
];
const dashes = remembered((r) =>
  r.blocks.flatMap((block): Sighting[] =>
    block.type === 'subhead' || block.type === 'tableCaption'
      ? []
      : DASHES.flatMap(([manner, pattern]) =>
          [...matchesIn(block, pattern)].map((m) => ({ manner, block, at: m.index })),
        ),
  ),
);

/** Rules of tidying whose places are slips of the hand, by what to call them. */
const SPACES: Partial<Record<RuleName, string>> = {
  'multiple-spaces': 'more than one space',
  'space-before-punctuation': 'a space before a sign',
  tabs: 'a tab',
  'white-space-at-ends': 'white space at the end of a paragraph',
  'empty-paragraphs': 'an empty paragraph',
};
/** Which slips a section has, each with its count and the first block. */
const slips = remembered((r) => {
  const found = new Map<RuleName, { count: number; block: string; from: number }>();
  for (const { rule, block, from } of tidySection(r.section, styleFor(r.language))) {
    const known = found.get(rule);
    if (known) known.count++;
    else found.set(rule, { count: 1, block, from });
  }
  return found;
});
function* slipsOf(subject: BookSubject, names: Partial<Record<RuleName, string>>): Generator<Breach> {
  for (const r of subject.readings)
    for (const [rule, { count, block, from }] of slips(r)) {
      const what = names[rule];
      if (what)
        yield atBlock(
          r.section,
          { id: block },
          `${what.charAt(0).toUpperCase()}${what.slice(1)}, in ${places(count)}.`,
          from,
          {
            about: rule,
          },
        );
    }
}

export const SIGN_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'wording/mixed-quotation-marks',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice: one manner of quoting through a book',
    why: 'Readers take the other marks for another kind of speech.',
    remedy: 'Use one sort of marks throughout; Tidy in Manuscript sets straight ones right.',
    look: (subject) =>
      departures(
        subject,
        speech,
        (manner, count, usual) =>
          `Speech opens with ${manner} in ${count}; elsewhere the book uses ${usual}.`,
      ),
  },
  {
    name: 'wording/mixed-dashes',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice: one sort of dash through a book',
    why: 'Mixed dashes look like the work of several hands.',
    remedy: 'Find and replace them in Manuscript.',
    look: (subject) =>
      departures(
        subject,
        dashes,
        (manner, count, usual) =>
          `${manner.charAt(0).toUpperCase()}${manner.slice(1)} in ${count}; elsewhere the book uses ${usual}.`,
      ),
  },
  {
    name: 'wording/stray-space',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Stray spaces print as holes, and empty paragraphs as gaps.',
    remedy: 'Tidy in Manuscript takes all of them out.',
    mend: 'tidy',
    look: (subject) => slipsOf(subject, SPACES),
  },
  {
    name: 'wording/typewriter-signs',
    severity: 'note',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Books are set with typographic quotation marks and dashes.',
    remedy: 'Tidy in Manuscript puts the right signs in their place.',
    mend: 'tidy',
    look: (subject) =>
      slipsOf(subject, {
        'quotation-marks': 'straight quotation marks',
        apostrophes: 'straight apostrophes',
        dashes: 'hyphens in place of dashes',
        ...(primaryLanguage(subject.book.record.language) === 'fr'
          ? {}
          : { ellipses: 'dots in place of an ellipsis' }),
      }),
  },
];
