'use client';
/** Titles that belong with this one. Each is named in the other’s record too, and those by the author make the page “Also by”. */
import {
  INVERSE,
  namedAs,
  RELATION_NAMES,
  RELATIONS,
  type RelatedTitle,
  type Relation,
} from '@pagina/core/record';
import type { Relative } from '@pagina/data';
import { useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Picker } from '@/ui/Picker';
import { choicesOf, Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { useRelatives, type Relatives } from './useRelatives';
import { useRecord } from './useRecord';

const called = (t: { name: string }): string => t.name || 'Untitled';

export function Related() {
  const { session } = useTitle();
  const { record, set } = useRecord();
  const relatives = useRelatives();
  const { all, relate, tellThere } = relatives;
  const { related } = record;
  const others = (all ?? []).filter((t) => !related.some((r) => r.title === t.id));
  const authors = record.contributors.filter((c) => c.role === 'author').map((c) => c.name);
  /** Titles that name this one, which doesn't name them. */
  const naming = others.flatMap((t) => {
    const entry = t.related.find((r) => r.title === session.id);
    return entry ? [{ other: t, relation: INVERSE[entry.relation] }] : [];
  });
  const byAuthor = others.filter(
    (t) => t.authors.some((a) => authors.includes(a)) && !naming.some((n) => n.other.id === t.id),
  );
  return (
    <>
      {related.length > 0 ? (
        <ul aria-label="Related titles">
          {related.map((r) => (
            <Row key={r.title || r.name} related={r} relatives={relatives} />
          ))}
        </ul>
      ) : null}
      {naming.map(({ other, relation }) => (
        <div key={other.id} className="text-[13px]" data-naming={other.id}>
          “{called(other)}” names this book among its related titles.
          <span className="mt-1 flex flex-wrap gap-2">
            <Button className="h-7" onClick={() => void relate([other], relation)}>
              Add it here
            </Button>
            <Button className="h-7" onClick={() => void tellThere(other.id, null)}>
              Remove it there
            </Button>
          </span>
        </div>
      ))}
      {byAuthor.length > 0 ? (
        <Button className="h-7" onClick={() => void relate(byAuthor, 'same-author')}>
          {byAuthor[0] && byAuthor.length === 1
            ? `Add “${called(byAuthor[0])}”, by the same author`
            : `Add ${byAuthor.length} other titles by the same author`}
        </Button>
      ) : null}
      {all !== null && all.length === 0 && related.length === 0 ? (
        <p className="text-[13px] text-ink-soft">There is no other title yet.</p>
      ) : null}
      {others.length > 0 ? (
        <Picker
          label="Add a related title"
          placeholder="Add a related title"
          className="w-full"
          value={null}
          choices={others.map((t) => ({ value: t.id, name: [called(t), ...t.authors].join(', ') }))}
          onChoose={(id) =>
            void relate(
              others.filter((t) => t.id === id),
              others.some((t) => t.id === id && t.authors.some((a) => authors.includes(a)))
                ? 'same-author'
                : 'similar',
            )
          }
        />
      ) : null}
      <Field
        label="Other books by the author"
        hint="One title per line. The page “Also by” lists them after the related titles by the author."
      >
        <Text
          area={2}
          value={record.alsoBy.join('\n')}
          onCommit={(v) => {
            const alsoBy = v
              .split('\n')
              .map((t) => t.trim())
              .filter(Boolean);
            set({ alsoBy }, 'Change the other books');
          }}
        />
      </Field>
    </>
  );
}

function Row({ related: r, relatives }: { related: RelatedTitle; relatives: Relatives }) {
  const { session } = useTitle();
  const { record, set } = useRecord();
  const { all, relate, tellThere } = relatives;
  const there: Relative | undefined = all?.find((t) => t.id === r.title);
  const back = there?.related.find((x) => x.title === session.id);
  const asThere = there && namedAs(there, r.relation);
  const differs = asThere && JSON.stringify(asThere) !== JSON.stringify({ ...asThere, ...r });
  const alone = (next: RelatedTitle[]): void => set({ related: next }, 'Change the related titles');
  return (
    <li className="space-y-1 border-b border-rule py-1.5" data-related={r.title}>
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 truncate font-serif text-[15px]">{called(r)}</span>
        <Button
          kind="quiet"
          className="h-7 px-2"
          aria-label={`Remove ${called(r)}`}
          onClick={() =>
            there ? void relate([there], null) : alone(record.related.filter((x) => x.title !== r.title))
          }
        >
          Remove
        </Button>
      </div>
      <Select
        label={`What ${called(r)} is`}
        className="w-full"
        value={r.relation}
        choices={choicesOf<Relation>(RELATION_NAMES).filter((c) => RELATIONS.includes(c.value))}
        onChoose={(relation) =>
          there
            ? void relate([there], relation)
            : alone(record.related.map((x) => (x.title === r.title ? { ...x, relation } : x)))
        }
      />
      {all !== null && !there ? (
        <p className="text-[13px] text-ink-soft">This title is no longer among yours.</p>
      ) : null}
      {there && back?.relation !== INVERSE[r.relation] ? (
        <p className="flex items-center gap-2 text-[13px] text-ochre">
          <span className="min-w-0 flex-1">
            {back ? 'It names this book otherwise.' : 'It doesn’t name this book.'}
          </span>
          <Button className="h-7" onClick={() => void tellThere(r.title, r.relation)}>
            Name it there
          </Button>
        </p>
      ) : null}
      {there && differs ? (
        <p className="flex items-center gap-2 text-[13px] text-ochre">
          <span className="min-w-0 flex-1">
            {there.name === r.name ? 'Its ISBNs have changed.' : `It is now called “${called(there)}”.`}
          </span>
          <Button className="h-7" onClick={() => void relate([there], r.relation)}>
            Update
          </Button>
        </p>
      ) : null}
    </li>
  );
}
