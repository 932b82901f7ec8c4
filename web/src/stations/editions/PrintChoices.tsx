'use client';
/** What the printer is to know: the binding, the paper, the inks, and the standard that the file keeps to. */
import { inSentence } from '@pagina/core/base';
import type { PrintEdition } from '@pagina/core/book';
import { PAPERS, paperOf } from '@pagina/core/trade';
import { choicesOf, Select } from '@/ui/Select';
import { useEditionFields } from './fields';

const STANDARDS = choicesOf<PrintEdition['standard']>({
  'x-1a': 'PDF/X-1a:2003',
  'x-4': 'PDF/X-4',
  plain: 'PDF without a standard',
});

const INKS = choicesOf<PrintEdition['inks']>({ black: 'Pages in black', colour: 'Pages in colour' });
const BINDINGS = choicesOf<PrintEdition['binding']>({ paperback: 'Paperback', hardback: 'Hardback' });

export function PrintChoices({ edition }: { edition: PrintEdition }) {
  const set = useEditionFields(edition);
  const select = 'h-7 max-w-full text-[13px]';
  return (
    <span className="mt-1 flex flex-col items-start gap-1">
      <Select
        label={`Binding of the ${inSentence(edition.name)}`}
        tip="Boards make the spine thicker, and the cover larger: it is folded in around them."
        className={select}
        value={edition.binding}
        choices={BINDINGS}
        onChoose={(binding) => set('Change the binding', { binding })}
      />
      <Select
        label={`Paper of the ${inSentence(edition.name)}`}
        className={select}
        value={paperOf(edition.paper).id}
        choices={PAPERS.map((p) => ({ value: p.id, name: p.name }))}
        onChoose={(paper) => set('Change the paper', { paper })}
      />
      <Select
        label={`Inks of the ${inSentence(edition.name)}`}
        className={select}
        value={edition.inks}
        choices={INKS}
        onChoose={(inks) => set('Change the inks', { inks })}
      />
      <Select
        label={`Standard of the printer’s PDF of the ${inSentence(edition.name)}`}
        className={select}
        value={edition.standard}
        choices={STANDARDS}
        onChoose={(standard) => set('Change the standard of the printer’s PDF', { standard })}
      />
    </span>
  );
}
