/** What belongs to the imprint and not to a title: its accounts with outlets, the tables that prices are worked out with. */
import * as z from 'zod';
import { done, refused, type Outcome } from '../base';
import { outletIdSchema } from '../book';
import { CURRENCIES, currencyTableSchema, taxesSchema, taxSchema } from '../trade';
import type { Outlet } from './outlet';
import { houseSchema, NEW_HOUSE } from './house';
import { outletFrom, ownOutletSchema } from './own';
import { OUTLETS } from './outlets';

export const ACCOUNT_NEEDS = { payment: 'payment details', tax: 'tax details', address: 'address' } as const;
export type AccountNeed = keyof typeof ACCOUNT_NEEDS;

const accountSchema = z.object({
  given: z.array(z.enum(Object.keys(ACCOUNT_NEEDS) as [AccountNeed, ...AccountNeed[]])).default([]),
});

export const imprintSchema = z.object({
  house: houseSchema.default(NEW_HOUSE),
  /** In which units lengths are shown; 'trim' for those in which each trim is written. */
  units: z.enum(['trim', 'mm', 'in']).default('trim'),
  currencies: currencyTableSchema.default(CURRENCIES),
  taxes: taxesSchema.default({}),
  /** What has been given to each outlet of what it needs to know before it pays. */
  accounts: z.record(outletIdSchema, accountSchema).default({}),
  /** Days after which keywords and descriptions are to be looked at again; 0 for never. Common practice: 90. */
  reminders: z.number().int().min(0).max(1_000).default(90),
  /** When the news of the outlets were looked at last, in milliseconds since 1970. */
  seenAt: z.number().int().min(0).default(0),
  /** Outlets that the author has described, without a connection. */
  outlets: z.array(ownOutletSchema).default([]),
});
export type Imprint = z.infer<typeof imprintSchema>;
export const NEW_IMPRINT: Imprint = imprintSchema.parse({});

/** One thing at a time: what two windows set at once doesn't overwrite what the other set. */
export const imprintChangeSchema = z.discriminatedUnion('set', [
  z.object({ set: z.literal('house'), house: houseSchema.partial() }),
  z.object({ set: z.literal('units'), units: imprintSchema.shape.units.unwrap() }),
  z.object({ set: z.literal('currencies'), table: currencyTableSchema }),
  z.object({
    set: z.literal('tax'),
    territory: z.string().regex(/^[A-Z]{2}$/),
    /** Null for the one that Pagina comes with. */
    tax: taxSchema.nullable(),
  }),
  z.object({ set: z.literal('account'), outlet: outletIdSchema, account: accountSchema }),
  z.object({ set: z.literal('reminders'), days: z.number().int().min(0).max(1_000) }),
  z.object({ set: z.literal('seen'), at: z.number().int().min(0) }),
  z.object({ set: z.literal('outlet'), outlet: ownOutletSchema }),
  z.object({ set: z.literal('no outlet'), id: outletIdSchema }),
]);
export type ImprintChange = z.infer<typeof imprintChangeSchema>;

/** Error: `imprint/outlet` where an outlet of that name is there already. */
export function changedImprint(now: Imprint, change: ImprintChange): Outcome<Imprint> {
  switch (change.set) {
    case 'house':
      return done({ ...now, house: { ...now.house, ...change.house } });
    case 'units':
      return done({ ...now, units: change.units });
    case 'currencies':
      return done({ ...now, currencies: change.table });
    case 'tax': {
      const { [change.territory]: _, ...taxes } = now.taxes;
      return done({ ...now, taxes: change.tax ? { ...taxes, [change.territory]: change.tax } : taxes });
    }
    case 'account':
      return done({ ...now, accounts: { ...now.accounts, [change.outlet]: change.account } });
    case 'reminders':
      return done({ ...now, reminders: change.days });
    // Two windows may say so in any order.
    case 'seen':
      return done({ ...now, seenAt: Math.max(now.seenAt, change.at) });
    case 'outlet': {
      const { outlet } = change;
      const same = (name: string): boolean => name.toLowerCase() === outlet.name.toLowerCase();
      const taken =
        OUTLETS.some((o) => o.id === outlet.id || same(o.name)) ||
        now.outlets.some((o) => o.id !== outlet.id && same(o.name));
      if (taken) return refused('imprint/outlet', `There is an outlet called ${outlet.name} already.`);
      const at = now.outlets.findIndex((o) => o.id === outlet.id);
      return done({
        ...now,
        outlets: at < 0 ? [...now.outlets, outlet] : now.outlets.map((o, i) => (i === at ? outlet : o)),
      });
    }
    case 'no outlet':
      return done({ ...now, outlets: now.outlets.filter((o) => o.id !== change.id) });
  }
}

/** What an account with an outlet still lacks. */
export function lackingAt(outlet: Pick<Outlet, 'id' | 'account'>, imprint: Imprint): AccountNeed[] {
  const given =
    (Object.hasOwn(imprint.accounts, outlet.id) ? imprint.accounts[outlet.id] : undefined)?.given ?? [];
  return outlet.account.needs.filter((n) => !given.includes(n));
}

/** The outlets that Pagina comes with, and the author's own. */
export const outletsOf = (imprint: Imprint): readonly Outlet[] =>
  imprint.outlets.length === 0 ? OUTLETS : [...OUTLETS, ...imprint.outlets.map(outletFrom)];
