/** Terms change on announced days (common practice); what a sale brings depends on the day it is made. */
import type { Outlet } from './outlet';

/** The outlet with the terms that are in force on an ISO day. */
export function termsOn(outlet: Outlet, day: string): Outlet {
  const last = (outlet.later ?? []).filter((l) => l.from <= day).at(-1);
  return last ? { ...outlet, plans: last.plans } : outlet;
}
