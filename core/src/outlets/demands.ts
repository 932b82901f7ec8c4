/** What outlets ask for, and whether a title satisfies them before anything is sent: the rows of the ledger. */
import { VARIANT_FIELDS } from '../book';
import { listedAs, listedDifferently, LISTED_FIELDS } from '../trade';
import { OUTLET_FIELDS, type Asked, type OutletField } from './asked';
import { LISTED } from './changes';
import type { Outlet } from './outlet';
import { tell } from './tell';
import { digestOfTold, type Facts, type Told } from './told';

export type DemandState = 'met' | 'live' | 'not met' | 'optional' | 'not asked';
export interface Demand {
  field: OutletField;
  name: string;
  /** What the outlet itself calls it; '' where it doesn't ask. */
  called: string;
  state: DemandState;
  /** What was found, or what is missing and what to do. */
  why: string;
  /** Why it is asked so, or what happens without it; '' for nothing. */
  note: string;
  /** Station where it is put right. */
  station: Told['station'];
  /** Whether the outlet is told it otherwise than the record says. */
  own: boolean;
}

/** A demand of an outlet. What is optional and empty is no fault; what is given has to be right. */
function demandOf(outlet: Outlet, asked: Asked, facts: Facts): Demand {
  const said = tell(outlet, asked, facts);
  const { text, shown, fault, station } = said;
  const empty = asked.need === 'optional' && text === '';
  const state: DemandState = empty
    ? 'optional'
    : fault !== null
      ? 'not met'
      : isLive(outlet, asked, facts, said)
        ? 'live'
        : 'met';
  return {
    field: asked.field,
    name: OUTLET_FIELDS[asked.field],
    called: asked.called,
    state,
    why: empty ? 'nothing given' : (fault ?? shown ?? text),
    note: asked.note ?? '',
    station,
    own: isOwn(asked.field, facts),
  };
}

/** Whether readers see it there as it is now: as the outlet lists it, or as it was entered by hand. */
function isLive(
  outlet: Outlet,
  { field }: Asked,
  { book, edition, placing, live }: Facts,
  said: Told,
): boolean {
  if (!live) return placing.state === 'on sale' && placing.ticked[field] === digestOfTold(said);
  const listed = LISTED_FIELDS.find((f) => LISTED[f] === field);
  if (!listed || !(listed in live)) return false;
  return listedDifferently(live, listedAs(book, edition, { id: outlet.id, takes: [listed] })).length === 0;
}

const isOwn = (field: OutletField, { placing: { variants } }: Facts): boolean =>
  VARIANT_FIELDS.some((f) => f === field && variants[f] !== undefined);

/** In the outlet's own order. */
export const demandsOf = (outlet: Outlet, facts: Facts): Demand[] =>
  outlet.asks.map((a) => demandOf(outlet, a, facts));
export const isReady = (demands: readonly Demand[]): boolean => demands.every((d) => d.state !== 'not met');

/** Fields that open only when the ones before are filled in: those after the first that isn't met, up to what a step begins with. */
export function closedAt(outlet: Outlet, demands: readonly Demand[]): OutletField[] {
  const first = demands.findIndex((d) => d.state === 'not met');
  if (first < 0) return [];
  const begins = demands.findIndex((d, i) => i > first && outlet.steps.includes(d.field));
  return begins < 0 ? [] : demands.slice(begins).map((d) => d.field);
}
