/**
 * What a sale brings, against figures of the trade (common practice) and a table worked by hand, whose working is shown.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  byHabit,
  converted,
  CURRENCIES,
  currencyTableFrom,
  equalAtPrice,
  equalAtSize,
  habitAtLeast,
  lowestBringing,
  MARKETS,
  numberOf,
  passedOn,
  priceIn,
  ratio,
  rounded,
  salesUnder,
  saleUnder,
  type Plan,
  type Sold,
  type Step,
} from '../src/trade';

const usd = (minor: number) => ({ minor, currency: 'USD' });
const share = (keeps: number, of: 'rest' | 'price' = 'rest', who = 'shop'): Step => ({
  kind: 'share',
  who,
  keeps,
  of,
});
const plan = (id: string, from: number, to: number | null, ...steps: Step[]): Plan => ({
  id,
  name: id,
  territories: null,
  bands: ['USD', 'GBP', 'EUR'].map((currency) => ({ currency, from, to })),
  steps,
});
const sold = (list: { minor: number; currency: string }, more: Partial<Sold> = {}): Sold => ({
  list,
  territory: 'US',
  tax: { rate: 0, included: false },
  size: 0,
  printing: 0,
  ...more,
});
/** Common practice: 70 % from 2.99 to 9.99 less delivery at 0.15 a megabyte, else 35 %. */
const HIGHER = plan('higher', 299, 999, { kind: 'delivery', megabyte: { USD: 15_000 } }, share(3_000));
const LOWER = plan('lower', 99, 20_000, share(6_500));

describe('figures of the trade (common practice)', () => {
  it('half a megabyte at 2.99 is charged 0.08 for delivery, and 2.04 is left of a sale', () => {
    const sale = saleUnder(HIGHER, sold(usd(299), { size: 500_000 }));
    expect(sale?.lines.map((l) => [l.kind, l.off, l.left])).toEqual([
      ['delivery', 8, 291],
      ['share', 87, 204],
    ]);
    expect(sale?.author).toBe(204);
  });
  it('the bands include their ends', () => {
    const open = (minor: number): string[] =>
      salesUnder([HIGHER, LOWER], sold(usd(minor))).map((s) => s.plan.id);
    expect([298, 299, 999, 1_000].map(open)).toEqual([
      ['lower'],
      ['higher', 'lower'],
      ['higher', 'lower'],
      ['lower'],
    ]);
  });
  it.each([
    [299, '9.97'],
    [600, '20.00'],
    [999, '33.30'],
  ])('at %i cents both rates bring the same for %s megabytes', (minor, megabytes) => {
    const size = equalAtSize(HIGHER, LOWER, usd(minor));
    expect(size && numberOf(size).toFixed(2)).toBe(megabytes);
  });
  it('at a list price of 2.04, 1.29 comes back from a shop of 70 % through an aggregator that keeps a tenth', () => {
    const through = passedOn(plan('shop', 0, null, share(3_000)), [share(1_000, 'rest', 'aggregator')]);
    expect(saleUnder(through, sold(usd(204)))?.author).toBe(129);
  });
  it('and 0.95 from a shop that takes 0.99 a copy and then a tenth', () => {
    const fixed = plan('fixed', 0, null, { kind: 'copy', who: 'shop', sum: { USD: 99 } }, share(1_000));
    expect(saleUnder(fixed, sold(usd(204)))?.author).toBe(95);
  });
});

