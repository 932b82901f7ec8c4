'use client';
/** What a sample is taken from, and how far it goes. */
import { inSentence } from '@pagina/core/base';
import { isReflow, type SampleEdition } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { NumberField } from '@/ui/NumberField';
import { choicesOf, Select } from '@/ui/Select';
import { useEditionFields } from './fields';

const UNITS = choicesOf<SampleEdition['extent']['by']>({ percent: '% of the text', chapters: 'chapters' });

export function SampleChoices({ edition }: { edition: SampleEdition }) {
  const { book } = useBook();
  const set = useEditionFields(edition);
  const called = inSentence(edition.name);
  const { extent } = edition;
  const select = 'h-7 max-w-full text-[13px]';
  const ebooks = book.editions
    .filter(isReflow)
    .map((e) => ({ value: e.id, name: `of the ${inSentence(e.name)}` }));
  return (
    <span className="mt-1 flex flex-col items-start gap-1">
      <Select
        label={`Ebook that the ${called} is taken from`}
        className={select}
        value={edition.of ?? ''}
        choices={edition.of === null ? [{ value: '', name: 'choose the ebook' }, ...ebooks] : ebooks}
        onChoose={(of) => set('Choose the ebook of the sample', { of: of || null })}
      />
      <span className="flex items-center gap-1">
        <NumberField
          label={`Length of the ${called}`}
          className="h-7 w-14 text-[13px]"
          least={1}
          most={100}
          value={extent.amount}
          onSet={(amount) => set('Change the length of the sample', { extent: { ...extent, amount } })}
        />
        <Select
          label={`Unit of the length of the ${called}`}
          tip="A share of the text ends with a whole paragraph. A closing page says where to find the rest."
          className={select}
          value={extent.by}
          choices={UNITS}
          onChoose={(by) =>
            set('Change the length of the sample', { extent: { by, amount: by === 'percent' ? 10 : 2 } })
          }
        />
      </span>
    </span>
  );
}
