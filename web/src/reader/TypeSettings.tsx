'use client';
/** The type of the ebook as its reader sets it: face, size, line space, margins, and how notes open. */
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Popover } from '@/ui/Popover';
import { choicesOf, Select } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { FACES, LEADINGS, TYPE_SIZES, type FaceId, type ReadingSettings } from './settings';

const FACE_CHOICES = (Object.keys(FACES) as FaceId[]).map((value) => ({ value, name: FACES[value].name }));
const MARGIN_CHOICES = [
  { value: 'narrow', name: 'Narrow' },
  { value: 'medium', name: 'Medium' },
  { value: 'wide', name: 'Wide' },
] as const;
const NOTE_CHOICES = [
  { value: 'over', name: 'Over the page' },
  { value: 'followed', name: 'In place' },
] as const;

export function TypeSettings({
  settings,
  onChange,
}: {
  settings: ReadingSettings;
  onChange: (part: Partial<ReadingSettings>) => void;
}) {
  return (
    <Popover
      label="Type"
      trigger={
        <Button className="h-7 px-2">
          Type <span aria-hidden>▾</span>
        </Button>
      }
      className="w-80 space-y-3 p-3"
    >
      <Field label="Typeface">
        <Select
          label="Typeface"
          className="w-full"
          value={settings.face}
          choices={FACE_CHOICES}
          onChoose={(face) => onChange({ face })}
        />
      </Field>
      <div>
        <span className="column-head mb-1 block">Type size</span>
        <TypeSize size={settings.type} onChange={(type) => onChange({ type })} />
      </div>
      <Field label="Line space">
        <Select
          label="Line space"
          className="w-full"
          value={settings.leading}
          choices={choicesOf(LEADINGS)}
          onChoose={(leading) => onChange({ leading })}
        />
      </Field>
      <div>
        <span className="column-head mb-1 block">Margins</span>
        <OneOf
          label="Margins"
          value={settings.margins}
          choices={MARGIN_CHOICES}
          onChoose={(margins) => onChange({ margins })}
        />
      </div>
      <div>
        <span className="column-head mb-1 block">Notes open</span>
        <OneOf
          label="Notes open"
          value={settings.notes}
          choices={NOTE_CHOICES}
          onChoose={(notes) => onChange({ notes })}
        />
      </div>
    </Popover>
  );
}

type Size = ReadingSettings['type'];
/** The next size of type up or down; the same at either end. */
export function nextSize(size: Size, by: 1 | -1): Size {
  return TYPE_SIZES[TYPE_SIZES.indexOf(size) + by] ?? size;
}

function TypeSize({ size, onChange }: { size: Size; onChange: (size: Size) => void }) {
  const step = (by: 1 | -1, name: string, sign: string) => (
    <Button
      className="h-7 w-8 justify-center px-0"
      aria-label={name}
      tip={by > 0 ? '+' : '-'}
      disabled={nextSize(size, by) === size}
      onClick={() => onChange(nextSize(size, by))}
    >
      {sign}
    </Button>
  );
  return (
    <span className="flex items-center gap-2">
      {step(-1, 'Smaller type', '−')}
      <span role="status" className="w-14 text-center">
        {size} %
      </span>
      {step(1, 'Larger type', '+')}
    </span>
  );
}
