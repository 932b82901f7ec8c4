'use client';
/** The bar that edits a mark: where a link leads, how the index lists the words, which language they are in. */
import { zodResolver } from '@hookform/resolvers/zod';
import type { EditorView } from 'prosemirror-view';
import { Controller, useForm } from 'react-hook-form';
import { telling, type Told } from '@/forms/telling';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import { lineOf } from '@/ui/Field';
import { Picker } from '@/ui/Picker';
import { choicesOf, Select } from '@/ui/Select';
import { Tip } from '@/ui/Tip';
import { markAt, setTelling, stretchOf, type Telling } from './marking';
import { placesOf } from './places';

type LinkKind = 'web' | 'place' | 'shop';
const KINDS = choicesOf<LinkKind>({
  web: 'To the web',
  place: 'To a place in the book',
  shop: 'To a book in the shops',
});
const LABELS: Record<Told, [label: string, example: string]> = {
  web: ['Address', 'https://…'],
  place: ['Place', 'Choose a place'],
  shop: ['ISBN of the book', 'ISBN of the book'],
  indexed: ['Entry', 'tides: neap'],
  language: ['Language tag', 'fr, de, la …'],
};
const NAMES: Record<Telling, string> = {
  link: 'Link',
  indexed: 'Index entry',
  language: 'Language of these words',
};

/** The attributes of the mark. */
const attrsOf = (of: Told, value: string): Record<string, string> =>
  of === 'indexed' ? { term: value } : of === 'language' ? { tag: value } : { kind: of, target: value };

export function TellingBar({ view, name, onDone }: { view: EditorView; name: Telling; onDone: () => void }) {
  const { book } = useBook();
  const at = markAt(view.state, name);
  const stretch = stretchOf(view.state, name);
  const selected = stretch ? view.state.doc.textBetween(stretch.from, stretch.to, ' ') : '';
  const given = (at?.mark.attrs.target ?? at?.mark.attrs.term ?? at?.mark.attrs.tag ?? '') as string;
  const kind = (at?.mark.attrs.kind as LinkKind | undefined) ?? 'web';
  const { control, register, handleSubmit, watch, setValue, formState } = useForm({
    resolver: zodResolver(telling),
    defaultValues: {
      of: name === 'link' ? kind : name,
      value: given || (name === 'indexed' ? selected : ''),
    },
  });
  const of = watch('of');
  const wrong = formState.errors.value?.message;
  const tell = (attrs: Record<string, string> | null): void => {
    const tr = setTelling(view.state, name, attrs);
    if (tr) view.dispatch(tr);
    onDone();
    view.focus();
  };
  if (!stretch)
    return (
      <span className="text-[13px] text-ink-soft">Select the words first, or place the cursor in one.</span>
    );
  const [label, example] = LABELS[of];
  return (
    <form
      noValidate
      className="flex items-center gap-2 text-[13px]"
      aria-label={NAMES[name]}
      onSubmit={(e) => void handleSubmit((told) => tell(attrsOf(told.of, told.value)))(e)}
      onKeyDown={(e) => e.key === 'Escape' && !e.defaultPrevented && (onDone(), view.focus())}
    >
      <span className="max-w-52 truncate">
        {NAMES[name]}: <em className="font-serif">{selected}</em>
      </span>
      {name === 'link' ? (
        <Select
          label="Kind of link"
          className="h-7"
          value={of as LinkKind}
          choices={KINDS}
          onChoose={(k) => {
            setValue('of', k);
            setValue('value', '');
          }}
        />
      ) : null}
      {of === 'place' ? (
        <Controller
          control={control}
          name="value"
          render={({ field }) => (
            <Picker
              label={label}
              className="h-7 w-64"
              value={field.value || null}
              placeholder={example}
              choices={placesOf(book)}
              onChoose={field.onChange}
            />
          )}
        />
      ) : (
        <input
          {...register('value')}
          key={of}
          autoFocus={!given}
          aria-label={label}
          aria-invalid={wrong ? true : undefined}
          placeholder={example}
          className={lineOf('h-7 w-64')}
        />
      )}
      <Button type="submit" className="h-7 px-2">
        {at ? 'Change' : 'Apply'}
      </Button>
      {at ? (
        <Button kind="quiet" className="h-7 px-2" onClick={() => tell(null)}>
          Remove
        </Button>
      ) : null}
      {wrong ? (
        <span role="alert" className="text-rubric">
          {wrong}
        </span>
      ) : of === 'shop' ? (
        <Tip words="The link is stored by ISBN. Files that aren’t made for an outlet show the words without a link.">
          <span className="text-[13px] whitespace-nowrap text-ink-soft" tabIndex={0}>
            Each outlet’s ebook links to the book in that shop.
          </span>
        </Tip>
      ) : null}
    </form>
  );
}
