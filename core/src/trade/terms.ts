/**
 * How the price of a sale is shared. Terms are data: a plan is a row of steps in the order in which the outlet takes them,
 * and the prices for which it may be chosen. That outlets share in these ways is common practice; each one's figures are
 * its own.
 */
export type Step =
  /** So much a megabyte of 1,000,000 bytes, by currency in thousandths of the smallest unit. */
  | { kind: 'delivery'; megabyte: Readonly<Record<string, number>> }
  /** A fixed sum a copy, by currency in the smallest unit. */
  | { kind: 'copy'; who: string; sum: Readonly<Record<string, number>> }
  /** What printing the copy costs. */
  | { kind: 'printing' }
  /** A share that is kept, in ten-thousandths: of what is left by then, or of the price without tax. */
  | { kind: 'share'; who: string; keeps: number; of: 'rest' | 'price' };

/** Prices in the smallest unit of a currency, both ends included; no upper end where `to` is null. */
export interface Band {
  currency: string;
  from: number;
  to: number | null;
}

export interface Plan {
  id: string;
  name: string;
  bands: readonly Band[];
  /** Territories whose sales it counts for (ISO 3166-1); null for all. */
  territories: readonly string[] | null;
  steps: readonly Step[];
}

/** The prices without tax decide whether a plan is open. */
export const isOpen = (plan: Plan, price: { minor: number; currency: string }, territory: string): boolean =>
  (plan.territories?.includes(territory) ?? true) &&
  plan.bands.some(
    (b) => b.currency === price.currency && b.from <= price.minor && (b.to === null || price.minor <= b.to),
  );

/** A plan by which another passes on what it is paid. */
export const passedOn = (plan: Plan, by: readonly Step[]): Plan => ({
  ...plan,
  steps: [...plan.steps, ...by],
});
