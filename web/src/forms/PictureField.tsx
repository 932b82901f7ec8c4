'use client';
/** A picture: one of the book’s, or a file. */
import type { Change } from '@pagina/core/book';
import { useBook, useTitle } from '@/title/context';
import { fileOf, takeIn } from '@/title/pictures';
import { FileButton } from '@/ui/FileDrop';
import { Select } from '@/ui/Select';

export function PictureField({
  label,
  hint,
  value,
  step = label,
  onChoose,
}: {
  label: string;
  /** What choosing it is called in the log of changes. */
  step?: string;
  hint?: string;
  value: string | null;
  /** The change that puts a picture there, or takes it away. */
  onChoose: (id: string | null) => Change;
}) {
  const { session } = useTitle();
  const { book } = useBook();
  const shown = book.pictures.find((p) => p.id === value);
  const choose = (id: string | null): void =>
    void session.change({ type: 'group', label: step, changes: [onChoose(id)] });
  return (
    <fieldset>
      <legend className="column-head mb-1">{label}</legend>
      <div className="flex gap-3">
        {shown?.sha256 ? (
          <img src={fileOf(shown)} alt="" className="h-16 w-14 border border-rule object-contain" />
        ) : null}
        <div className="min-w-0 flex-1 space-y-1">
          <Select
            label={label}
            className="w-full"
            value={value ?? ''}
            choices={[
              { value: '', name: 'none' },
              ...book.pictures.map((p) => ({ value: p.id, name: p.name || p.id })),
            ]}
            onChoose={(id) => choose(id || null)}
          />
          <FileButton
            label={`File for: ${label}`}
            className="h-7"
            endings={['image/png', 'image/jpeg']}
            onFiles={([file]) => file && void takeIn(session, file, step, (id) => [onChoose(id)])}
          >
            From a file
          </FileButton>
        </div>
      </div>
      {hint ? <p className="mt-1 text-[13px] text-ink-soft">{hint}</p> : null}
    </fieldset>
  );
}
