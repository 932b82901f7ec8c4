'use client';
/** The copying sheet: what is to be entered in an outlet's own pages, in its order, each copied by one press and ticked off. */
import { toast } from 'sonner';
import Link from 'next/link';
import { bareIsbn, isbnFault, ISBN_FAULTS } from '@pagina/core/record';
import { HAND_STATES, placingAt, type Edition, type Placing } from '@pagina/core/book';
import {
  progressOf,
  sheetOf,
  type Facts,
  type Outlet,
  type OutletField,
  type SheetRow,
} from '@pagina/core/outlets';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { MARKS } from './Demands';
import { useAtOutlet, usePlacing } from './useOutlets';

/** What entering a changed field costs in time, once the book is there; '' where nothing is known of it. */
function costOf({ review: { days, after } }: Outlet, field: OutletField): string {
  if (days === 0) return '';
  return after.includes(field)
    ? `; the outlet looks at the book again, for about ${days < 1 ? `${Math.max(1, Math.round(days * 24))} hours` : days === 1 ? 'a day' : `${days} days`}`
    : '; no new review';
}

export function CopyingSheet({ outlet, edition, facts }: { outlet: Outlet; edition: Edition; facts: Facts }) {
  const { book } = useBook();
  const set = usePlacing(outlet.id);
  const placing = placingAt(book, outlet.id);
  const rows = sheetOf(outlet, facts);
  const { done, of } = progressOf(rows);
  const change = useAtOutlet();
  const tick = ({ field, digest, called }: SheetRow, on: boolean): void =>
    change(
      `${on ? 'Tick off' : 'Untick'} ${called} at ${outlet.name}`,
      { type: 'set-tick', outlet: outlet.id, field, digest: on ? digest : null },
      ...(on && !placing.chosen
        ? [{ type: 'set-placing' as const, outlet: outlet.id, fields: { chosen: true } }]
        : []),
    );
  return (
    <>
      <p className="mb-2 text-[13px] text-ink-soft" role="status">
        {done === of ? `✓ All ${of} entered.` : `${done} of ${of} entered.`} The fields are in {outlet.name}’s
        own order.
      </p>
      <ol aria-label={`Copying sheet of ${outlet.name}`}>
        {rows.map((row, i) => (
          <li
            key={row.field}
            data-row={row.field}
            className={`grid grid-cols-[26px_minmax(0,1fr)] gap-x-1 border-t border-rule py-1.5 ${row.later ? 'text-ink-soft' : ''}`}
          >
            <span className="pt-0.5">
              {row.texts.length > 0 || row.files.length > 0 ? (
                <Checkbox
                  label={<span className="sr-only">{`${row.called} is entered`}</span>}
                  on={row.done === 'yes'}
                  onSet={(on) => tick(row, on)}
                />
              ) : null}
            </span>
            <div className="min-w-0">
              <p className="text-[13px]">
                {row.called}
                {row.called === row.name ? null : <span className="text-ink-soft"> · {row.name}</span>}
                {row.done === 'changed since' ? (
                  <>
                    <span className="text-ochre"> · ◆ changed since it was entered</span>
                    <span className="text-ink-soft">{costOf(outlet, row.field)}</span>
                  </>
                ) : null}
                {row.later && !rows[i - 1]?.later ? (
                  <span className="text-ink-soft"> · opens when what comes before is complete</span>
                ) : null}
              </p>
              {row.texts.map((text, n) => (
                <Copied
                  key={n}
                  text={text}
                  called={row.texts.length > 1 ? `${row.called}, ${n + 1}` : row.called}
                />
              ))}
              {row.files.map((f) => (
                <File key={f.name ?? ''} file={f} outlet={outlet} />
              ))}
              {row.state === 'not met' ? (
                <p className="text-[13px] text-rubric">
                  <span aria-hidden>{MARKS['not met'][0]}</span> {row.why}
                </p>
              ) : row.texts.length === 0 && row.files.length === 0 ? (
                <p className="text-[13px] text-ink-soft">Leave it empty{row.note ? `: ${row.note}` : ''}.</p>
              ) : null}
            </div>
          </li>
        ))}
      </ol>
      <EnteredBack outlet={outlet} edition={edition} placing={placing} set={set} />
    </>
  );
}

/** A text and the button that copies it. */
function Copied({ text, called }: { text: string; called: string }) {
  const copy = (): void =>
    void navigator.clipboard.writeText(text).then(
      () => toast(`Copied: ${called}`),
      () => toast('The browser doesn’t allow copying here. Select the text and copy it.'),
    );
  return (
    <div className="flex items-start gap-2 py-0.5">
      <span
        className="max-h-24 min-w-0 flex-1 overflow-auto text-[14px] break-words whitespace-pre-wrap"
        tabIndex={text.length > 300 ? 0 : undefined}
      >
        {text}
      </span>
      <Button className="h-7 shrink-0" aria-label={`Copy ${called}`} onClick={copy}>
        Copy
      </Button>
    </div>
  );
}

