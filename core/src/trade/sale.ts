/**
 * What a sale brings. The order is always this: the tax that the list price includes comes off first; then the steps of the
 * plan, one after the other. Rounding is always in these places: the price without tax, and each charge (delivery, a sum a
 * copy, printing, a share of the price), to the smallest unit of the currency; shares of the rest are worked out exactly,
 * and what the author gets is rounded once, at the end. A half rounds up.
 */
import type { Money } from '../base';
import { compared, minus, over, plus, ratio, rounded, times, ZERO, type Ratio } from './ratio';
import { isOpen, type Plan, type Step } from './terms';

/** What a sale is made of. */
export interface Sold {
  /** As readers see it, or without tax where they see it so. */
  list: Money;
  territory: string;
  /** Tax in ten-thousandths, and whether the list price includes it. */
  tax: { rate: number; included: boolean };
  /** Bytes of the file. */
  size: number;
  /** What printing a copy costs, in the currency of the list price; 0 for an ebook. */
  printing: number;
}

export interface SaleLine {
  kind: 'tax' | Step['kind'];
  /** Who keeps it; '' for tax, delivery and printing. */
  who: string;
  /** What comes off: lines and the author's sum add up to the list price. */
  off: number;
  left: number;
}
export interface Sale {
  plan: Plan;
  /** The price without tax. */
  net: Money;
  lines: SaleLine[];
  /** Below zero where the price does not pay what it costs. */
  author: number;
  currency: string;
}

const TEN_THOUSAND = 10_000;
const MEGABYTE_THOUSANDTHS = 1_000_000_000;

/** A price without the tax in it. */
export const withoutTax = ({ list, tax }: Pick<Sold, 'list' | 'tax'>): Money => ({
  currency: list.currency,
  minor: tax.included ? rounded(ratio(list.minor * TEN_THOUSAND, TEN_THOUSAND + tax.rate)) : list.minor,
});

/** Null where a step has no figure for the currency. */
function charge(
  step: Step,
  { minor, currency }: Money,
  sold: Pick<Sold, 'size' | 'printing'>,
): number | null {
  switch (step.kind) {
    case 'delivery': {
      const megabyte = step.megabyte[currency];
      return megabyte === undefined
        ? null
        : rounded(ratio(BigInt(megabyte) * BigInt(sold.size), MEGABYTE_THOUSANDTHS));
    }
    case 'copy':
      return step.sum[currency] ?? null;
    case 'printing':
      return sold.printing;
    case 'share':
      return rounded(ratio(BigInt(minor) * BigInt(step.keeps), TEN_THOUSAND));
  }
}

/** A sale under a plan; null where the plan is not open for the price or the territory. */
export function saleUnder(plan: Plan, sold: Sold): Sale | null {
  const net = withoutTax(sold);
  if (!isOpen(plan, net, sold.territory)) return null;
  const { currency } = net;
  const lines: SaleLine[] = [];
  if (sold.tax.included && sold.tax.rate > 0)
    lines.push({ kind: 'tax', who: '', off: sold.list.minor - net.minor, left: net.minor });
  let exact = ratio(net.minor);
  let left = net.minor;
  for (const step of plan.steps) {
    if (step.kind === 'share' && step.of === 'rest')
      exact = times(exact, ratio(TEN_THOUSAND - step.keeps, TEN_THOUSAND));
    else {
      const off = charge(step, net, sold);
      if (off === null) return null;
      exact = minus(exact, ratio(off));
    }
    const now = rounded(exact);
    lines.push({ kind: step.kind, who: 'who' in step ? step.who : '', off: left - now, left: now });
    left = now;
  }
  return { plan, net, lines, author: left, currency };
}

/** The sale under each plan that is open, the one that brings most first; of two that bring the same, the earlier plan. */
export const salesUnder = (plans: readonly Plan[], sold: Sold): Sale[] =>
  plans.flatMap((p) => saleUnder(p, sold) ?? []).sort((a, b) => b.author - a.author);

/** What a plan brings without rounding: `price` times the price, less `megabyte` a megabyte, less `copy`. */
interface Line {
  price: Ratio;
  megabyte: Ratio;
  copy: Ratio;
}
function lineOf(plan: Plan, currency: string, printing: number): Line | null {
  let line: Line = { price: ratio(1), megabyte: ZERO, copy: ZERO };
  for (const step of plan.steps) {
    if (step.kind === 'share' && step.of === 'rest') {
      const kept = ratio(TEN_THOUSAND - step.keeps, TEN_THOUSAND);
      line = {
        price: times(line.price, kept),
        megabyte: times(line.megabyte, kept),
        copy: times(line.copy, kept),
      };
    } else if (step.kind === 'share')
      line = { ...line, price: minus(line.price, ratio(step.keeps, TEN_THOUSAND)) };
    else if (step.kind === 'delivery') {
      const rate = step.megabyte[currency];
      if (rate === undefined) return null;
      line = { ...line, megabyte: plus(line.megabyte, ratio(rate, 1_000)) };
    } else {
      const sum = step.kind === 'printing' ? printing : step.sum[currency];
      if (sum === undefined) return null;
      line = { ...line, copy: plus(line.copy, ratio(sum)) };
    }
  }
  return line;
}

/**
 * The size in megabytes at which two plans bring the same at a price without tax, exactly; null where there is none.
 * The plan that charges more for delivery is the worse one beyond it.
 */
export function equalAtSize(a: Plan, b: Plan, price: Money, printing = 0): Ratio | null {
  const [x, y] = [lineOf(a, price.currency, printing), lineOf(b, price.currency, printing)];
  if (!x || !y) return null;
  const slope = minus(x.megabyte, y.megabyte);
  if (slope.n === 0n) return null;
  const gain = minus(times(minus(x.price, y.price), ratio(price.minor)), minus(x.copy, y.copy));
  const size = over(gain, slope);
  return compared(size, ZERO) > 0 ? size : null;
}

/** The price without tax, in the smallest unit, at which two plans bring the same for a file of `size` bytes. */
export function equalAtPrice(a: Plan, b: Plan, currency: string, size: number, printing = 0): Ratio | null {
  const [x, y] = [lineOf(a, currency, printing), lineOf(b, currency, printing)];
  if (!x || !y) return null;
  const slope = minus(x.price, y.price);
  if (slope.n === 0n) return null;
  const megabytes = ratio(size, 1_000_000);
  const cost = plus(times(minus(x.megabyte, y.megabyte), megabytes), minus(x.copy, y.copy));
  const price = over(cost, slope);
  return compared(price, ZERO) > 0 ? price : null;
}
