'use client';
import { useState } from 'react';
import { Field } from './Field';
import { Select } from './Select';
import { Text } from './Text';

const CURRENCIES = ['GBP', 'USD', 'EUR', 'CAD', 'AUD'];

export interface Price {
  /** In the currency's smallest unit. */
  minor: number;
  currency: string;
}

/** A price: typed as money, kept in the currency's smallest unit. */
export function Money({
  label,
  price,
  onCommit,
}: {
  label: string;
  price: Price | null;
  onCommit: (p: Price | null) => void;
}) {
  const [wrong, setWrong] = useState(false);
  const currency = price?.currency ?? 'GBP';
  const keep = (text: string): void => {
    if (text === '') {
      setWrong(false);
      return onCommit(null);
    }
    const m = /^(\d{1,5})(?:[.,](\d{1,2}))?$/.exec(text);
    setWrong(!m);
    if (m) onCommit({ minor: Number(m[1]) * 100 + Number((m[2] ?? '').padEnd(2, '0')), currency });
  };
  return (
    <Field
      label={label}
      hint={wrong ? <span className="text-rubric">Enter an amount such as 4.99.</span> : undefined}
    >
      <span className="grid grid-cols-[1fr_90px] gap-3">
        <Text
          value={price ? (price.minor / 100).toFixed(2) : ''}
          onCommit={keep}
          wrong={wrong}
          placeholder="4.99"
        />
        <Select
          label="Currency"
          value={currency}
          choices={CURRENCIES.map((c) => ({ value: c, name: c }))}
          onChoose={(c) => onCommit({ minor: price?.minor ?? 0, currency: c })}
        />
      </span>
    </Field>
  );
}
