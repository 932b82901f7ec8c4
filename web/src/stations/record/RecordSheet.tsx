'use client';
/** The bibliographic record on one sheet. Each field is kept when it is left; a wrong one says what is wrong with it. */
import { inSentence } from '@pagina/core/base';
import { useMemo, type ReactNode } from 'react';
import { isPrint, type Edition, type EditionFields } from '@pagina/core/book';
import {
  bareIsbn,
  isbn10to13,
  isbnFault,
  ISBN_FAULTS,
  type BookRecord,
  type Contributor,
} from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';
import { useFindings } from '@/title/findings';
import { stationOf } from '@/title/stations';
import { Field } from '@/ui/Field';
import { languageChoices } from '@/forms/languages';
import { Picker } from '@/ui/Picker';
import { SeverityMark } from '@/ui/SeverityMark';
import { Text } from '@/ui/Text';
import { MoneyField } from '@/ui/MoneyField';
import { TrimField } from '@/ui/TrimField';
import { Clauses } from './Clauses';
import { Cover } from './Cover';

/** Fields of one line, as the log of changes calls them. */
const FIELDS = {
  title: 'title',
  subtitle: 'subtitle',
  imprint: 'imprint',
  place: 'place',
  year: 'year',
  copyrightHolder: 'copyright holder',
  editionStatement: 'edition statement',
};

export function RecordSheet() {
  const { session } = useTitle();
  const { book } = useBook();
  const findings = useFindings().filter((f) => stationOf(f) === 'record');
  const { record } = book;
  const set = (fields: Partial<BookRecord>, label = 'Change the record'): void =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-record', fields }] });
  const field = (name: keyof typeof FIELDS) => ({
    value: record[name],
    onCommit: (v: string) => set({ [name]: v }, `Change the ${FIELDS[name]}`),
  });
  const authors = record.contributors.filter((c) => c.role === 'author');
  const setAuthors = (list: Contributor[]): void =>
    set(
      { contributors: [...list, ...record.contributors.filter((c) => c.role !== 'author')] },
      'Change the authors',
    );
  const setEdition = (e: Edition, fields: EditionFields): void =>
    void session.change({
      type: 'group',
      label: `Change the ${inSentence(e.name)}`,
      changes: [{ type: 'set-edition', id: e.id, fields }],
    });
  const languages = useMemo(() => languageChoices(record.language), [record.language]);
  const yearIsRight = /^(?:\d{4})?$/.test(record.year);
  return (
    <div className="h-full overflow-auto">
      <div className="mx-auto grid max-w-[1180px] grid-cols-[minmax(0,1fr)_minmax(0,1fr)_300px] gap-x-10 gap-y-5 px-6 py-6">
        <Group title="The book">
          <Field
            label="Title"
            hint={record.title.length > 150 ? 'Shops cut off very long titles.' : undefined}
          >
            <Text {...field('title')} />
          </Field>
          <Field label="Subtitle">
            <Text {...field('subtitle')} />
          </Field>
          {[...authors, { name: '', role: 'author' as const, sortName: '', life: '' }].map((a, i) => (
            <Field
              key={i}
              label={i === 0 ? 'Author' : i === authors.length ? 'Another author' : `Author ${i + 1}`}
            >
              <Text
                value={a.name}
                onCommit={(name) =>
                  setAuthors([
                    ...authors.slice(0, i),
                    ...(name ? [{ ...a, name }] : []),
                    ...authors.slice(i + 1),
                  ])
                }
              />
            </Field>
          ))}
          {authors.map((a, i) => (
            <Field key={`life${i}`} label={`Biography of ${a.name}`} hint="For the page about the author">
              <Text
                area={3}
                value={a.life}
                onCommit={(life) => setAuthors(authors.map((x, k) => (k === i ? { ...x, life } : x)))}
              />
            </Field>
          ))}
          <Field label="Other books by the author" hint="One title per line, for the “Also by” page">
            <Text
              area={3}
              value={record.alsoBy.join('\n')}
              onCommit={(v) =>
                set(
                  {
                    alsoBy: v
                      .split('\n')
                      .map((t) => t.trim())
                      .filter(Boolean),
                  },
                  'Change the other books',
                )
              }
            />
          </Field>
          <div>
            <span className="column-head mb-1 block">Language</span>
            <Picker
              label="Language"
              className="w-full"
              placeholder="Choose a language"
              value={record.language}
              choices={languages}
              onChoose={(language) => set({ language }, 'Change the language')}
            />
          </div>
          <Field label="Description" hint={`${record.description.length.toLocaleString('en-GB')} characters`}>
            <Text
              area
              value={record.description}
              onCommit={(description) => set({ description }, 'Change the description')}
            />
          </Field>
          <Field label="Keywords" hint={`${record.keywords.length} keywords, separated by commas`}>
            <Text
              value={record.keywords.join(', ')}
              onCommit={(v) =>
                set(
                  {
                    keywords: [
                      ...new Set(
                        v
                          .split(',')
                          .map((k) => k.trim())
                          .filter(Boolean),
                      ),
                    ],
                  },
                  'Change the keywords',
                )
              }
            />
          </Field>
        </Group>
        <div className="space-y-7">
          <Group title="The imprint">
            <Field label="Imprint">
              <Text {...field('imprint')} />
            </Field>
            <div className="grid grid-cols-[1fr_90px] gap-3">
              <Field label="Place">
                <Text {...field('place')} />
              </Field>
              <Field label="Year" hint={yearIsRight ? undefined : 'Use four digits, such as 2026.'}>
                <Text {...field('year')} maxLength={4} wrong={!yearIsRight} />
              </Field>
            </div>
            <Field
              label="Edition statement"
              hint="As printed, such as “Second edition, revised”. Leave it empty for a first edition."
            >
              <Text {...field('editionStatement')} maxLength={120} />
            </Field>
            <Field label="Copyright holder" hint="The author, if left empty">
              <Text {...field('copyrightHolder')} />
            </Field>
            <Clauses />
          </Group>
          <Group title="Editions">
            {book.editions.map((e) => {
              const fault = e.isbn ? isbnFault(e.isbn) : null;
              return (
                <div key={e.id} className="space-y-2 border-t border-rule pt-2 first-of-type:border-0">
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
                      onCommit={(isbn) => setEdition(e, { isbn: isbn10to13(isbn) ?? isbn })}
                      placeholder="978-…"
                    />
                  </Field>
                  {isPrint(e) ? (
                    <MoneyField
                      label={`List price of the ${inSentence(e.name)}`}
                      price={e.price}
                      onCommit={(price) => setEdition(e, { price })}
                    />
                  ) : null}
                  {isPrint(e) ? (
                    <div>
                      <span className="column-head mb-1 block">Trim</span>
                      <TrimField trim={e.trim} onTrim={(trim) => setEdition(e, { trim })} />
                    </div>
                  ) : null}
                </div>
              );
            })}
            <MoneyField
              label="List price of the ebook"
              price={record.price}
              onCommit={(price) => set({ price }, 'Change the price')}
            />
          </Group>
        </div>
        <div className="space-y-7">
          <Cover />
          <section>
            <h2 className="column-head mb-2">Agreement</h2>
            {findings.length === 0 ? (
              <p className="text-ink-soft">Record, title page and copyright page agree.</p>
            ) : null}
            <ul className="space-y-2">
              {findings.map((f, i) => (
                <li key={i}>
                  <SeverityMark severity={f.severity} /> {f.message}
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="space-y-3">
      <h2 className="border-b border-rule pb-1 font-serif text-[18px]">{title}</h2>
      {children}
    </section>
  );
}
