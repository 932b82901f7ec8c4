'use client';
/** What an ebook is to be like: its version, its pictures, its faces, and whose folios its page list gives. */
import { inSentence } from '@pagina/core/base';
import { isPrint, type ReflowEdition } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { Checkbox } from '@/ui/Checkbox';
import { choicesOf, Select } from '@/ui/Select';
import { useEditionFields } from './fields';

const VERSIONS = choicesOf<ReflowEdition['version']>({
  '3.3': 'EPUB 3.3',
  '2.0.1': 'EPUB 2.0.1, for old readers',
});
const PICTURES = choicesOf<ReflowEdition['pictures']>({
  'as-they-are': 'original pictures',
  large: 'pictures for large screens',
  small: 'pictures for small screens',
});
const FACES = choicesOf<ReflowEdition['faces']>({
  reader: 'the reader’s typeface',
  own: 'the design’s typefaces',
});

export function EbookChoices({ edition }: { edition: ReflowEdition }) {
  const { book } = useBook();
  const set = useEditionFields(edition);
  const called = inSentence(edition.name);
  const select = 'h-7 max-w-full text-[13px]';
  const folios = [
    { value: '', name: 'no page list' },
    ...book.editions
      .filter(isPrint)
      .map((e) => ({ value: e.id, name: `folios of the ${inSentence(e.name)}` })),
  ];
  return (
    <span className="mt-1 flex flex-col items-start gap-1">
      <Select
        label={`Page list of the ${called}`}
        tip="Lets ebook readers find the page numbers of the printed book."
        className={select}
        value={edition.pageList ?? ''}
        choices={folios}
        onChoose={(id) => set('Change the page list', { pageList: id || null })}
      />
      <Select
        label={`Version of the ${called}`}
        tip="Some old readers and shops take only the older version. Formulas and pop-up notes are plainer in it."
        className={select}
        value={edition.version}
        choices={VERSIONS}
        onChoose={(version) => set('Change the version', { version })}
      />
      <Select
        label={`Pictures of the ${called}`}
        tip="Large screens get up to 2,560 pixels, small ones up to 1,280. No picture is enlarged."
        className={select}
        value={edition.pictures}
        choices={PICTURES}
        onChoose={(pictures) => set('Change the pictures', { pictures })}
      />
      <Select
        label={`Typefaces of the ${called}`}
        tip="Embedded typefaces hold only the characters that the book uses. Readers can still choose another."
        className={select}
        value={edition.faces}
        choices={FACES}
        onChoose={(faces) => set('Change the typefaces', { faces })}
      />
      {edition.version === '3.3' ? (
        <Checkbox
          className="text-[13px]"
          label="State conformance with EPUB Accessibility"
          hint="only where the checks find nothing in the way"
          on={edition.conformance}
          onSet={(conformance) => set('Change the statement of conformance', { conformance })}
        />
      ) : null}
    </span>
  );
}
