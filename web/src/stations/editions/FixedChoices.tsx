'use client';
/** Whose pages an ebook of a fixed layout shows. */
import { inSentence } from '@pagina/core/base';
import { isPrint, type FixedEdition } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { Select } from '@/ui/Select';
import { useEditionFields } from './fields';

export function FixedChoices({ edition }: { edition: FixedEdition }) {
  const { book } = useBook();
  const set = useEditionFields(edition);
  const prints = book.editions
    .filter(isPrint)
    .map((e) => ({ value: e.id, name: `pages of the ${inSentence(e.name)}` }));
  return (
    <span className="mt-1 flex flex-col items-start gap-1">
      <Select
        label={`Print edition whose pages the ${inSentence(edition.name)} shows`}
        tip="Its design, trim and sections are those of the print edition."
        className="h-7 max-w-full text-[13px]"
        value={edition.of ?? ''}
        choices={edition.of === null ? [{ value: '', name: 'choose the print edition' }, ...prints] : prints}
        onChoose={(of) => set('Choose the pages of the ebook', { of: of || null })}
      />
    </span>
  );
}
