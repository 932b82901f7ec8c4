'use client';
/** The price sheet of one outlet: what a sale brings, by territory, step by step. */
import dynamic from 'next/dynamic';
import { format } from 'date-fns';
import { useMemo, useState } from 'react';
import {
  comparedPlans,
  lowestAt,
  priceAt,
  salesAt,
  sumString,
  termsOn,
  territoryName,
  type Facts,
  type Outlet,
  type SaleAt,
} from '@pagina/core/outlets';
import { inSentence, moneyString } from '@pagina/core/base';
import { numberOf, TAXES_OF, type SaleLine } from '@pagina/core/trade';
import { useBook } from '@/title/context';
import { Select } from '@/ui/Select';
import { isoDay } from './Choices';
import { Table, type Column } from '@/ui/Table';

const PlansChart = dynamic(() => import('./PlansChart'), { ssr: false });

export function Prices({ outlet: listed, facts }: { outlet: Outlet; facts: Facts }) {
  const { book } = useBook();
  const { later = [] } = listed;
  /** By the terms of the day on which the book appears, if that is still to come. */
  const [day, setDay] = useState(() => {
    const today = isoDay(new Date());
    return book.record.published > today ? book.record.published : today;
  });
  const outlet = useMemo(() => termsOn(listed, day), [listed, day]);
  const inForce = later.filter((l) => l.from <= day).at(-1);
  const { edition, size, currencies } = facts;
  const sales = useMemo(() => salesAt(outlet, facts), [outlet, facts]);
  const price = priceAt(outlet, facts);
  const columns = useMemo((): Column<SaleAt>[] => columnsOf(sales, outlet), [sales, outlet]);
  if (!price)
    return (
      <p className="text-ink-soft">
        Give the {inSentence(edition.name)} a list price in the record to see what you earn per sale.
      </p>
    );
  if (edition.form === 'print' && facts.pages === null)
    return (
      <p className="text-ink-soft">Make the {inSentence(edition.name)} to see what printing a copy costs.</p>
    );
  const lowest = edition.form === 'print' ? lowestAt(outlet, facts, price.currency) : null;
  const home = sales.find((s) => s.from === 'given');
  return (
    <div className="mt-3 space-y-4">
      <p className="text-[13px] text-ink-soft">
        List price {moneyString(price)}
        {outlet.kind === 'libraries' && !book.record.libraryPrice
          ? ', suggested so that you earn no less per sale than in the shops'
          : ''}
        {edition.form !== 'print' ? `; the file has ${megabytes(size)}` : ''}.
        {lowest ? ` The lowest list price that pays for the printing is ${moneyString(lowest)}.` : ''}
      </p>
      {later.length > 0 ? (
        <div className="flex flex-wrap items-center gap-3 text-[13px]">
          <Select
            label="Terms in force"
            value={inForce?.from ?? ''}
            choices={[
              { value: '', name: 'The terms of today' },
              ...later.map((l) => ({
                value: l.from,
                name: `The terms from ${longDay(l.from)}`,
              })),
            ]}
            onChoose={(from) => setDay(from || isoDay(new Date()))}
          />
          <span className="text-ink-soft">
            {later.map((l) => `From ${longDay(l.from)}: ${l.words}`).join(' ')}
          </span>
        </div>
      ) : null}
      {home && home.sales.length > 1 ? <Better of={home} size={size} outlet={outlet} /> : null}
      {sales.length === 0 ? (
        <p className="text-ink-soft">It doesn’t sell in the territories and currencies of the record.</p>
      ) : (
        <Table
          label={`Prices at ${outlet.name}`}
          columns={columns}
          rows={sales}
          keyOf={(s) => `${s.market.territory} ${s.shop}`}
          attributesOf={(s) => ({ 'data-territory': s.market.territory })}
        />
      )}
      <p className="text-[12px] text-ink-soft">
        Tax comes off first, then charges and shares in the order of the columns. The price without tax and
        each charge are rounded; shares are worked out exactly, and your sum is rounded once, at the end.
        Prices marked ~ are converted at the rates of {currencies.date} and rounded to how prices end there;
        taxes as of {TAXES_OF}. Both can be changed in{' '}
        <a className="underline" href="/imprint">
          Imprint
        </a>
        .
      </p>
    </div>
  );
}

