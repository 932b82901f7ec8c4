/** Conflicts between outlets, found before anything is sent: one shop reached twice, exclusivity, prices that can't stand. */
import { moneyString, type Money } from '../base';
import type { Book, Edition, SectionKind } from '../book';
import { PRACTICE } from './practice';
import { runRules, type Breach, type Rule } from './rules';

/** An outlet to which an edition goes, or where it is listed. */
export interface PlacedAt {
  id: string;
  name: string;
  edition: Edition;
  /** ISO day; '' for none. */
  exclusiveUntil: string;
  /** Shops to which it passes the book on. */
  passes: readonly { id: string; name: string }[];
  /** What it adds at the end of a book, and the kinds of section that this repeats. */
  adds: { words: string; kinds: readonly SectionKind[] } | null;
  /** The lowest list price that pays for the printing; null for an ebook. */
  lowest: Money | null;
  list: Money | null;
  preorder: { least: number; most: number; file: number } | null;
}
export interface PlacingSubject {
  book: Pick<Book, 'record' | 'sections'>;
  placed: readonly PlacedAt[];
  /** Prices that the author gives in other currencies, with what the list price comes to there. */
  prices: readonly { given: Money; worth: Money }[];
  /** ISO day. */
  today: string;
}

const about = (a: PlacedAt, more = ''): Pick<Breach, 'about' | 'outlet'> => ({
  about: `${a.id} ${a.edition.id} ${more}`.trim(),
  outlet: a.id,
});
const rule = (r: Omit<Rule<PlacingSubject>, 'profiles' | 'source'>): Rule<PlacingSubject> => ({
  profiles: ['outlets'],
  source: PRACTICE,
  ...r,
});
const isEbook = (a: PlacedAt): boolean => a.edition.form !== 'print';
const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
/** Share of the list price, in hundredths, below which another price counts as a lower one. */
const LOWER = 80;

export const PLACING_RULES: readonly Rule<PlacingSubject>[] = [
  rule({
    name: 'placing/exclusive',
    severity: 'blocker',
    why: 'An outlet that was promised to be the only one ends the account when it finds the book elsewhere.',
    remedy: 'Give up the exclusivity, or leave the other outlets out until it ends.',
    *look({ placed, today }) {
      const ebooks = placed.filter(isEbook);
      for (const a of ebooks) {
        if (a.exclusiveUntil === '' || a.exclusiveUntil < today) continue;
        const others = ebooks.filter((b) => b.id !== a.id).map((b) => b.name);
        if (others.length > 0)
          yield {
            message: `The ebook is exclusive to ${a.name} until ${a.exclusiveUntil}, but is also placed at ${others.join(', ')}.`,
            ...about(a),
          };
      }
    },
  }),
  rule({
    name: 'placing/reached-twice',
    severity: 'blocker',
    why: 'A shop that gets a book twice lists it twice, and readers’ reviews and sales are split.',
    remedy: 'Take the shop off the list of those it is passed to, or don’t place the book there directly.',
    *look({ placed }) {
      const ways = new Map<string, { by: PlacedAt; name: string }>();
      for (const a of placed.filter(isEbook))
        for (const shop of a.passes.length > 0 ? a.passes : [{ id: a.id, name: a.name }]) {
          const first = ways.get(shop.id);
          if (!first) ways.set(shop.id, { by: a, name: shop.name });
          else if (first.by.id !== a.id) {
            const way = (b: PlacedAt): string => (b.id === shop.id ? 'directly' : `through ${b.name}`);
            yield {
              message: `${shop.name} gets the ebook ${way(first.by)} and ${way(a)}.`,
              ...about(a, shop.id),
            };
          }
        }
    },
  }),
  rule({
    name: 'placing/below-printing',
    severity: 'blocker',
    why: 'Each copy sold would cost money.',
    remedy: 'Raise the list price in the record, or choose a cheaper trim, paper or binding.',
    *look({ placed }) {
      for (const a of placed)
        if (a.list && a.lowest && a.lowest.currency === a.list.currency && a.list.minor < a.lowest.minor)
          yield {
            message: `At ${moneyString(a.list)} a copy doesn’t pay for its printing at ${a.name}; ${moneyString(a.lowest)} is the lowest price that does.`,
            ...about(a),
          };
    },
  }),
  rule({
    name: 'placing/lower-price',
    severity: 'caution',
    why: 'Shops lower their own price to the lowest that they find elsewhere.',
    remedy: 'Raise it, or remove it from the record so that it is worked out.',
    *look({ prices, placed }) {
      if (placed.length === 0) return;
      for (const { given, worth } of prices)
        if (given.currency === worth.currency && given.minor * 100 < worth.minor * LOWER)
          yield {
            message: `The price of ${moneyString(given)} is well below what the list price comes to, ${moneyString(worth)}.`,
            about: given.currency,
          };
    },
  }),
  rule({
    name: 'placing/added-pages',
    severity: 'note',
    why: 'Readers would find the same twice.',
    remedy: 'Leave the section out of the edition that goes there, or let it stand.',
    *look({ placed, book }) {
      for (const a of placed) {
        const { adds } = a;
        const twice = adds
          ? book.sections.find((s) => adds.kinds.includes(s.kind) && !s.leftOut.includes(a.edition.id))
          : undefined;
        if (adds && twice)
          yield {
            message: `${a.name} adds ${adds.words}; the book already ends with a section of that kind.`,
            place: { section: twice.id },
            ...about(a),
          };
      }
    },
  }),
  rule({
    name: 'placing/pre-order-begins',
    severity: 'blocker',
    why: 'The outlet refuses a pre-order outside its days.',
    remedy: 'Move the day of publication, or place the book without a pre-order.',
    *look({ placed, book, today }) {
      const { published } = book.record;
      if (!/^\d{4}-\d\d-\d\d$/.test(published)) return;
      const ahead = daysBetween(today, published);
      for (const a of placed)
        if (a.preorder && (ahead < a.preorder.least || ahead > a.preorder.most))
          yield {
            message: `The book appears ${ahead < 0 ? 'in the past' : `in ${ahead} days`}; ${a.name} takes pre-orders ${a.preorder.least} to ${a.preorder.most} days ahead.`,
            ...about(a),
          };
    },
  }),
  rule({
    name: 'placing/final-file-due',
    severity: 'caution',
    why: 'An outlet that has no final file in time cancels all orders, and takes no pre-orders for a year (common practice).',
    remedy: 'Make the ebook, sign it off and send it.',
    *look({ placed, book, today }) {
      const { published } = book.record;
      if (!/^\d{4}-\d\d-\d\d$/.test(published)) return;
      for (const a of placed) {
        if (!a.preorder) continue;
        const left = daysBetween(today, published) - a.preorder.file;
        if (left >= 0 && left <= 14)
          yield {
            message: `${a.name} needs the final file ${a.preorder.file} days before the book appears: ${left === 0 ? 'today' : left === 1 ? 'by tomorrow' : `within ${left} days`}.`,
            ...about(a),
          };
      }
    },
  }),
];

export const checkPlacing = (subject: PlacingSubject): ReturnType<typeof runRules> =>
  runRules(PLACING_RULES, subject);
