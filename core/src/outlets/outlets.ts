/**
 * The outlets that Pagina comes with. All are invented, and mixed from habits of the trade (common practice); their figures
 * are their own.
 */
import { lanternquay } from './known/lanternquay';
import { marram } from './known/marram';
import { packstone } from './known/packstone';
import { pocketfell } from './known/pocketfell';
import { quayhead } from './known/quayhead';
import { shelfmoor } from './known/shelfmoor';
import { sallowby } from './known/sallowby';
import type { Outlet } from './outlet';

export const OUTLETS: readonly Outlet[] = [
  lanternquay,
  marram,
  packstone,
  pocketfell,
  shelfmoor,
  sallowby,
  quayhead,
];
export const outletNamed = (id: string | null): Outlet | null => OUTLETS.find((o) => o.id === id) ?? null;
