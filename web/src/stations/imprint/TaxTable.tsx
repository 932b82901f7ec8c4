'use client';
/** The tax on books by territory, corrected where the author knows better. */
import { useState } from 'react';
import { territoryName, type Imprint, type ImprintChange } from '@pagina/core/outlets';
import { MARKETS, TAXES_OF, type Market } from '@pagina/core/trade';
import { Button } from '@/ui/Button';
import { Text } from '@/ui/Text';
import { Table, type Column } from '@/ui/Table';

type Kind = 'ebook' | 'print';
const shown = (rate: number): string => String(rate / 100);
/** "5.5" as 550; null for what is no rate. */
function rateFrom(text: string): number | null {
  const m = /^(\d{1,2})(?:[.,](\d{1,2}))?\s*%?$/.exec(text.trim());
  const rate = m ? Number(m[1]) * 100 + Number((m[2] ?? '').padEnd(2, '0')) : NaN;
  return rate <= 5_000 ? rate : null;
}

export function TaxTable({
  imprint: { taxes },
  change,
}: {
  imprint: Imprint;
  change: (change: ImprintChange) => Promise<boolean>;
}) {
  const of = (m: Market): { ebook: number; print: number } => taxes[m.territory] ?? m.tax;
  const rate = (kind: Kind, name: string): Column<Market> => ({
    id: kind,
    name,
    cell: (m) => (
      <Rate
        label={`Tax on ${kind === 'ebook' ? 'ebooks' : 'printed books'} in ${territoryName(m.territory)}`}
        value={of(m)[kind]}
        onSet={(r) => void change({ set: 'tax', territory: m.territory, tax: { ...of(m), [kind]: r } })}
      />
    ),
    width: '92px',
    className: 'py-1',
  });
  const columns: Column<Market>[] = [
    {
      id: 'territory',
      name: 'Territory',
      heads: true,
      sortBy: (m) => territoryName(m.territory),
      cell: (m) => territoryName(m.territory),
      width: '160px',
    },
    rate('ebook', 'Ebooks'),
    rate('print', 'Printed'),
    {
      id: 'how',
      name: 'Prices shown',
      cell: (m) => (m.included ? 'with tax' : 'without tax'),
      className: 'text-[13px] text-ink-soft',
      width: '110px',
    },
    {
      id: 'back',
      name: 'Default',
      silent: true,
      right: true,
      cell: (m) =>
        taxes[m.territory] ? (
          <Button
            kind="quiet"
            className="h-7"
            aria-label={`Use the default for ${territoryName(m.territory)}`}
            onClick={() => void change({ set: 'tax', territory: m.territory, tax: null })}
          >
            Default
          </Button>
        ) : null,
    },
  ];
  return (
    <>
      <Table
        label="Tax on books"
        columns={columns}
        rows={MARKETS}
        keyOf={(m) => m.territory}
        attributesOf={(m) => ({ 'data-tax': m.territory })}
      />
      <p className="mt-2 text-[12px] text-ink-soft">
        The defaults are from memory, as of {TAXES_OF}. Taxes change: ask the tax office, or an outlet, before
        relying on them.
      </p>
    </>
  );
}

function Rate({ label, value, onSet }: { label: string; value: number; onSet: (rate: number) => void }) {
  const [wrong, setWrong] = useState(false);
  return (
    <Text
      aria-label={label}
      value={shown(value)}
      maxLength={6}
      wrong={wrong}
      onCommit={(text) => {
        const rate = rateFrom(text);
        setWrong(rate === null);
        if (rate !== null) onSet(rate);
      }}
    />
  );
}
