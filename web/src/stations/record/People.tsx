'use client';
/** Who made the book: its authors with their lives, and all others by what they did. People of other titles are offered. */
import { toast } from 'sonner';
import { contributor, ROLE_NAMES, ROLES, sortNameOf, type Contributor } from '@pagina/core/record';
import type { Person } from '@pagina/data';
import type { Picture } from '@pagina/core/book';
import { PictureField } from '@/forms/PictureField';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { AskedBy } from './AskedBy';
import { Button } from '@/ui/Button';
import { usePeople } from './usePeople';

/** Others than authors. */
const OTHERS = ROLES.filter((r) => r !== 'author').map((r) => ({ value: r, name: ROLE_NAMES[r] }));

export function People() {
  const { book } = useBook();
  const { session } = useTitle();
  const { people, load } = usePeople();
  const { contributors } = book.record;
  const authors = contributors.filter((c) => c.role === 'author');
  const others = contributors.filter((c) => c.role !== 'author');
  const keep = (list: Contributor[], label: string, pictures: readonly Picture[] = []): void =>
    void session.change({
      type: 'group',
      label,
      changes: [
        ...(pictures.length > 0 ? [{ type: 'add-pictures' as const, pictures: [...pictures] }] : []),
        { type: 'set-record', fields: { contributors: list } },
      ],
    });
  const setAuthors = (list: Contributor[], pictures?: readonly Picture[]): void =>
    keep([...list, ...others], 'Change the authors', pictures);
  const names = people.map((p) => p.name).filter((n) => !contributors.some((c) => c.name === n));
  /** A name under which somebody is known brings how they are sorted, their life and their portrait. */
  const named = (c: Contributor, name: string): { person: Contributor; pictures: Picture[] } => {
    const known = people.find((p) => p.name === name);
    const brought = c.portrait === null && known?.portrait ? known.portrait : null;
    const there = brought && book.pictures.find((p) => p.sha256 === brought.sha256);
    const picture = brought && (there ?? { ...brought, id: `pic-${shortId()}` });
    return {
      person: {
        ...c,
        name,
        sortName: c.sortName || (known?.sortName ?? ''),
        life: c.life || (known?.life ?? ''),
        portrait: c.portrait ?? picture?.id ?? null,
      },
      pictures: picture && !there ? [picture] : [],
    };
  };
  const setOthers = (list: Contributor[]): void => keep([...authors, ...list], 'Change the contributors');
  const put = (list: readonly Contributor[], i: number, c: Contributor): Contributor[] => [
    ...list.slice(0, i),
    ...(c.name ? [c] : []),
    ...list.slice(i + 1),
  ];
  return (
    <>
      {[...authors, contributor('', 'author')].map((a, i) => (
        <Field
          key={i}
          label={i === 0 ? 'Author' : i === authors.length ? 'Another author' : `Author ${i + 1}`}
          hint={
            i === authors.length && i > 0 ? 'A pen name is written as it stands on the cover.' : undefined
          }
        >
          <Text
            value={a.name}
            suggestions={names}
            onCommit={(name) => {
              const { person, pictures } = named(a, name);
              setAuthors(put(authors, i, person), pictures);
            }}
          />
        </Field>
      ))}
      <AskedBy field="authors" />
      {authors.map((a, i) => (
        <div key={`more${i}`} className="space-y-3">
          <Field label={`Sort name of ${a.name}`} hint="As lists have it: the family name first">
            <Text
              value={a.sortName}
              placeholder={sortNameOf({ ...a, sortName: '' })}
              onCommit={(sortName) => setAuthors(put(authors, i, { ...a, sortName }))}
            />
          </Field>
          <Field label={`Biography of ${a.name}`} hint="For the page about the author">
            <Text area={3} value={a.life} onCommit={(life) => setAuthors(put(authors, i, { ...a, life }))} />
          </Field>
          <PictureField
            label={`Portrait of ${a.name}`}
            step="Change a portrait"
            value={a.portrait}
            onChoose={(portrait) => ({
              type: 'set-record',
              fields: { contributors: [...put(authors, i, { ...a, portrait }), ...others] },
            })}
          />
          {a.portrait === null && people.find((p) => p.name === a.name)?.portrait ? (
            <Button
              className="h-7"
              onClick={() => {
                const { person, pictures } = named(a, a.name);
                setAuthors(put(authors, i, person), pictures);
              }}
            >
              Use the portrait from another title
            </Button>
          ) : null}
          <ElsewhereToo of={a} people={people} onShared={load} />
        </div>
      ))}
      <div role="group" aria-label="Contributors" className="space-y-2">
        <span className="column-head block">Contributors</span>
        {[...others, contributor('', 'editor')].map((c, i) => (
          <div key={i} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
            <Text
              aria-label={
                i === others.length ? 'Name of another contributor' : `Name of contributor ${i + 1}`
              }
              placeholder={i === others.length ? 'Another name' : ''}
              value={c.name}
              suggestions={names}
              onCommit={(name) => setOthers(put(others, i, { ...c, name }))}
            />
            {i === others.length ? (
              <span className="self-center text-[13px] text-ink-soft">Then choose what they did.</span>
            ) : (
              <Select
                label={`What ${c.name} did`}
                value={c.role}
                choices={OTHERS}
                onChoose={(role) => setOthers(put(others, i, { ...c, role }))}
              />
            )}
          </div>
        ))}
      </div>
    </>
  );
}

/** Offers to tell a life alike in the other titles that name the person. */
function ElsewhereToo({
  of: { name, life, portrait },
  people,
  onShared,
}: {
  of: Contributor;
  people: readonly Person[];
  onShared: () => Promise<void>;
}) {
  const { session } = useTitle();
  const { book } = useBook();
  const known = people.find((p) => p.name === name);
  const others = known?.titles.filter((t) => t.id !== session.id) ?? [];
  const shown = book.pictures.find((p) => p.id === portrait)?.sha256 ?? null;
  const differs = others.some((t) => t.life !== life || (shown !== null && t.portrait !== shown));
  if (life === '' || !differs) return null;
  const where = others.length === 1 ? 'the other title' : `the ${others.length} other titles`;
  const share = async (): Promise<void> => {
    await session.flush();
    const r = await fetch('/api/people', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ title: session.id, name }),
    }).catch(() => null);
    if (!r?.ok) toast('Pagina can’t be reached. Nothing was changed.');
    await onShared();
  };
  return (
    <Button className="h-7" onClick={() => void share()}>
      Use this biography{portrait ? ' and portrait' : ''} in {where} by {name} too
    </Button>
  );
}
