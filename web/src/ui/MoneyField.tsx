'use client';
import { useState } from 'react';
import { amountFrom, amountString, type Money } from '@pagina/core/base';
import { Field } from './Field';
import { Select } from './Select';
import { Text } from './Text';

const CURRENCIES = ['GBP', 'USD', 'EUR', 'CAD', 'AUD'];

/** A price: an amount as it is typed, and its currency. */
export function MoneyField({
  label,
  price,
  onCommit,
}: {
  label: string;
  price: Money | null;
  onCommit: (p: Money | null) => void;
}) {
  const [wrong, setWrong] = useState(false);
  const [chosen, setChosen] = useState('GBP');
  const currency = price?.currency ?? chosen;
  const example = amountString({ minor: 499, currency });
  const keep = (text: string): void => {
    const read = text === '' ? null : amountFrom(text, currency);
    setWrong(text !== '' && read === null);
    if (text === '' || read) onCommit(read);
  };
  return (
    <Field
      label={label}
      hint={wrong ? <span className="text-rubric">Enter an amount such as {example}.</span> : undefined}
    >
      <span className="grid grid-cols-[1fr_90px] gap-3">
        <Text value={price ? amountString(price) : ''} onCommit={keep} wrong={wrong} placeholder={example} />
        <Select
          label="Currency"
          value={currency}
          choices={CURRENCIES.map((c) => ({ value: c, name: c }))}
          onChoose={(c) => (price ? onCommit({ ...price, currency: c }) : setChosen(c))}
        />
      </span>
    </Field>
  );
}
