'use client';
/** Outlets that the author describes by name and demands. */
import { useState } from 'react';
import { type Imprint, type ImprintChange, type OutletField, type OwnOutlet } from '@pagina/core/outlets';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field, input } from '@/ui/Field';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';
import { OwnAsks } from './OwnAsks';

const SELLS = {
  reflow: 'an ebook',
  fixed: 'a fixed-layout ebook',
  print: 'a printed book',
  word: 'a word-processor file',
} as const;
const NAMED = { title: 'their title', isbn: 'their ISBN', 'title-author': 'title and author' } as const;
/** What most outlets ask for. */
const USUAL: readonly OutletField[] = [
  'title',
  'subtitle',
  'authors',
  'description',
  'keywords',
  'language',
  'isbn',
  'price',
  'cover',
  'ebook',
  'name',
];
const fresh = (): OwnOutlet => ({
  id: `own-${crypto.randomUUID().slice(0, 12)}`,
  name: '',
  web: '',
  sells: 'reflow',
  fileName: 'title',
  keeps: 30,
  currencies: ['GBP', 'USD', 'EUR'],
  cover: { height: 2_500, ratio: 0.625 },
  asks: USUAL.map((field) => ({ field, called: '', need: 'needed' })),
});

export function OwnOutlets({
  imprint: { outlets },
  change,
}: {
  imprint: Imprint;
  change: (change: ImprintChange) => Promise<boolean>;
}) {
  const [edited, setEdited] = useState<OwnOutlet | null>(null);
  const [removing, setRemoving] = useState<OwnOutlet | null>(null);
  return (
    <>
      <ul>
        {outlets.map((o) => (
          <li key={o.id} className="flex h-9 items-center gap-3 border-b border-rule">
            <span className="font-serif text-[16px]">{o.name}</span>
            <span className="text-[13px] text-ink-soft">
              takes {SELLS[o.sells]}, asks for {o.asks.length} {o.asks.length === 1 ? 'thing' : 'things'}
            </span>
            <span className="ml-auto" />
            <Button kind="quiet" aria-label={`Change ${o.name}`} onClick={() => setEdited(o)}>
              Change
            </Button>
            <Button kind="quiet" aria-label={`Remove ${o.name}`} onClick={() => setRemoving(o)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <Button className="mt-3" onClick={() => setEdited(fresh())}>
        Add an outlet
      </Button>
      <Dialog
        title={edited && outlets.some((o) => o.id === edited.id) ? `Change ${edited.name}` : 'Add an outlet'}
        open={edited !== null}
        onOpenChange={(open) => !open && setEdited(null)}
      >
        {edited ? (
          <Described
            of={edited}
            onChange={setEdited}
            onCancel={() => setEdited(null)}
            onKeep={async () => {
              if (await change({ set: 'outlet', outlet: edited })) setEdited(null);
            }}
          />
        ) : null}
      </Dialog>
      <Dialog
        title={`Remove ${removing?.name ?? ''}?`}
        open={removing !== null}
        onOpenChange={(open) => !open && setRemoving(null)}
      >
        <p>
          Its copying sheets go. What titles say of it (numbers, links, ticks) is kept, and shows again if you
          add it again.
        </p>
        <div className="flex justify-end gap-2 pt-4">
          <Button onClick={() => setRemoving(null)}>Cancel</Button>
          <Button
            kind="primary"
            onClick={() => {
              if (removing) void change({ set: 'no outlet', id: removing.id });
              setRemoving(null);
            }}
          >
            Remove
          </Button>
        </div>
      </Dialog>
    </>
  );
}

function Described({
  of: o,
  onChange,
  onCancel,
  onKeep,
}: {
  of: OwnOutlet;
  onChange: (o: OwnOutlet) => void;
  onCancel: () => void;
  onKeep: () => Promise<void>;
}) {
  const set = (fields: Partial<OwnOutlet>): void => onChange({ ...o, ...fields });
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-2 gap-3">
        <Field label="Name">
          <input
            className={input}
            autoFocus
            maxLength={60}
            value={o.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </Field>
        <Field label="Web address">
          <Text value={o.web} maxLength={300} placeholder="https://…" onCommit={(web) => set({ web })} />
        </Field>
        <div>
          <span className="column-head mb-1 block">It takes</span>
          <Select
            label="It takes"
            className="w-full"
            value={o.sells}
            choices={(Object.keys(SELLS) as (keyof typeof SELLS)[]).map((s) => ({
              value: s,
              name: SELLS[s],
            }))}
            onChoose={(sells) => set({ sells })}
          />
        </div>
        <div>
          <span className="column-head mb-1 block">It names files by</span>
          <Select
            label="It names files by"
            className="w-full"
            value={o.fileName}
            choices={(Object.keys(NAMED) as (keyof typeof NAMED)[]).map((s) => ({
              value: s,
              name: NAMED[s],
            }))}
            onChoose={(fileName) => set({ fileName })}
          />
        </div>
        <div>
          <span className="column-head mb-1 block">It keeps, % of a sale</span>
          <NumberField
            label="It keeps, % of a sale"
            value={o.keeps}
            least={0}
            most={99}
            onSet={(keeps) => set({ keeps })}
          />
        </div>
        <div>
          <span className="column-head mb-1 block">Height of the cover, pixels</span>
          <NumberField
            label="Height of the cover, pixels"
            value={o.cover.height}
            least={200}
            most={10_000}
            onSet={(height) => set({ cover: { ...o.cover, height } })}
          />
        </div>
      </div>
      <OwnAsks asks={o.asks} onChange={(asks) => set({ asks })} />
      <div className="flex justify-end gap-2 pt-1">
        <Button onClick={onCancel}>Cancel</Button>
        <Button
          kind="primary"
          disabled={o.name.trim() === '' || o.asks.length === 0}
          onClick={() => void onKeep()}
        >
          Save
        </Button>
      </div>
    </div>
  );
}
