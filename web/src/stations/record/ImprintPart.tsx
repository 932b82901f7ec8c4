'use client';
/** Who publishes the book, where and when, and which edition of it this is. */
import { EDITION_TYPE_NAMES, type EditionType } from '@pagina/core/record';
import { lackingOf } from '@pagina/core/outlets';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { choicesOf, Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { AskedBy } from './AskedBy';
import { useRecord } from './useRecord';

const TYPES = [
  { value: '' as const, name: 'Not one of these' },
  ...choicesOf<EditionType>(EDITION_TYPE_NAMES),
];

export function ImprintPart() {
  const { record, set, line } = useRecord();
  const { session } = useTitle();
  const { book, imprint } = useBook();
  const lacking = lackingOf(book, imprint.house);
  const { year, web, editionNumber, editionType } = record;
  const yearIsRight = /^(?:\d{4})?$/.test(year);
  const webIsRight = web === '' || URL.canParse(web);
  return (
    <>
      {lacking.length > 0 ? (
        <Button
          className="h-7"
          onClick={() =>
            void session.change((b) => ({
              type: 'group',
              label: 'Fill in from Imprint',
              changes: lackingOf(b, imprint.house),
            }))
          }
        >
          Fill in from Imprint
        </Button>
      ) : null}
      <div>
        <Field label="Imprint">
          <Text {...line('imprint', 'imprint')} />
        </Field>
        <AskedBy field="imprint" />
      </div>
      <Field label="Publisher" hint="Where it is another house than the imprint">
        <Text {...line('publisher', 'publisher')} />
      </Field>
      <div className="grid grid-cols-[1fr_90px] gap-3">
        <Field label="Place">
          <Text {...line('place', 'place')} />
        </Field>
        <Field label="Year" hint={yearIsRight ? undefined : 'Use four digits, such as 2026.'}>
          <Text {...line('year', 'year')} maxLength={4} wrong={!yearIsRight} />
        </Field>
      </div>
      <div>
        <Field label="Day of publication">
          <Text type="date" {...line('published', 'day of publication')} />
        </Field>
        <AskedBy field="published" />
      </div>
      <Field
        label="Web address"
        hint={webIsRight ? undefined : 'Write it whole, such as https://tidewrack.example.'}
      >
        <Text {...line('web', 'web address')} wrong={!webIsRight} placeholder="https://" />
      </Field>
      <div>
        <Field
          label="Edition statement"
          hint="As printed, such as “Second edition, revised”. Leave it empty for a first edition."
        >
          <Text {...line('editionStatement', 'edition statement')} maxLength={120} />
        </Field>
        <AskedBy field="edition" />
      </div>
      <div className="grid grid-cols-[90px_1fr] gap-3">
        <Field label="Number">
          <Text
            value={editionNumber === null ? '' : String(editionNumber)}
            maxLength={3}
            placeholder="1"
            onCommit={(v) => {
              if (v === '' || /^[1-9]\d{0,2}$/.test(v))
                set({ editionNumber: v === '' ? null : Number(v) }, 'Change the edition number');
            }}
          />
        </Field>
        <div>
          <span className="column-head mb-1 block">Kind of edition</span>
          <Select
            label="Kind of edition"
            className="w-full"
            value={editionType ?? ''}
            choices={TYPES}
            onChoose={(v) => set({ editionType: v === '' ? null : v }, 'Change the kind of edition')}
          />
        </div>
      </div>
    </>
  );
}
