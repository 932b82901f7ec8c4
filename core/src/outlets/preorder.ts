/** Pre-orders: the day that was announced, and from when on it stays as it is. */
import type { ToldFields } from './changes';
import type { ListingState } from './news';
import type { Outlet } from './outlet';

/** The first day of sale as an outlet was told it; null where it was told none. */
export function announcedDay(told: ToldFields | null): string | null {
  const said = told?.published?.[0] ?? told?.preorder?.[0] ?? '';
  return /\d{4}-\d\d-\d\d/.exec(said)?.[0] ?? null;
}

/** Whole days from one ISO day to another. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);

/**
 * Why a day of sale can't be moved any more; null where it can, or isn't moved. Common practice: from some days before a
 * pre-order ends, its day is fixed.
 */
export function moveFault(
  outlet: Outlet,
  listing: { state: ListingState; told: ToldFields | null },
  to: string,
  today: string,
): string | null {
  const announced = announcedDay(listing.told);
  if (!outlet.preorder || !announced || announced === to || announced <= today) return null;
  if (listing.state === 'waiting' || listing.state === 'withdrawn') return null;
  const left = daysBetween(today, announced);
  if (left > outlet.preorder.file) return null;
  return `${outlet.name} has announced the book for ${announced}, in ${left === 1 ? '1 day' : `${left} days`}: the day can’t be moved in the last ${outlet.preorder.file} days. Put ${announced} back in the record.`;
}