describe('a table worked by hand', () => {
  it.each([
    // 4.99 with 7 % tax: 4.99 / 1.07 = 4.6636 → 4.66; 0.12 × 2.5 MB = 0.30; (4.66 − 0.30) × 0.65 = 2.834 → 2.83.
    [
      'tax, delivery, share',
      499,
      700,
      2_500_000,
      0,
      [{ kind: 'delivery', megabyte: { EUR: 12_000 } }, share(3_500)],
      283,
    ],
    // 9.99 with 19 % tax: 8.3950 → 8.39 (8.394957…); a tenth of the price 0.839 → 0.84; half of what is left: 7.55 / 2 = 3.775 → 3.78.
    [
      'a tenth of the price, then half',
      999,
      1_900,
      0,
      0,
      [share(1_000, 'price', 'aggregator'), share(5_000)],
      378,
    ],
    // 9.99 with 19 % tax: 8.39; half first: 4.195, exactly; a tenth of the price 0.84: 3.355 → 3.36.
    [
      'half, then a tenth of the price',
      999,
      1_900,
      0,
      0,
      [share(5_000), share(1_000, 'price', 'aggregator')],
      336,
    ],
    // 12.99 without tax, shops keep 40 %: 7.794; less printing 3.35: 4.444 → 4.44.
    ['print', 1_299, 0, 0, 335, [share(4_000), { kind: 'printing' }], 444],
    // 4.99: 60 % is 2.994; less 3.35: −0.356 → −0.36.
    ['print below cost', 499, 0, 0, 335, [share(4_000), { kind: 'printing' }], -36],
    // 0.99 with 25 % tax: 0.792 → 0.79; 0.99 a copy: −0.20; a tenth of that: −0.18.
    [
      'a fixed sum above the price',
      99,
      2_500,
      0,
      0,
      [{ kind: 'copy', who: 'shop', sum: { EUR: 99 } }, share(1_000)],
      -18,
    ],
  ] as [string, number, number, number, number, Step[], number][])(
    '%s',
    (_, minor, rate, size, printing, steps, author) => {
      const list = { minor, currency: 'EUR' };
      const sale = saleUnder(
        plan('hand', 0, null, ...steps),
        sold(list, { territory: 'DE', tax: { rate, included: true }, size, printing }),
      );
      expect(sale?.author).toBe(author);
    },
  );
  it('tax that is added to the price leaves it whole', () => {
    const there = sold(usd(499), { tax: { rate: 900, included: false } });
    expect(saleUnder(LOWER, there)?.net.minor).toBe(499);
  });
});

const anyStep: fc.Arbitrary<Step> = fc.oneof(
  fc.nat(9_999).map((keeps) => share(keeps)),
  fc.nat(5_000).map((keeps) => share(keeps, 'price')),
  fc.nat(50_000).map((rate): Step => ({ kind: 'delivery', megabyte: { USD: rate } })),
  fc.nat(300).map((sum): Step => ({ kind: 'copy', who: 'shop', sum: { USD: sum } })),
  fc.constant<Step>({ kind: 'printing' }),
);
const anySold = fc
  .record({
    minor: fc.nat(100_000),
    rate: fc.nat(3_000),
    included: fc.boolean(),
    size: fc.nat(2_000_000_000),
    printing: fc.nat(2_000),
  })
  .map(({ minor, rate, included, ...more }) => sold(usd(minor), { tax: { rate, included }, ...more }));

describe('whatever the terms', () => {
  it('lines and the author’s sum add up to the list price, to the cent', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 5 }), anySold, (steps, s) => {
        const sale = saleUnder(plan('any', 0, null, ...steps), s);
        const off = sale?.lines.reduce((n, l) => n + l.off, 0) ?? NaN;
        expect(off + (sale?.author ?? NaN)).toBe(s.list.minor);
      }),
    );
  });
  it('the sum is within a cent for each rounding of what decimal arithmetic gives', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 5 }), anySold, (steps, s) => {
        const net = s.tax.included ? s.list.minor / (1 + s.tax.rate / 10_000) : s.list.minor;
        let left = net;
        for (const step of steps)
          if (step.kind === 'share') left -= ((step.of === 'rest' ? left : net) * step.keeps) / 10_000;
          else if (step.kind === 'delivery') left -= ((step.megabyte.USD ?? 0) / 1_000) * (s.size / 1e6);
          else if (step.kind === 'copy') left -= step.sum.USD ?? 0;
          else left -= s.printing;
        const sale = saleUnder(plan('any', 0, null, ...steps), s);
        expect(Math.abs((sale?.author ?? NaN) - left)).toBeLessThanOrEqual(1 + steps.length / 2);
      }),
    );
  });
  it('where two plans are equal at a size, one is better below it and the other above', () => {
    const at = (minor: number, size: number): number =>
      (saleUnder(HIGHER, sold(usd(minor), { size }))?.author ?? 0) -
      (saleUnder(LOWER, sold(usd(minor), { size }))?.author ?? 0);
    fc.assert(
      fc.property(fc.integer({ min: 299, max: 999 }), (minor) => {
        const size = equalAtSize(HIGHER, LOWER, usd(minor));
        const bytes = size ? numberOf(size) * 1e6 : NaN;
        expect(at(minor, Math.floor(bytes * 0.9))).toBeGreaterThan(0);
        expect(at(minor, Math.ceil(bytes * 1.1))).toBeLessThan(0);
      }),
    );
  });
  it('and where they are equal at a price', () => {
    // 70 % of (p − 0.60) is 35 % of p where p is 1.20, for four megabytes.
    const price = equalAtPrice(HIGHER, LOWER, 'USD', 4_000_000);
    expect(price && numberOf(price)).toBe(120);
    expect(equalAtSize(LOWER, plan('other', 0, null, share(5_000)), usd(299))).toBeNull();
  });
});

