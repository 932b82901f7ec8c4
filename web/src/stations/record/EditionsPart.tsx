'use client';
/** What each edition has of its own: number, price, trim; and the prices of the ebook. */
import { inSentence } from '@pagina/core/base';
import { isPrint, type Edition, type EditionFields } from '@pagina/core/book';
import { isbn10to13, isbnFault, ISBN_FAULTS } from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { MoneyField } from '@/ui/MoneyField';
import { Text } from '@/ui/Text';
import { TrimField } from '@/ui/TrimField';
import { OtherPrices } from './OtherPrices';
import { useIsbns, type IsbnKnown } from './useIsbns';
import { AskedBy } from './AskedBy';
import { useRecord } from './useRecord';

export function EditionsPart() {
  const { book } = useBook();
  const { record, set } = useRecord();
  const isbns = useIsbns();
  return (
    <>
      {book.editions.map((e) => (
        <OneEdition
          key={e.id}
          edition={e}
          known={isbns.known?.editions[e.id]}
          free={isbns.known?.free ?? 0}
          next={isbns.next}
        />
      ))}
      <MoneyField
        label="List price of the ebook"
        price={record.price}
        onCommit={(price) => set({ price }, 'Change the price')}
      />
      <AskedBy field="price" />
      <OtherPrices />
    </>
  );
}

function OneEdition({
  edition: e,
  known,
  free,
  next,
}: {
  edition: Edition;
  known: IsbnKnown | undefined;
  /** Numbers that are left in the imprint's block. */
  free: number;
  next: (edition: Edition) => Promise<void>;
}) {
  const { session } = useTitle();
  const name = inSentence(e.name);
  const set = (fields: EditionFields): void =>
    void session.change({
      type: 'group',
      label: `Change the ${name}`,
      changes: [{ type: 'set-edition', id: e.id, fields }],
    });
  const fault = e.isbn ? isbnFault(e.isbn) : null;
  const other = known?.other;
  return (
    <div className="space-y-2 border-t border-rule pt-2 first-of-type:border-0">
      {known?.fixedBy ? (
        <div>
          <span className="column-head mb-1 block">ISBN of the {name}</span>
          <p>{e.isbn}</p>
          <p className="text-[13px] text-ink-soft">
            Fixed: {known.fixedBy} has the {name} under this number.
          </p>
        </div>
      ) : (
        <Field
          label={`ISBN of the ${name}`}
          hint={
            fault ? (
              <span className="text-rubric">{ISBN_FAULTS[fault]}</span>
            ) : other ? (
              <span className="text-rubric">
                {other.titleName || 'An untitled book'} has the same number for its{' '}
                {inSentence(other.editionName)}.
              </span>
            ) : e.isbn ? (
              '13 digits, and the check digit is right'
            ) : (
              'An ISBN of its own, or leave it empty'
            )
          }
        >
          <Text
            value={e.isbn}
            wrong={fault !== null || Boolean(other)}
            onCommit={(isbn) => set({ isbn: isbn10to13(isbn) ?? isbn })}
            placeholder="978-…"
          />
        </Field>
      )}
      {e.isbn === '' && free > 0 ? (
        <Button className="h-7" onClick={() => void next(e)}>
          Assign the next ISBN
        </Button>
      ) : null}
      {isPrint(e) ? (
        <>
          <MoneyField
            label={`List price of the ${name}`}
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
