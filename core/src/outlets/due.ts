/** What falls due for a title: the day it appears, final files of pre-orders, the end of exclusivity, new terms, and looking again. */
import { placingAt, type Book } from '../book';
import { outletsOf, type Imprint } from './imprint';
import type { ListingState } from './news';
import { daysBetween } from './preorder';

export interface Due {
  /** Stays the same however often it is worked out. */
  key: string;
  /** ISO day. */
  day: string;
  words: string;
  /** Id of the outlet that it concerns; '' for none. */
  outlet: string;
}

const isDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

/** An ISO day so many days later. */
export function dayAfter(day: string, days: number): string {
  const at = new Date(`${day}T00:00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}

/** From today on, soonest first. `final` tells of outlets that have the final file already. */
export function dueOf(
  book: Pick<Book, 'record' | 'placing'>,
  imprint: Imprint,
  listings: readonly { outlet: string; state: ListingState; final: boolean }[],
  today: string,
): Due[] {
  const { title, published } = book.record;
  const name = title || 'Untitled';
  const due: Due[] = [];
  const add = (key: string, day: string, words: string, outlet = ''): void => {
    if (day >= today) due.push({ key, day, words, outlet });
  };
  if (isDay(published)) add('published', published, `${name} is published.`);
  for (const outlet of outletsOf(imprint)) {
    const { chosen, preorder, exclusiveUntil } = placingAt(book, outlet.id);
    const at = listings.find((l) => l.outlet === outlet.id);
    if (!chosen && !at) continue;
    if (preorder && outlet.preorder && isDay(published) && !at?.final)
      add(
        `final ${outlet.id}`,
        dayAfter(published, -outlet.preorder.file),
        `The final file of ${name} is due at ${outlet.name}.`,
        outlet.id,
      );
    for (const { from, words } of outlet.later ?? [])
      add(`terms ${outlet.id} ${from}`, from, `New terms at ${outlet.name}: ${words}`, outlet.id);
    if (isDay(exclusiveUntil))
      add(
        `exclusive ${outlet.id}`,
        exclusiveUntil,
        `${name} is no longer exclusive to ${outlet.name}.`,
        outlet.id,
      );
  }
  // Counted from the day of publication, so that it doesn't move as the days pass.
  if (imprint.reminders > 0 && isDay(published)) {
    const times = Math.max(1, Math.ceil(daysBetween(published, today) / imprint.reminders));
    add(
      'look again',
      dayAfter(published, times * imprint.reminders),
      `Review the keywords and the description of ${name}.`,
    );
  }
  return due.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
