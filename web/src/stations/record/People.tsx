'use client';
/** Who made the book: its authors with their lives, and all others by what they did. */
import { ROLE_NAMES, ROLES, sortNameOf, type Contributor, type Role } from '@pagina/core/record';
import { useBook } from '@/title/context';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { AskedBy } from './AskedBy';
import { useRecord } from './useRecord';

const fresh = (role: Role): Contributor => ({ name: '', role, sortName: '', life: '' });
/** Others than authors. */
const OTHERS = ROLES.filter((r) => r !== 'author').map((r) => ({ value: r, name: ROLE_NAMES[r] }));

export function People() {
  const { book } = useBook();
  const { set } = useRecord();
  const { contributors } = book.record;
  const authors = contributors.filter((c) => c.role === 'author');
  const others = contributors.filter((c) => c.role !== 'author');
  const keep = (people: Contributor[], label: string): void => set({ contributors: people }, label);
  const setAuthors = (list: Contributor[]): void => keep([...list, ...others], 'Change the authors');
  const setOthers = (list: Contributor[]): void => keep([...authors, ...list], 'Change the contributors');
  const put = (list: readonly Contributor[], i: number, c: Contributor): Contributor[] => [
    ...list.slice(0, i),
    ...(c.name ? [c] : []),
    ...list.slice(i + 1),
  ];
  return (
    <>
      {[...authors, fresh('author')].map((a, i) => (
        <Field
          key={i}
          label={i === 0 ? 'Author' : i === authors.length ? 'Another author' : `Author ${i + 1}`}
          hint={
            i === authors.length && i > 0 ? 'A pen name is written as it stands on the cover.' : undefined
          }
        >
          <Text value={a.name} onCommit={(name) => setAuthors(put(authors, i, { ...a, name }))} />
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
        </div>
      ))}
      <div role="group" aria-label="Contributors" className="space-y-2">
        <span className="column-head block">Contributors</span>
        {[...others, fresh('editor')].map((c, i) => (
          <div key={i} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
            <Text
              aria-label={
                i === others.length ? 'Name of another contributor' : `Name of contributor ${i + 1}`
              }
              placeholder={i === others.length ? 'Another name' : ''}
              value={c.name}
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
