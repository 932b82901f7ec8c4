'use client';
/** The author's choices at one outlet, and what it is told otherwise than the record says. */
import { useState } from 'react';
import { addDays, formatISO } from 'date-fns';
import { placingAt, VARIANT_FIELDS, type VariantField } from '@pagina/core/book';
import { OUTLET_FIELDS, type Asked, type Facts, type Outlet, type OutletField } from '@pagina/core/outlets';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { MarkedText } from '@/ui/MarkedText';
import { Text } from '@/ui/Text';
import { useAtOutlet, usePlacing } from './useOutlets';

export function Choices({ outlet, facts }: { outlet: Outlet; facts: Facts }) {
  const { book } = useBook();
  const set = usePlacing(outlet.id);
  const placing = placingAt(book, outlet.id);
  const asks = (field: OutletField): Asked | undefined => outlet.asks.find((a) => a.field === field);
  const at = ` at ${outlet.name}`;
  const { adds } = outlet;
  return (
    <div className="space-y-5">
      {outlet.plans.length > 1 ? (
        <div>
          <span className="column-head mb-1 block">Share of a sale</span>
          <Select
            label={`Share of a sale${at}`}
            value={placing.plan}
            choices={[
              { value: '', name: 'Whichever earns more' },
              ...outlet.plans.map((p) => ({ value: p.id, name: p.name })),
            ]}
            onChoose={(plan) => set({ plan }, `Change the share${at}`)}
          />
        </div>
      ) : null}
      {outlet.passes.length > 0 ? (
        <div role="group" aria-label="Shops">
          <span className="column-head mb-1 block">Passed on to</span>
          {outlet.passes.map((s) => {
            const all = outlet.passes.map((x) => x.id);
            const now = placing.shops ?? all;
            return (
              <Checkbox
                key={s.id}
                className="py-0.5"
                label={s.name}
                hint={s.words}
                on={now.includes(s.id)}
                onSet={(on) =>
                  set(
                    { shops: all.filter((id) => (id === s.id ? on : now.includes(id))) },
                    `${on ? 'Pass on to' : 'Leave out'} ${s.name}`,
                  )
                }
              />
            );
          })}
        </div>
      ) : null}
      <div className="space-y-2">
        {asks('rights') ? (
          <Checkbox
            label="I hold the rights to publish this book"
            on={placing.rights}
            onSet={(rights) => set({ rights }, `Declare the rights${at}`)}
          />
        ) : null}
        {asks('protection') ? (
          <Checkbox
            label="Copy protection"
            hint="Can’t be changed there once the book is on sale."
            on={placing.protection}
            onSet={(protection) => set({ protection }, `Change the protection${at}`)}
          />
        ) : null}
        {asks('lending') ? (
          <Checkbox
            label="Readers may lend it"
            on={placing.lending}
            onSet={(lending) => set({ lending }, `Change lending${at}`)}
          />
        ) : null}
        {outlet.exclusive > 0 ? (
          <Checkbox
            label={`Sold only at ${outlet.name} for ${outlet.exclusive} days`}
            hint={
              placing.exclusiveUntil
                ? `Until ${placing.exclusiveUntil}.`
                : 'You may not sell it anywhere else meanwhile.'
            }
            on={placing.exclusiveUntil !== ''}
            onSet={(on) =>
              set(
                { exclusiveUntil: on ? isoDay(addDays(new Date(), outlet.exclusive)) : '' },
                `Change the exclusivity${at}`,
              )
            }
          />
        ) : null}
        {outlet.preorder ? (
          <Checkbox
            label="Pre-order"
            hint={`From ${outlet.preorder.most} to ${outlet.preorder.least} days before publication; the final file is due ${outlet.preorder.file} days before, and the day can’t be moved after that.`}
            on={placing.preorder}
            onSet={(preorder) => set({ preorder }, `Change the pre-order${at}`)}
          />
        ) : null}
      </div>
      {asks('preview') ? (
        <Share
          label="Preview, % of the book"
          hint={
            outlet.preview
              ? `Empty: ${outlet.name} shows the first ${outlet.preview.own} % itself.`
              : undefined
          }
          most={asks('preview')?.most ?? 100}
          value={placing.preview}
          onCommit={(preview) => set({ preview }, `Change the preview${at}`)}
        />
      ) : null}
      {asks('copies') ? (
        <Share
          label="Copying allowed, % of the book"
          most={asks('copies')?.most ?? 100}
          value={placing.copies}
          onCommit={(copies) => set({ copies: copies ?? 0 }, `Change the copy limit${at}`)}
        />
      ) : null}
      <Variants outlet={outlet} facts={facts} />
      <dl className="grid grid-cols-[130px_1fr] gap-y-1 border-t border-rule pt-3 text-[13px]">
        <dt className="text-ink-soft">Review</dt>
        <dd>{reviewWords(outlet)}</dd>
        {outlet.assigns ? (
          <>
            <dt className="text-ink-soft">ISBN</dt>
            <dd>Assigned within {outlet.assigns.hours} hours where the book has none.</dd>
          </>
        ) : null}
        {adds ? (
          <>
            <dt className="text-ink-soft">Adds</dt>
            <dd>{adds.words} at the end.</dd>
          </>
        ) : null}
        {outlet.terms ? (
          <>
            <dt className="text-ink-soft">Terms</dt>
            <dd>{outlet.terms}</dd>
          </>
        ) : null}
      </dl>
    </div>
  );
}

