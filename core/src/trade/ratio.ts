/** Exact fractions of whole numbers, for sums of money that are rounded once and in one place. */
export interface Ratio {
  n: bigint;
  /** Above zero. */
  d: bigint;
}

export const ratio = (n: bigint | number, d: bigint | number = 1): Ratio => ({ n: BigInt(n), d: BigInt(d) });
export const ZERO = ratio(0);
export const plus = (a: Ratio, b: Ratio): Ratio => ({ n: a.n * b.d + b.n * a.d, d: a.d * b.d });
export const minus = (a: Ratio, b: Ratio): Ratio => ({ n: a.n * b.d - b.n * a.d, d: a.d * b.d });
export const times = (a: Ratio, b: Ratio): Ratio => ({ n: a.n * b.n, d: a.d * b.d });
/** Throws RangeError for a divisor of zero. */
export function over(a: Ratio, b: Ratio): Ratio {
  if (b.n === 0n) throw new RangeError('divided by zero');
  return b.n < 0n ? { n: -a.n * b.d, d: a.d * -b.n } : { n: a.n * b.d, d: a.d * b.n };
}
/** Below zero where `a` is less than `b`, above where it is more. */
export const compared = (a: Ratio, b: Ratio): number =>
  Number(a.n * b.d - b.n * a.d > 0n) - Number(a.n * b.d < b.n * a.d);

const floor = ({ n, d }: Ratio): bigint => (n >= 0n ? n / d : -((-n + d - 1n) / d));
/** The nearest whole number; a half rounds up. */
export const rounded = (a: Ratio): number => Number(floor({ n: a.n * 2n + a.d, d: a.d * 2n }));
/** The least whole number that is not below. */
export const ceiling = (a: Ratio): number => -Number(floor({ n: -a.n, d: a.d }));
/** For showing and drawing. */
export const numberOf = ({ n, d }: Ratio): number => Number((n * 1_000_000n) / d) / 1_000_000;

/** Reads "1.0825"; null for anything that is no plain decimal above zero. */
export function ratioFrom(decimal: string): Ratio | null {
  const m = /^(\d{1,12})(?:\.(\d{1,12}))?$/.exec(decimal.trim());
  if (!m) return null;
  const decimals = m[2] ?? '';
  const r = ratio(BigInt(`${m[1] ?? ''}${decimals}`), 10n ** BigInt(decimals.length));
  return r.n > 0n ? r : null;
}
