/** Why an outlet holds a book: its reviewer's words, each where it is mended. */
import type { Finding } from '../base';
import type { Edition } from '../book';
import { PRACTICE } from './practice';
import { runRules, type Rule } from './rules';

export interface HeldSubject {
  outlet: { id: string; name: string };
  edition: Edition;
  /** `about` in the outlet's own word. */
  reasons: readonly { about: string; words: string }[];
}

/** What of a book a reason is about, by the words that outlets have for it (common practice). */
const ABOUT: readonly [rule: string, words: RegExp, remedy: string][] = [
  [
    'held/held-for-its-record',
    /title|author|contributor|isbn|description|keyword|subject|shelf|price|language|date|audience/i,
    'Correct the record, make the files again if it stands in them, and send the book again.',
  ],
  ['held/held-for-its-cover', /cover/i, 'Change the cover, make the files again, and send the book again.'],
  [
    'held/held-for-its-text',
    /accessib|text|picture|alt/i,
    'Correct the text, make the ebook again, and send it again.',
  ],
  ['held/held-for-its-file', /./, 'Make the file again, and send it.'],
];
const ruleFor = (about: string): string =>
  ABOUT.find(([, words]) => words.test(about))?.[0] ?? 'held/held-for-its-file';

export const HELD_RULES: readonly Rule<HeldSubject>[] = ABOUT.map(([name, , remedy]) => ({
  name,
  severity: 'blocker' as const,
  profiles: ['outlets'] as const,
  source: PRACTICE,
  why: 'The outlet doesn’t sell the book until this is settled.',
  remedy,
  *look({ outlet, edition, reasons }: HeldSubject) {
    for (const { about, words } of reasons)
      if (ruleFor(about) === name)
        yield {
          message: `${outlet.name} holds the book: ${words}`,
          about: `${outlet.id} ${edition.id} ${words}`,
          outlet: outlet.id,
        };
  },
}));

export const checkHeld = (subject: HeldSubject): Finding[] => runRules(HELD_RULES, subject);
