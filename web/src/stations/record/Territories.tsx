'use client';
/** Where the book may be sold: in the whole world, or in the countries for which the author has the rights. */
import { useMemo } from 'react';
import { COUNTRIES } from '@pagina/core/record';
import { Checkbox } from '@/ui/Checkbox';
import { Picker } from '@/ui/Picker';
import { Chosen } from './Chosen';
import { AskedBy } from './AskedBy';
import { useRecord } from './useRecord';

const names = new Intl.DisplayNames(['en-GB'], { type: 'region' });
const nameOf = (code: string): string => names.of(code) ?? code;
const byName = new Intl.Collator('en-GB').compare;

export function Territories() {
  const { record, set } = useRecord();
  const { territories } = record;
  const keep = (countries: string[] | null): void =>
    set({ territories: countries }, 'Change the territories');
  const choices = useMemo(
    () =>
      COUNTRIES.filter((c) => !territories?.includes(c))
        .map((value) => ({ value, name: nameOf(value) }))
        .sort((a, b) => byName(a.name, b.name)),
    [territories],
  );
  return (
    <div role="group" aria-label="Territories" className="space-y-2">
      <span className="column-head block">Sold</span>
      <Checkbox
        label="In the whole world"
        on={territories === null}
        onSet={(on) => keep(on ? null : [])}
        hint={territories?.length === 0 ? 'Add the countries for which you have the rights.' : undefined}
      />
      {territories ? (
        <>
          <Chosen of={territories.map((code) => ({ key: code, name: nameOf(code) }))} onKeep={keep} />
          <Picker
            label="Add a country"
            placeholder="Add a country"
            value={null}
            choices={choices}
            onChoose={(code) => keep([...territories, code])}
          />
        </>
      ) : null}
      <AskedBy field="territories" />
    </div>
  );
}
