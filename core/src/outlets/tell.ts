/** Asks each kind of field in turn. */
import type { Asked } from './asked';
import type { Outlet } from './outlet';
import type { Facts, Told } from './told';
import { fileTold } from './toldfiles';
import { listTold } from './toldlists';
import { moneyTold } from './toldmoney';
import { wordsTold } from './toldwords';

/** What an outlet is told in a field. */
export const tell = (outlet: Outlet, asked: Asked, facts: Facts): Told =>
  wordsTold(outlet, asked, facts) ??
  listTold(outlet, asked, facts) ??
  moneyTold(outlet, asked, facts) ??
  fileTold(outlet, asked, facts);
