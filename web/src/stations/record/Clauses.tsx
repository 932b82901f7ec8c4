'use client';
/** What the copyright page says beyond its facts. The page keeps up with what is chosen here. */
import { CLAUSE_NAMES, CLAUSES, RIVALS, type Clause } from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';
import { Checkbox } from '@/ui/Checkbox';
import { Field } from '@/ui/Field';
import { Text } from '@/ui/Text';

export function Clauses() {
  const { session } = useTitle();
  const { record } = useBook().book;
  const set = (fields: Partial<typeof record>): void =>
    void session.change({
      type: 'group',
      label: 'Change the copyright page',
      changes: [{ type: 'set-record', fields }],
    });
  const toggle = (c: Clause): void => {
    const rivals = RIVALS.find((r) => r.includes(c)) ?? [];
    set({
      clauses: record.clauses.includes(c)
        ? record.clauses.filter((x) => x !== c)
        : [...record.clauses.filter((x) => !rivals.includes(x)), c],
    });
  };
  return (
    <fieldset className="space-y-1">
      <legend className="column-head mb-1">The copyright page says</legend>
      {CLAUSES.map((c) => (
        <Checkbox key={c} label={CLAUSE_NAMES[c]} on={record.clauses.includes(c)} onSet={() => toggle(c)} />
      ))}
      <Field label="And in your own words">
        <Text area={2} value={record.ownClause} onCommit={(ownClause) => set({ ownClause })} />
      </Field>
    </fieldset>
  );
}
