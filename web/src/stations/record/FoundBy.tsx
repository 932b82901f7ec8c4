'use client';
/** What readers and shops find the book by: description, keywords, subjects, audience. */
import { useMemo, useState } from 'react';
import { AUDIENCE_NAMES, isSubjectCode, SUBJECTS, subjectOf, type Audience } from '@pagina/core/record';
import { Checkbox } from '@/ui/Checkbox';
import { Field } from '@/ui/Field';
import { Picker } from '@/ui/Picker';
import { choicesOf, Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { Chosen } from './Chosen';
import { AskedBy } from './AskedBy';
import { Description } from './Description';
import { useRecord } from './useRecord';

const characters = (text: string): string =>
  text.length === 1 ? '1 character' : `${text.length.toLocaleString('en-GB')} characters`;
const inParts = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((k) => k.trim())
      .filter(Boolean),
  ),
];

export function FoundBy() {
  const { record, set, line } = useRecord();
  const { keywords, audience, adult, publicDomain } = record;
  const words = keywords.reduce((n, k) => n + k.split(/\s+/).length, 0);
  return (
    <>
      <Description />
      <div>
        <Field
          label="In a few words"
          hint={`For lists, and shops that take little; ${characters(record.shortDescription)}`}
        >
          <Text area={2} {...line('shortDescription', 'short description')} />
        </Field>
        <AskedBy field="shortDescription" />
      </div>
      <div>
        <Field
          label="Keywords"
          hint={`Separated by commas; ${keywords.length === 1 ? '1 keyword' : `${keywords.length} keywords`}, ${words === 1 ? '1 word' : `${words} words`}`}
        >
          <Text
            value={keywords.join(', ')}
            onCommit={(v) => set({ keywords: inParts(v) }, 'Change the keywords')}
          />
        </Field>
        <AskedBy field="keywords" />
      </div>
      <Subjects />
      <div className="grid grid-cols-[minmax(0,1fr)_76px_76px] items-end gap-2">
        <div>
          <span className="column-head mb-1 block">Audience</span>
          <Select
            label="Audience"
            className="w-full"
            value={audience}
            choices={choicesOf<Audience>(AUDIENCE_NAMES)}
            onChoose={(v) => set({ audience: v }, 'Change the audience')}
          />
        </div>
        <Age which="from" label="From age" />
        <Age which="to" label="To age" />
      </div>
      <AskedBy field="audience" />
      <Checkbox
        label="Adult content"
        on={adult}
        onSet={(on) => set({ adult: on }, 'Change the content')}
        hint="Some shops refuse it, others show it to adults alone."
      />
      <AskedBy field="adult" />
      <Checkbox
        label="In the public domain"
        on={publicDomain}
        onSet={(on) => set({ publicDomain: on }, 'Change the rights')}
        hint="The text belongs to nobody any more. Shops ask, and pay less for it."
      />
    </>
  );
}

function Age({ which, label }: { which: 'from' | 'to'; label: string }) {
  const { record, set } = useRecord();
  const [wrong, setWrong] = useState(false);
  const now = record.ages[which];
  return (
    <Field label={label}>
      <Text
        value={now === null ? '' : String(now)}
        maxLength={2}
        wrong={wrong}
        onCommit={(v) => {
          const right = v === '' || /^\d{1,2}$/.test(v);
          setWrong(!right);
          if (right)
            set({ ages: { ...record.ages, [which]: v === '' ? null : Number(v) } }, 'Change the ages');
        }}
      />
    </Field>
  );
}

function shelfOf(code: string): string {
  const subject = subjectOf(code);
  if (!subject) return 'not in this list';
  return subject.code === code ? subject.name : `within ${subject.name}`;
}

function Subjects() {
  const { record, set } = useRecord();
  const { subjects } = record;
  const [wrong, setWrong] = useState('');
  /** The box for a code is emptied by a code that was kept, and by nothing else that happens meanwhile. */
  const [entered, setEntered] = useState(0);
  const keep = (codes: string[]): void => set({ subjects: codes }, 'Change the subjects');
  const choices = useMemo(
    () =>
      SUBJECTS.filter((s) => !subjects.includes(s.code)).map((s) => ({
        value: s.code,
        name: `${s.code}  ${s.name}`,
      })),
    [subjects],
  );
  return (
    <div role="group" aria-label="Subjects">
      <span className="column-head mb-1 block">Subjects, the main one first</span>
      <Chosen
        of={subjects.map((code) => ({
          key: code,
          name: code,
          more: shelfOf(code),
        }))}
        onKeep={keep}
      />
      <div className="grid grid-cols-[minmax(0,1fr)_110px] gap-2">
        <Picker
          label="Add a subject"
          placeholder="Add a subject"
          value={null}
          choices={choices}
          onChoose={(code) => keep([...subjects, code])}
        />
        <Text
          key={entered}
          aria-label="Code of a subject"
          placeholder="or its code"
          value=""
          wrong={wrong !== ''}
          onCommit={(v) => {
            const code = v.toUpperCase();
            const right = isSubjectCode(code) && subjectOf(code) !== null;
            setWrong(right || v === '' ? '' : `“${v}” isn’t a code of Thema: they are like FV or YFC.`);
            if (!right) return;
            setEntered((n) => n + 1);
            if (!subjects.includes(code)) keep([...subjects, code]);
          }}
        />
      </div>
      <span className={`mt-1 block text-[13px] ${wrong ? 'text-rubric' : 'text-ink-soft'}`}>
        {wrong || 'Codes of Thema, the book trade’s subject scheme'}
      </span>
      <AskedBy field="subjects" />
    </div>
  );
}