export const isoDay = (d: Date): string => formatISO(d, { representation: 'date' });

function reviewWords({ review: { days } }: Outlet): string {
  if (days === 0) return 'On sale as soon as it is entered.';
  if (days < 0.5)
    return `About ${Math.max(1, Math.round(days * 24))} ${Math.round(days * 24) <= 1 ? 'hour' : 'hours'}.`;
  return days === 1 ? 'About a day.' : `About ${days} days.`;
}

function Share({
  label,
  hint,
  most,
  value,
  onCommit,
}: {
  label: string;
  hint?: string | undefined;
  most: number;
  value: number | null;
  onCommit: (value: number | null) => void;
}) {
  const [wrong, setWrong] = useState(false);
  return (
    <Field
      label={label}
      hint={wrong ? <span className="text-rubric">Enter a whole number from 0 to {most}.</span> : hint}
    >
      <span className="block w-24">
        <Text
          value={value === null ? '' : String(value)}
          maxLength={3}
          wrong={wrong}
          onCommit={(v) => {
            const right = v === '' || (/^\d{1,3}$/.test(v) && Number(v) <= most);
            setWrong(!right);
            if (right) onCommit(v === '' ? null : Number(v));
          }}
        />
      </span>
    </Field>
  );
}

const LISTS: readonly VariantField[] = ['keywords', 'subjects'];

function Variants({ outlet, facts: { book } }: { outlet: Outlet; facts: Facts }) {
  const at = useAtOutlet();
  const { variants } = placingAt(book, outlet.id);
  const fields = VARIANT_FIELDS.filter((f) => outlet.asks.some((a) => a.field === f));
  const change = (field: VariantField, value: string | string[] | null, label: string): void =>
    at(label, { type: 'set-variant', outlet: outlet.id, field, value });
  const called = (f: VariantField): string => OUTLET_FIELDS[f].toLowerCase();
  return (
    <section aria-label="Variants" className="space-y-3">
      <h2 className="column-head">Texts for this outlet alone</h2>
      {fields.every((f) => variants[f] === undefined) ? (
        <p className="text-[13px] text-ink-soft">{outlet.name} gets what the record says.</p>
      ) : null}
      {fields.map((f) => {
        const own = variants[f];
        if (own === undefined) return null;
        const text = typeof own === 'string' ? own : own.join(', ');
        const inRecord = book.record[f];
        const same = JSON.stringify(inRecord) === JSON.stringify(own);
        const label = `${OUTLET_FIELDS[f]} at ${outlet.name}`;
        const hint = same ? 'The same as in the record.' : 'The record has a different one.';
        const keep = (v: string): void => {
          const parts = v.split(',').map((k) => k.trim());
          change(
            f,
            LISTS.includes(f) ? parts.filter(Boolean) : v,
            `Change the ${called(f)} at ${outlet.name}`,
          );
        };
        return (
          <div key={f} data-variant={f}>
            {f === 'description' ? (
              <div>
                <span className="column-head mb-1 block">{label}</span>
                <MarkedText label={label} value={text} onCommit={keep} />
                <span className="mt-1 block text-[13px] text-ink-soft">{hint}</span>
              </div>
            ) : (
              <Field label={label} hint={hint}>
                <Text area={f === 'shortDescription' ? 2 : undefined} value={text} onCommit={keep} />
              </Field>
            )}
            <Button
              className="mt-1 h-7"
              onClick={() => change(f, null, `Use the record’s ${called(f)} at ${outlet.name}`)}
            >
              Use the record’s text
            </Button>
          </div>
        );
      })}
      <Select
        label="Use another text here"
        placeholder="Use another text here"
        value={null}
        choices={fields
          .filter((f) => variants[f] === undefined)
          .map((f) => ({ value: f, name: OUTLET_FIELDS[f] }))}
        onChoose={(f) => change(f, book.record[f], `Give ${outlet.name} its own ${called(f)}`)}
      />
    </section>
  );
}
