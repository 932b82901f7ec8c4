'use client';
/** The ebook's prices beside its list price: in other currencies, for libraries, and beside the printed book. */
import { useState } from 'react';
import { amountFrom, amountString, exponentOf, moneyString, type Money } from '@pagina/core/base';
import { CURRENCIES, priceIn } from '@pagina/core/trade';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Field } from '@/ui/Field';
import { MoneyField } from '@/ui/MoneyField';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { useRecord } from './useRecord';

const ALL = [CURRENCIES.base, ...Object.keys(CURRENCIES.rates)].sort();

export function OtherPrices() {
  const { record, set } = useRecord();
  const { prices, price } = record;
  const suggested = (currency: string): Money =>
    (price && priceIn(currency, { home: price, own: [] }, 'ebook', CURRENCIES)?.price) ?? {
      minor: 5 * 10 ** exponentOf(currency),
      currency,
    };
  const left = ALL.filter((c) => c !== price?.currency && !prices.some((p) => p.currency === c));
  return (
    <Collapsible heading={<span className="column-head">Other prices of the ebook</span>}>
      <div className="mt-2 space-y-3">
        <div role="group" aria-label="Prices in other currencies" className="space-y-1">
          <p className="text-[13px] text-ink-soft">
            Worked out from the list price with the imprint’s rates, unless you set one here.
          </p>
          {prices.map((p) => (
            <OwnPrice key={p.currency} currency={p.currency} amount={amountString(p)} />
          ))}
          <Select
            label="Set a price in another currency"
            placeholder="Set a price in another currency"
            value={null}
            choices={left.map((c) => ({ value: c, name: c }))}
            onChoose={(currency) =>
              set({ prices: [...prices, suggested(currency)] }, `Set a price in ${currency}`)
            }
          />
        </div>
        <MoneyField
          label="Price for libraries"
          price={record.libraryPrice}
          onCommit={(libraryPrice) => set({ libraryPrice }, 'Change the price for libraries')}
        />
        <MoneyField
          label="Price beside the printed book"
          price={record.bundlePrice}
          onCommit={(bundlePrice) => set({ bundlePrice }, 'Change the price beside the printed book')}
        />
      </div>
    </Collapsible>
  );
}

function OwnPrice({ currency, amount }: { currency: string; amount: string }) {
  const { record, set } = useRecord();
  const [wrong, setWrong] = useState(false);
  const keep = (text: string): void => {
    const read = amountFrom(text, currency);
    setWrong(read === null);
    if (read)
      set(
        { prices: record.prices.map((p) => (p.currency === currency ? read : p)) },
        `Change the price in ${currency}`,
      );
  };
  return (
    <div className="flex items-end gap-2">
      <Field
        label={`List price in ${currency}`}
        hint={
          wrong ? (
            <span className="text-rubric">
              Enter an amount such as {amountString({ minor: 499, currency })}.
            </span>
          ) : Number(amount) === 0 ? (
            `${moneyString({ minor: 0, currency })}: free there until you enter a price`
          ) : undefined
        }
      >
        <Text value={amount} wrong={wrong} onCommit={keep} />
      </Field>
      <Button
        className="mb-0.5 h-7"
        onClick={() =>
          set(
            { prices: record.prices.filter((p) => p.currency !== currency) },
            `Work out the price in ${currency}`,
          )
        }
        aria-label={`Work out the price in ${currency} again`}
      >
        Work it out
      </Button>
    </div>
  );
}