const longDay = (day: string): string => format(new Date(`${day}T00:00`), 'd MMMM yyyy');
const megabytes = (bytes: number): string =>
  bytes === 0 ? 'no size yet' : `${(bytes / 1e6).toLocaleString('en-GB', { maximumFractionDigits: 2 })} MB`;

/** Which plan is the better one, and from which size or price on it isn't. */
function Better({ of, size, outlet }: { of: SaleAt; size: number; outlet: Outlet }) {
  const compared = comparedPlans(of, size);
  if (!compared) return null;
  const { better, other } = compared;
  const [a, b] = of.sales;
  const currency = of.list.currency;
  return (
    <section aria-label="Which rate is better" className="border-y border-rule py-3">
      <p>
        <strong>{better.name}</strong> earns you {sumString(a?.author ?? 0, currency)} per sale at{' '}
        {moneyString(of.list)}; the {other.name.toLowerCase()} earns {sumString(b?.author ?? 0, currency)}.
        {compared.size ? ` They earn the same for a file of ${numberOf(compared.size).toFixed(2)} MB.` : ''}
        {compared.price ? ` For this file they earn the same at ${moneyString(compared.price)}.` : ''}
      </p>
      <PlansChart
        plans={of.sales.map((s) => s.plan)}
        price={of.sales[0]?.net ?? of.list}
        size={size}
        equal={compared.size && numberOf(compared.size)}
        label={`Earnings per sale at ${outlet.name} by the size of the file`}
      />
    </section>
  );
}

const HEADS: Record<SaleLine['kind'], string> = {
  tax: 'Tax',
  delivery: 'Delivery',
  copy: 'Fixed sum',
  printing: 'Printing',
  share: 'Kept',
};

function columnsOf(sales: readonly SaleAt[], outlet: Outlet): Column<SaleAt>[] {
  const kinds: SaleLine['kind'][] = ['tax', 'delivery', 'copy', 'share', 'printing'];
  const used = kinds.filter((k) => sales.some((s) => s.sales[0]?.lines.some((l) => l.kind === k)));
  const sum = (s: SaleAt, kind: SaleLine['kind']): string => {
    const lines = s.sales[0]?.lines.filter((l) => l.kind === kind) ?? [];
    return lines.length === 0 ? '' : lines.map((l) => sumString(l.off, s.list.currency)).join(' + ');
  };
  return [
    {
      id: 'territory',
      name: 'Territory',
      heads: true,
      cell: (s) => (
        <>
          {territoryName(s.market.territory)}
          {s.shop ? <span className="block text-[12px] text-ink-soft">{s.shop}</span> : null}
        </>
      ),
      sortBy: (s) => territoryName(s.market.territory),
      className: 'py-1 text-[13px]',
    },
    {
      id: 'list',
      name: 'List',
      right: true,
      cell: (s) => `${s.from === 'worked out' ? '~' : ''}${sumString(s.list.minor, s.list.currency)}`,
      className: 'text-[13px] tabular-nums whitespace-nowrap',
    },
    ...used.map((kind): Column<SaleAt> => ({
      id: kind,
      name: HEADS[kind],
      right: true,
      cell: (s) => sum(s, kind),
      className: 'text-[13px] tabular-nums whitespace-nowrap text-ink-soft',
    })),
    ...(outlet.plans.length > 1
      ? [
          {
            id: 'plan',
            name: 'Rate',
            cell: (s: SaleAt) => s.sales[0]?.plan.name ?? '',
            className: 'text-[13px]',
          },
        ]
      : []),
    {
      id: 'author',
      name: 'You earn',
      right: true,
      cell: (s) => {
        const best = s.sales[0];
        if (!best) return <span className="text-rubric">not sold at this price</span>;
        return (
          <span className={best.author < 0 ? 'text-rubric' : ''}>
            {sumString(best.author, best.currency)}
          </span>
        );
      },
      className: 'text-[13px] tabular-nums whitespace-nowrap font-semibold',
    },
  ];
}
