/** What belongs to the imprint and not to a title: its accounts with outlets, the tables that prices are worked out with. */
import * as z from 'zod';
import { outletIdSchema } from '../book';
import { CURRENCIES, currencyTableSchema, taxesSchema } from '../trade';
import type { Outlet } from './outlet';

export const ACCOUNT_NEEDS = { payment: 'payment details', tax: 'tax details', address: 'address' } as const;
export type AccountNeed = keyof typeof ACCOUNT_NEEDS;

export const imprintSchema = z.object({
  currencies: currencyTableSchema.default(CURRENCIES),
  taxes: taxesSchema.default({}),
  /** What has been given to each outlet of what it needs to know before it pays, and since when the account stands (ISO day). */
  accounts: z
    .record(
      outletIdSchema,
      z.object({
        given: z.array(z.enum(['payment', 'tax', 'address'])).default([]),
        opened: z.string().default(''),
      }),
    )
    .default({}),
});
export type Imprint = z.infer<typeof imprintSchema>;
export const NEW_IMPRINT: Imprint = imprintSchema.parse({});

/** What an account with an outlet still lacks. */
export function lackingAt(outlet: Pick<Outlet, 'id' | 'account'>, imprint: Imprint): AccountNeed[] {
  const given =
    (Object.hasOwn(imprint.accounts, outlet.id) ? imprint.accounts[outlet.id] : undefined)?.given ?? [];
  return outlet.account.needs.filter((n) => !given.includes(n));
}
