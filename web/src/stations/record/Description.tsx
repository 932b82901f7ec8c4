'use client';
/** What readers are told of the book in shops: with the markup that shops accept, checked for spelling, and as each outlet gets it. */
import { useContext, useState } from 'react';
import { placingAt } from '@pagina/core/book';
import { descriptionFor, type Asked, type Outlet } from '@pagina/core/outlets';
import { lookedUp } from '@pagina/core/tidy';
import { useDoubted } from '@/forms/dictionary';
import { DescriptionWord } from '@/forms/Misspelt';
import { useBook, useTitle } from '@/title/context';
import { Collapsible } from '@/ui/Collapsible';
import { Marked, MarkedText } from '@/ui/MarkedText';
import { Select } from '@/ui/Select';
import { Asking, AskedBy } from './AskedBy';
import { useRecord } from './useRecord';

const counted = (text: string): string =>
  text.length === 1 ? '1 character' : `${text.length.toLocaleString('en-GB')} characters`;

export function Description() {
  const { session } = useTitle();
  const { book } = useBook();
  const { record, line } = useRecord();
  const { description, language } = record;
  const { text: html, counted: plain } = descriptionFor({ markup: 'taken' }, description);
  const doubted = useDoubted(language, plain, book.words);
  return (
    <div>
      <span className="column-head mb-1 block">Description</span>
      <MarkedText label="Description" {...line('description', 'description')} doubted={doubted} />
      <span className="mt-1 block text-[13px] text-ink-soft">
        {counted(plain)}
        {plain === '' ? '' : `; with its markup ${html.length.toLocaleString('en-GB')}`}
      </span>
      <AskedBy field="description" />
      {doubted.length > 0 ? (
        <Collapsible
          className="text-[13px]"
          heading={
            <span className="text-ochre">
              {doubted.length === 1 ? '1 word isn’t' : `${doubted.length} words aren’t`} in the dictionary
            </span>
          }
        >
          <ul className="border-t border-rule" aria-label="Words of the description to look at">
            {doubted.map((word) => (
              <DescriptionWord
                key={word}
                word={word}
                onOwn={() =>
                  void session.change((b) => ({
                    type: 'group',
                    label: `Keep “${word}” as it is`,
                    changes: [
                      {
                        type: 'set-words',
                        words: [...new Set([...b.words, lookedUp(word)])].sort((x, y) => x.localeCompare(y)),
                      },
                    ],
                  }))
                }
              />
            ))}
          </ul>
        </Collapsible>
      ) : null}
      {description === '' ? null : <AsOutletsGetIt />}
    </div>
  );
}

/** The text as an outlet is sent it, and what of it that outlet counts. */
function AsOutletsGetIt() {
  const { book } = useBook();
  const asking = useContext(Asking).flatMap(({ outlet }) => {
    const asked = outlet.asks.find((a) => a.field === 'description');
    return asked ? [{ outlet, asked }] : [];
  });
  const [chosen, setChosen] = useState('');
  const at = asking.find((a) => a.outlet.id === chosen) ?? asking[0];
  const textAt = (outlet: Outlet): string =>
    placingAt(book, outlet.id).variants.description ?? book.record.description;
  const size = ({ outlet, asked }: { outlet: Outlet; asked: Asked }): string => {
    const { length } = descriptionFor(asked, textAt(outlet)).counted;
    const markup =
      asked.markup === undefined ? 'no markup' : asked.markup === 'counted' ? 'markup counts' : 'markup';
    const limit = asked.most ? ` of ${asked.most.toLocaleString('en-GB')}` : '';
    return `${length.toLocaleString('en-GB')}${limit}, ${markup}`;
  };
  return (
    <Collapsible className="mt-1 text-[13px]" heading="Preview">
      <div
        className="space-y-2 border-t border-rule pt-2"
        role="group"
        aria-label="Preview of the description"
      >
        {asking.length > 0 ? (
          <Select
            label="Preview for"
            className="w-full"
            value={at?.outlet.id ?? ''}
            choices={asking.map((a) => ({ value: a.outlet.id, name: `${a.outlet.name}: ${size(a)}` }))}
            onChoose={setChosen}
          />
        ) : (
          <p className="text-ink-soft">As readers see it where markup is shown.</p>
        )}
        <div className="border border-rule bg-sheet px-3 py-2 font-serif text-[15px] leading-6">
          {at && !at.asked.markup ? (
            <div className="whitespace-pre-wrap">{descriptionFor(at.asked, textAt(at.outlet)).text}</div>
          ) : (
            <Marked text={at ? textAt(at.outlet) : book.record.description} />
          )}
        </div>
      </div>
    </Collapsible>
  );
}
