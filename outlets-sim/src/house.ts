/**
 * What the stand-in shops share: their day, which a person moves on; the weather, by which each of them has good days and bad
 * ones; the keys of the account there; and one place on the disk where all of it is kept.
 */
import { randomBytes } from 'node:crypto';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Book, Told } from './books';
import { booksFrom, type Earlier } from './earlier';
import type { ShopId } from './names';
import { Tray } from './tray';

/** Fair; slow to answer; too busy for every other call; closed; deaf; or taking a call and losing its answer. */
export const WEATHERS = ['fair', 'slow', 'busy', 'closed', 'silent', 'cut'] as const;
export type Weather = (typeof WEATHERS)[number];

export interface Kept {
  /** ISO day on which the shops opened: their day 0. */
  begun: string;
  day: number;
  weather: Partial<Record<ShopId, Weather>>;
  /** Where a shop tells of news, by shop. */
  hooks: Partial<Record<ShopId, string>>;
  books: Record<ShopId, Book[]>;
  /** Parcels of which a shop has heard and that it hasn't taken in, by their key. */
  heard: Partial<Record<ShopId, Record<string, Begun>>>;
}
export interface Begun {
  reference: string;
  told: Told;
  sum: string;
}

export class House {
  readonly tray: Tray;
  private readonly path: string;

  private constructor(
    readonly folder: string,
    readonly kept: Kept,
    /** Keys of the account at each shop. */
    readonly accounts: Record<ShopId, string>,
    private readonly keeps: boolean,
  ) {
    this.path = join(folder, 'outlets.json');
    this.tray = new Tray(join(folder, 'outlets-tray'));
  }

  /** Shops with their books as they were; new ones in an empty folder. `keeps` false for shops that forget. */
  static open(folder: string, { keeps = true }: { keeps?: boolean } = {}): House {
    const saved = read<Kept>(join(folder, 'outlets.json'));
    const earlier = saved ? null : read<Earlier>(join(folder, 'lanternquay.json'));
    const kept: Kept = saved ?? {
      begun: new Date().toISOString().slice(0, 10),
      day: earlier?.day ?? 0,
      weather: {},
      hooks: {},
      heard: {},
      books: {
        lanternquay: earlier ? booksFrom(earlier) : [],
        marram: [],
        packstone: [],
        pocketfell: [],
        shelfmoor: [],
        quayhead: [],
      },
    };
    const path = join(folder, 'outlets-accounts.json');
    const accounts = { ...newAccounts(), ...read<Partial<Record<ShopId, string>>>(path) };
    if (keeps) write(path, accounts);
    return new House(folder, kept, accounts, keeps);
  }

  get day(): number {
    return this.kept.day;
  }
  /** The ISO day that is `day` days after the opening. */
  dateOf(day: number): string {
    const at = new Date(`${this.kept.begun}T00:00:00Z`);
    at.setUTCDate(at.getUTCDate() + Math.floor(day));
    return at.toISOString().slice(0, 10);
  }
  /** Days from the opening to midnight of an ISO day; null for what is none. */
  dayOf(date: string): number | null {
    const days = (Date.parse(`${date}T00:00:00Z`) - Date.parse(`${this.kept.begun}T00:00:00Z`)) / 86_400_000;
    return Number.isFinite(days) ? days : null;
  }
  weatherAt(shop: ShopId): Weather {
    return this.kept.weather[shop] ?? 'fair';
  }
  booksAt(shop: ShopId): Book[] {
    return (this.kept.books[shop] ??= []);
  }
  heardAt(shop: ShopId): Record<string, Begun> {
    return (this.kept.heard[shop] ??= {});
  }
  keep(): void {
    if (this.keeps) write(this.path, this.kept);
  }
}

const newAccounts = (): Record<ShopId, string> => {
  const key = (): string => randomBytes(12).toString('hex');
  return {
    lanternquay: key(),
    marram: key(),
    packstone: key(),
    pocketfell: key(),
    shelfmoor: key(),
    quayhead: key(),
  };
};

function read<T>(path: string): T | null {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as T;
  } catch {
    return null;
  }
}
function write(path: string, value: unknown): void {
  writeFileSync(`${path}.part`, JSON.stringify(value), { mode: 0o600 });
  renameSync(`${path}.part`, path);
}
