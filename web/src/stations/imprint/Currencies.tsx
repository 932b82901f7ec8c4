'use client';
/** The table of currencies, and how a newer one takes its place. */
import { formatISO } from 'date-fns';
import { useState } from 'react';
import { CURRENCIES, currencyTableFrom } from '@pagina/core/trade';
import type { Imprint, ImprintChange } from '@pagina/core/outlets';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileDrop';

const NAMES = new Intl.DisplayNames('en-GB', { type: 'currency' });
/** Bytes of a table of rates: the longest archive of a central bank has less. */
const MOST = 20_000_000;

export function Currencies({
  imprint: { currencies },
  change,
}: {
  imprint: Imprint;
  change: (change: ImprintChange) => Promise<boolean>;
}) {
  const [wrong, setWrong] = useState<string | null>(null);
  const bring = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (file.size > MOST) return setWrong('That file is too large to be a table of rates.');
    const day = formatISO(new Date(), { representation: 'date' });
    const read = currencyTableFrom(await file.text(), file.name, day);
    setWrong(read.ok ? null : read.refusal.message);
    if (read.ok) await change({ set: 'currencies', table: read.value });
  };
  const rates = Object.entries(currencies.rates).sort(([a], [b]) => (a < b ? -1 : 1));
  return (
    <>
      <p className="text-[13px]">
        Rates of {currencies.date}, for one {NAMES.of(currencies.base) ?? currencies.base}.{' '}
        <span className="text-ink-soft">{currencies.source}.</span>
      </p>
      <table aria-label="Rates" className="my-2 w-full text-[13px] tabular-nums">
        <tbody>
          {rates.map(([code, rate]) => (
            <tr key={code} className="h-6 border-b border-rule">
              <th scope="row" className="text-left font-normal">
                {code} <span className="text-ink-soft">{NAMES.of(code)}</span>
              </th>
              <td className="text-right">{rate}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex flex-wrap items-center gap-3">
        <FileButton
          label="Table of rates"
          endings={['.csv', '.xml', '.txt']}
          onFiles={(files) => void bring(files[0])}
        >
          Replace with a file
        </FileButton>
        {currencies.source === CURRENCIES.source ? null : (
          <Button kind="quiet" onClick={() => void change({ set: 'currencies', table: CURRENCIES })}>
            Use the table that Pagina came with
          </Button>
        )}
      </div>
      <p className="mt-2 text-[12px] text-ink-soft">
        A line of a CSV file is a code and its rate, such as USD,1.16; lines “base” and “date” say for which
        currency and of which day. The XML form of a central bank’s reference rates is read too.
      </p>
      {wrong ? (
        <p role="alert" className="mt-1 text-[13px] text-rubric">
          {wrong}
        </p>
      ) : null}
    </>
  );
}
