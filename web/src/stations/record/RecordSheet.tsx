'use client';
/** The bibliographic record on one sheet. Each field is kept when it is left; a wrong one says what is wrong with it. */
import { useMemo, type ReactNode } from 'react';
import { authorsLine } from '@pagina/core/record';
import { useFindings } from '@/title/findings';
import { stationOf } from '@/title/stations';
import { Field } from '@/ui/Field';
import { languageChoices } from '@/forms/languages';
import { Picker } from '@/ui/Picker';
import { SeverityMark } from '@/ui/SeverityMark';
import { Text } from '@/ui/Text';
import { Carry } from './Carry';
import { Clauses } from './Clauses';
import { Cover } from './Cover';
import { EditionsPart } from './EditionsPart';
import { FoundBy } from './FoundBy';
import { ImprintPart } from './ImprintPart';
import { People } from './People';
import { Related } from './Related';
import { Territories } from './Territories';
import { AskedBy, AskedByProvider } from './AskedBy';
import { useRecord } from './useRecord';

export function RecordSheet() {
  const { record, set, line } = useRecord();
  const findings = useFindings().filter((f) => stationOf(f) === 'record');
  const languages = useMemo(() => languageChoices(record.language), [record.language]);
  return (
    <AskedByProvider>
      <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Record">
        <div className="mx-auto grid max-w-[1180px] grid-cols-[minmax(0,1fr)_minmax(0,1fr)_300px] gap-x-10 gap-y-5 px-6 py-6">
          <div className="space-y-7">
            <Group title="The book">
              <div>
                <Field
                  label="Title"
                  hint={record.title.length > 150 ? 'Shops cut off very long titles.' : undefined}
                >
                  <Text {...line('title', 'title')} />
                </Field>
                <AskedBy field="title" />
              </div>
              <div>
                <Field label="Subtitle">
                  <Text {...line('subtitle', 'subtitle')} />
                </Field>
                <AskedBy field="subtitle" />
              </div>
              <div className="grid grid-cols-[minmax(0,1fr)_90px] gap-3">
                <div>
                  <Field label="Series">
                    <Text {...line('series', 'series')} />
                  </Field>
                  <AskedBy field="series" />
                </div>
                <div>
                  <Field label="Volume">
                    <Text {...line('volume', 'volume')} maxLength={8} placeholder="2" />
                  </Field>
                  <AskedBy field="volume" faultsOnly />
                </div>
              </div>
              <Field label="Collection" hint="A publisher’s own, without a number">
                <Text {...line('collection', 'collection')} />
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
                <AskedBy field="language" />
              </div>
            </Group>
            <Group title="Its people">
              <People />
            </Group>
            <Group title="Related titles">
              <Related />
            </Group>
          </div>
          <div className="space-y-7">
            <Group title="What it is found by">
              <FoundBy />
            </Group>
            <Group title="Rights">
              <Field
                label="Copyright holder"
                hint={
                  authorsLine(record) ? `${authorsLine(record)}, if left empty` : 'The author, if left empty'
                }
              >
                <Text {...line('copyrightHolder', 'copyright holder')} />
              </Field>
              <Territories />
              <Clauses />
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
                    <SeverityMark severity={f.severity} /> {f.message}{' '}
                    {f.remedy ? <span className="text-ink-soft">{f.remedy}</span> : null}
                  </li>
                ))}
              </ul>
            </section>
            <Group title="The imprint">
              <ImprintPart />
            </Group>
            <Group title="Editions">
              <EditionsPart />
            </Group>
            <Group title="Exchange">
              <Carry />
            </Group>
          </div>
        </div>
      </div>
    </AskedByProvider>
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
