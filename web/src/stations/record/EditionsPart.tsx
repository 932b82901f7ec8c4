'use client';
/** What each edition has of its own: number, price, trim. */
import { inSentence } from '@pagina/core/base';
import { isPrint, type Edition, type EditionFields } from '@pagina/core/book';
import { bareIsbn, isbn10to13, isbnFault, ISBN_FAULTS } from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';
import { Field } from '@/ui/Field';
import { MoneyField } from '@/ui/MoneyField';
import { Text } from '@/ui/Text';
import { TrimField } from '@/ui/TrimField';
import { useRecord } from './useRecord';

export function EditionsPart() {
  const { book } = useBook();
  const { record, set } = useRecord();
  return (
    <>
      {book.editions.map((e) => (
        <OneEdition key={e.id} edition={e} />
      ))}
      <MoneyField
        label="List price of the ebook"
        price={record.price}
        onCommit={(price) => set({ price }, 'Change the price')}
      />
    </>
  );
}

function OneEdition({ edition: e }: { edition: Edition }) {
  const { session } = useTitle();
  const set = (fields: EditionFields): void =>
    void session.change({
      type: 'group',
      label: `Change the ${inSentence(e.name)}`,
      changes: [{ type: 'set-edition', id: e.id, fields }],
    });
  const fault = e.isbn ? isbnFault(e.isbn) : null;
  return (
    <div className="space-y-2 border-t border-rule pt-2 first-of-type:border-0">
      <Field
        label={`ISBN of the ${inSentence(e.name)}`}
        hint={
          fault ? (
            <span className="text-rubric">{ISBN_FAULTS[fault]}</span>
          ) : e.isbn ? (
            `${bareIsbn(e.isbn).length} digits, and the check digit is right`
          ) : (
            'An ISBN of its own, or leave it empty'
          )
        }
      >
        <Text
          value={e.isbn}
          wrong={fault !== null}
          onCommit={(isbn) => set({ isbn: isbn10to13(isbn) ?? isbn })}
          placeholder="978-…"
        />
      </Field>
      {isPrint(e) ? (
        <>
          <MoneyField
            label={`List price of the ${inSentence(e.name)}`}
            price={e.price}
            onCommit={(price) => set({ price })}
          />
          <div>
            <span className="column-head mb-1 block">Trim</span>
            <TrimField trim={e.trim} onTrim={(trim) => set({ trim })} />
          </div>
        </>
      ) : null}
    </div>
  );
}
