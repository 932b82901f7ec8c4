'use client';
/** The house itself: what its new titles begin with, and the units it measures in. */
import { toast } from 'sonner';
import type { Imprint, ImprintChange } from '@pagina/core/outlets';
import { fileOf } from '@/title/pictures';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { FileButton } from '@/ui/FileDrop';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';

const UNITS: { value: Imprint['units']; name: string }[] = [
  { value: 'trim', name: 'As each trim is written' },
  { value: 'mm', name: 'Millimetres' },
  { value: 'in', name: 'Inches' },
];

export function HousePart({
  imprint: { house, units },
  change,
  load,
}: {
  imprint: Imprint;
  change: (change: ImprintChange) => Promise<boolean>;
  load: () => Promise<void>;
}) {
  const set = (fields: Partial<Imprint['house']>): void => void change({ set: 'house', house: fields });
  const take = async (file: File): Promise<void> => {
    const r = await fetch(`/api/imprint/device?name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      body: file,
    }).catch(() => null);
    if (r?.ok) return load();
    const said = r ? ((await r.json()) as { message?: string }).message : null;
    toast(said ?? 'Pagina can’t be reached. The device wasn’t changed.');
  };
  const webIsRight = house.web === '' || URL.canParse(house.web);
  return (
    <div className="grid grid-cols-2 gap-3">
      <Field label="Name">
        <Text value={house.name} maxLength={200} onCommit={(name) => set({ name })} />
      </Field>
      <Field label="Place">
        <Text value={house.place} maxLength={200} onCommit={(place) => set({ place })} />
      </Field>
      <Field
        label="Web address"
        hint={webIsRight ? undefined : 'Write it whole, such as https://tidewrack.example.'}
      >
        <Text
          value={house.web}
          maxLength={500}
          placeholder="https://"
          wrong={!webIsRight}
          onCommit={(web) => set({ web })}
        />
      </Field>
      <div>
        <span className="column-head mb-1 block">Lengths are shown in</span>
        <Select
          label="Lengths are shown in"
          className="w-full"
          value={units}
          choices={UNITS}
          onChoose={(u) => void change({ set: 'units', units: u })}
        />
      </div>
      <div role="group" aria-label="Device" className="col-span-2">
        <span className="column-head mb-1 block">Device</span>
        <div className="flex items-center gap-3">
          {house.device?.sha256 ? (
            <img
              src={fileOf(house.device)}
              alt="The device of the house"
              className="h-16 max-w-32 border border-rule object-contain"
            />
          ) : (
            <span className="text-[13px] text-ink-soft">The mark on your spines and backs; none yet.</span>
          )}
          <FileButton
            label="Picture of the device"
            className="h-7"
            endings={['image/png', 'image/jpeg']}
            onFiles={([file]) => file && void take(file)}
          >
            {house.device ? 'Another picture' : 'Choose a picture'}
          </FileButton>
          {house.device ? (
            <Button kind="quiet" className="h-7 px-2" onClick={() => set({ device: null })}>
              Remove
            </Button>
          ) : null}
        </div>
      </div>
    </div>
  );
}
