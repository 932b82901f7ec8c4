import type { ShopId } from '../names';
import type { Shop } from '../shop';
import { lanternquay } from './lanternquay';
import { marram } from './marram';
import { packstone } from './packstone';
import { pocketfell } from './pocketfell';
import { quayhead } from './quayhead';
import { shelfmoor } from './shelfmoor';

export const SHOPS_OPEN: Record<ShopId, Shop> = {
  lanternquay,
  marram,
  packstone,
  pocketfell,
  shelfmoor,
  quayhead,
};
