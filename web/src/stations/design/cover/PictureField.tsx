'use client';
/** A picture of the cover: one of the book's, or a file. */
import { useRef } from 'react';
import type { Change } from '@pagina/core/book';
import { useBook, useTitle } from '@/title/context';
import { fileOf, takeIn } from '@/title/pictures';
import { Button, input } from '@/ui/controls';

export function PictureField({
  label,
  hint,
  value,
  onChoose,
}: {
  label: string;
  hint?: string;
  value: string | null;
  /** The change that puts a picture there, or takes it away. */
  onChoose: (id: string | null) => Change;
}) {
  const { session } = useTitle();
  const { book } = useBook();
  const chooser = useRef<HTMLInputElement>(null);
  const shown = book.pictures.find((p) => p.id === value);
  const choose = (id: string | null): void =>
    void session.change({ type: 'group', label: `Cover: ${label.toLowerCase()}`, changes: [onChoose(id)] });
  return (
    <fieldset>
      <legend className="column-head mb-1">{label}</legend>
      <div className="flex gap-3">
        {shown?.sha256 ? (
          <img src={fileOf(shown)} alt="" className="h-16 w-14 border border-rule object-contain" />
        ) : null}
        <div className="min-w-0 flex-1 space-y-1">
          <select
            aria-label={label}
            className={`${input} px-1`}
            value={value ?? ''}
            onChange={(e) => choose(e.target.value || null)}
          >
            <option value="">none</option>
            {book.pictures.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name || p.id}
              </option>
            ))}
          </select>
          <Button className="h-7" onClick={() => chooser.current?.click()}>
            From a file
          </Button>
        </div>
      </div>
      {hint ? <p className="mt-1 text-[13px] text-ink-soft">{hint}</p> : null}
      <input
        ref={chooser}
        type="file"
        accept="image/png,image/jpeg"
        className="hidden"
        aria-label={`File for: ${label}`}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void takeIn(session, file, `Cover: ${label.toLowerCase()}`, (id) => [onChoose(id)]);
          e.target.value = '';
        }}
      />
    </fieldset>
  );
}