function File({ file: { product, name }, outlet }: { file: SheetRow['files'][number]; outlet: Outlet }) {
  const { session } = useTitle();
  const { products } = useBook();
  if (!name) return null;
  const asked = encodeURIComponent(name);
  if (product === '')
    return (
      <a
        className="text-spruce underline"
        download={name}
        href={`/api/titles/${session.id}/outlets/cover?outlet=${outlet.id}&name=${asked}`}
      >
        {name}
        <span className="text-[13px] text-ink-soft">
          {' '}
          {Math.round((outlet.cover.height || 2_400) * outlet.cover.ratio)} × {outlet.cover.height || 2_400}{' '}
          pixels
        </span>
      </a>
    );
  const file = products.find((p) => p.edition === product);
  return file ? (
    <a className="text-spruce underline" download={name} href={`/api/files/${file.sha256}?name=${asked}`}>
      {name}
    </a>
  ) : (
    <Link className="text-[13px] underline" href={`/titles/${session.id}/editions`}>
      Make it in Editions
    </Link>
  );
}

/** What the outlet answered: its number, where the book is sold, the ISBN that it gave, and where it stands. */
function EnteredBack({
  outlet,
  edition,
  placing,
  set,
}: {
  outlet: Outlet;
  edition: Edition;
  placing: Placing;
  set: (fields: Partial<Placing>, label: string) => void;
}) {
  const { session } = useTitle();
  const linkFault = placing.link !== '' && !/^https?:\/\/[^\s/]+/.test(placing.link);
  const fault = placing.assigned ? isbnFault(placing.assigned) : null;
  const own = bareIsbn(edition.isbn);
  const differs =
    placing.assigned !== '' && fault === null && own !== '' && bareIsbn(placing.assigned) !== own;
  const take = (): void =>
    void session.change({
      type: 'group',
      label: `Take over the ISBN that ${outlet.name} assigned`,
      changes: [{ type: 'set-edition', id: edition.id, fields: { isbn: bareIsbn(placing.assigned) } }],
    });
  return (
    <section aria-label="Entered back" className="mt-4 space-y-3 border-t border-edge pt-3">
      <h2 className="column-head">{outlet.name}’s answer</h2>
      <div className="grid grid-cols-2 gap-3">
        <div>
          <span className="column-head mb-1 block">Status</span>
          <Select
            label={`Status at ${outlet.name}`}
            className="w-full"
            value={placing.state}
            choices={HAND_STATES.map((s) => ({ value: s, name: s === 'waiting' ? 'not entered' : s }))}
            onChoose={(state) =>
              set(
                { state, ...(state === 'waiting' ? {} : { chosen: true }) },
                `Change the status at ${outlet.name}`,
              )
            }
          />
        </div>
        <Field label={`Number at ${outlet.name}`}>
          <Text
            value={placing.number}
            maxLength={200}
            onCommit={(number) => set({ number }, `Enter the number at ${outlet.name}`)}
          />
        </Field>
      </div>
      <Field
        label={`Link to the book at ${outlet.name}`}
        hint={linkFault ? <span className="text-rubric">An address begins with https://.</span> : undefined}
      >
        <Text
          value={placing.link}
          wrong={linkFault}
          maxLength={2_000}
          onCommit={(link) => set({ link }, `Enter the link to ${outlet.name}`)}
        />
      </Field>
      {outlet.assigns ? (
        <Field
          label={`ISBN that ${outlet.name} assigned`}
          hint={
            fault ? (
              <span className="text-rubric">{ISBN_FAULTS[fault]}</span>
            ) : differs ? (
              <span className="text-rubric">
                The edition has {edition.isbn}. One edition has one number: ask {outlet.name} to use yours.
              </span>
            ) : undefined
          }
        >
          <Text
            value={placing.assigned}
            maxLength={20}
            wrong={fault !== null || differs}
            onCommit={(assigned) => set({ assigned }, `Enter the ISBN of ${outlet.name}`)}
          />
        </Field>
      ) : null}
      {outlet.assigns && placing.assigned && fault === null && own === '' ? (
        <p className="text-[13px]">
          <Button className="h-7" onClick={take}>
            Use it for the {edition.name.toLowerCase()}
          </Button>{' '}
          <span className="text-ink-soft">
            It will appear on the copyright page, so make the ebook again and check it.
          </span>
        </p>
      ) : null}
    </section>
  );
}
