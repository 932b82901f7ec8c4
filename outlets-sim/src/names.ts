/** The shops by their names, and files by their checksums. */
import { createHash } from 'node:crypto';

export const SHOPS = ['lanternquay', 'marram', 'packstone', 'pocketfell', 'shelfmoor', 'quayhead'] as const;
export type ShopId = (typeof SHOPS)[number];
export const isShop = (id: string): id is ShopId => (SHOPS as readonly string[]).includes(id);

export const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