describe('prices in other currencies', () => {
  const table = {
    date: '2026-11-02',
    source: 'a test',
    base: 'EUR',
    rates: { GBP: '0.8', USD: '1.2', JPY: '150' },
  };
  it('are converted exactly, whatever the decimals of each', () => {
    const in_ = (minor: number, currency: string, to: string): number => {
      const r = converted({ minor, currency }, to, table);
      return r ? rounded(r) : NaN;
    };
    expect(in_(400, 'GBP', 'EUR')).toBe(500);
    expect(in_(400, 'GBP', 'USD')).toBe(600);
    expect(in_(400, 'GBP', 'JPY')).toBe(750);
    expect(in_(750, 'JPY', 'GBP')).toBe(400);
    expect(converted({ minor: 1, currency: 'GBP' }, 'SEK', table)).toBeNull();
  });
  it('end as prices do there', () => {
    expect([549, 548, 601, 20].map((m) => byHabit(ratio(m), 'USD').minor)).toEqual([599, 499, 599, 99]);
    expect([599, 600].map((m) => habitAtLeast(ratio(m), 'USD').minor)).toEqual([599, 699]);
    expect(byHabit(ratio(751), 'JPY').minor).toBe(780);
    expect(byHabit(ratio(4_321), 'XTS').minor).toBe(4_321);
  });
  it('bear the tax of the place, and one’s own price comes first', () => {
    // £4.00 is 5.00 €; with Germany's 7 % 5.35 €: 4.99 or 5.99, and 5.35 is nearer to 4.99.
    const prices = { home: { minor: 400, currency: 'GBP' }, own: [{ minor: 650, currency: 'USD' }] };
    expect(priceIn('EUR', prices, 'ebook', table, { DE: { ebook: 700, print: 700 } })?.price.minor).toBe(499);
    // With 20 % it is 6.00 €.
    expect(priceIn('EUR', prices, 'ebook', table, { DE: { ebook: 2_000, print: 0 } })?.price.minor).toBe(599);
    expect(priceIn('USD', prices, 'ebook', table)).toEqual({ price: prices.own[0], from: 'given' });
    expect(priceIn('SEK', prices, 'ebook', table)).toBeNull();
  });
  it('the lowest price that brings so much is found, and none below it does', () => {
    const library = plan('library', 0, null, share(5_000));
    const least = lowestBringing(library, 204, sold(usd(1)));
    expect(least).toEqual(usd(499));
    expect(saleUnder(library, sold(usd(399)))?.author).toBeLessThan(204);
    expect(lowestBringing(plan('nothing', 0, null, share(10_000)), 1, sold(usd(1)))).toBeNull();
  });
  it.each([
    ['CSV', 'date,2026-10-01\nbase,EUR\nUSD,1.25\nGBP,0.85\n'],
    ['CSV with semicolons and a head', 'currency;rate\n"date";"2026-10-01"\nUSD;1.25\r\nGBP;0.85'],
    [
      'the central bank’s XML (form from memory)',
      `<?xml version="1.0"?><gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref"><Cube><Cube time='2026-10-01'><Cube currency='USD' rate='1.25'/><Cube currency='GBP' rate='0.85'/></Cube><Cube time='2026-09-30'><Cube currency='USD' rate='9'/></Cube></Cube></gesmes:Envelope>`,
    ],
  ])('a table is read from %s', (_, text) => {
    const read = currencyTableFrom(text, 'rates', '2026-01-01');
    expect(read.ok && read.value).toMatchObject({
      date: '2026-10-01',
      base: 'EUR',
      rates: { USD: '1.25', GBP: '0.85' },
    });
  });
  it.each([
    '',
    'hello',
    'USD,-1',
    'USD,1e9',
    '<Cube time="x"><Cube currency="USD" rate="1"/></Cube>',
    'date,soon\nUSD,1',
    '<',
  ])('what is no table (%j) is refused in a sentence', (text) => {
    const read = currencyTableFrom(text, 'rates', '2026-01-01');
    expect(read.ok).toBe(false);
  });
  it('territories and currencies are those of ISO 3166 and ISO 4217, by Intl, and every currency has a rate', () => {
    const names = new Intl.DisplayNames('en', { type: 'region', fallback: 'none' });
    for (const m of MARKETS) {
      expect(names.of(m.territory)).toBeTruthy();
      expect(Intl.supportedValuesOf('currency')).toContain(m.currency);
      expect(m.currency === CURRENCIES.base || m.currency in CURRENCIES.rates).toBe(true);
    }
  });
});
