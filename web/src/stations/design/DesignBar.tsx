'use client';
/** The bar of the design: which interior, which one beside it, large print, one's own designs. */
import { useState } from 'react';
import { INTERIOR_NAMES, type DesignChoice } from '@pagina/core/design';
import type { PrintEdition } from '@pagina/core/book';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Confirm, Dialog } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import { Select, type Choice } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { designName } from '@/forms/lines';
import { Sides } from './Sides';
import type { useOwnDesigns } from './ownDesigns';

/** Pages across by their size, alone and beside another design. */
export const ACROSS = { small: [4, 3], large: [3, 2], reading: [2, 1] } as const;
export type Size = keyof typeof ACROSS;

const SIZES = [
  { value: 'small', name: 'Small' },
  { value: 'large', name: 'Large' },
  { value: 'reading', name: 'For reading' },
] as const;

const PLAIN: DesignChoice['design'] = { from: {}, set: {} };

/** In how many settings and parts a design departs from another. */
function changesFrom(design: DesignChoice['design'], other: DesignChoice['design']): number {
  const departs = (a: Record<string, unknown>, b: Record<string, unknown>): number =>
    [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
      (k) => JSON.stringify(a[k]) !== JSON.stringify(b[k]),
    ).length;
  return departs(design.set, other.set) + departs(design.from, other.from);
}

export function DesignBar({
  edition,
  kept,
  second,
  size,
  large,
  onSize,
  onTake,
  onSecond,
  onLarge,
  ebooks,
  onEbooks,
}: {
  edition: PrintEdition;
  kept: ReturnType<typeof useOwnDesigns>;
  second: ({ name: string } & DesignChoice) | null;
  size: Size;
  large: boolean;
  onSize: (s: Size) => void;
  /** A saved design brings its trim. */
  onTake: (choice: DesignChoice, name: string, trim?: string) => void;
  onSecond: (choice: ({ name: string } & DesignChoice) | null) => void;
  onLarge: () => void;
  /** Ebooks of this title that look otherwise than this edition. */
  ebooks: number;
  onEbooks: () => void;
}) {
  const own = kept.list.find((k) => k.id === edition.design.own);
  const changed = changesFrom(edition.design, own?.design ?? PLAIN);
  const ownSecond = second && kept.list.find((k) => k.name === second.name);
  /** A design by what stands in a list: an interior's name, or "own:" and the id of a saved one. */
  const choiceOf = (value: string): ({ name: string; trim?: string } & DesignChoice) | null => {
    const saved = kept.list.find((k) => `own:${k.id}` === value);
    if (saved) {
      const { id, name, interior, design, trim } = saved;
      return { name, interior, design: { ...design, own: id }, trim };
    }
    return INTERIOR_NAMES.includes(value) ? { name: value, interior: value, design: PLAIN } : null;
  };
  const designs: Choice[] = [
    ...INTERIOR_NAMES.map((n) => ({ value: n, name: n, group: 'Interiors' })),
    ...kept.list.map((k) => ({ value: `own:${k.id}`, name: k.name, group: 'Your own' })),
  ];
  return (
    <Toolbar label="Design" className="gap-x-3">
      <Sides />
      <span className="flex items-center gap-2">
        <span className="text-ink-soft">Interior</span>
        <Select
          label="Interior"
          className="h-7 w-36"
          value={own ? `own:${own.id}` : edition.interior}
          choices={designs}
          onChoose={(value) => {
            const c = choiceOf(value);
            if (c) onTake(c, c.name, c.trim);
          }}
        />
      </span>
      <span className="text-[13px] text-ink-soft" data-changed={changed}>
        {changed > 0 ? `with ${changed} ${changed === 1 ? 'change' : 'changes'} of your own` : 'unchanged'}
      </span>
      {changed > 0 ? (
        <Button
          kind="quiet"
          className="h-7 px-2"
          onClick={() => {
            const c = choiceOf(own ? `own:${own.id}` : edition.interior);
            if (c) onTake(c, c.name);
          }}
        >
          Reset
        </Button>
      ) : null}
      <span className="flex items-center gap-2">
        <span className="text-ink-soft">Beside it</span>
        <Select
          label="Beside it"
          className="h-7 w-36"
          value={second ? (ownSecond ? `own:${ownSecond.id}` : second.name) : ''}
          choices={[{ value: '', name: 'nothing' }, ...designs]}
          onChoose={(value) => onSecond(choiceOf(value))}
        />
      </span>
      <Checkbox label="Large print" on={large} onSet={onLarge} />
      {ebooks > 0 ? (
        <Button className="h-7" onClick={onEbooks}>
          Use for the ebook too
        </Button>
      ) : null}
      <span className="ml-auto" />
      <OneOf label="Size of the pages" value={size} choices={SIZES} onChoose={onSize} />
      <OwnDesigns edition={edition} kept={kept} />
    </Toolbar>
  );
}

function OwnDesigns({ edition, kept }: { edition: PrintEdition; kept: ReturnType<typeof useOwnDesigns> }) {
  const [open, setOpen] = useState(false);
  const keep = async (name: string): Promise<boolean> => {
    const { interior, trim } = edition;
    const { from, set } = edition.design;
    const saved = await kept.save(name, { interior, design: { from, set }, trim });
    if (saved) setOpen(false);
    return saved;
  };
  return (
    <Dialog
      title="Your own designs"
      open={open}
      onOpenChange={setOpen}
      className="w-[440px]"
      trigger={<Button className="h-7">Your own designs</Button>}
    >
      <LineForm
        className="pb-3"
        heading
        primary
        label="Save this design as"
        schema={designName}
        placeholder="For example: our novels"
        maxLength={80}
        action="Save"
        onSend={keep}
      />
      {kept.list.length === 0 ? (
        <p className="text-[13px] text-ink-soft">
          No designs saved yet. A saved design can be used in any title, like an interior.
        </p>
      ) : (
        <ul>
          {kept.list.map((k) => (
            <li key={k.id} className="flex h-9 items-center gap-2 border-t border-rule">
              <span className="font-serif">{k.name}</span>
              <span className="text-[13px] text-ink-soft">
                after {k.interior}, {k.trim}
              </span>
              <span className="ml-auto" />
              <Confirm
                question={`Delete the design “${k.name}”?`}
                consequence="Titles that use it keep their looks. It is gone from the list, and Undo can’t bring it back."
                action="Delete the design"
                onConfirm={() => void kept.remove(k.id)}
              >
                <Button kind="quiet" className="h-7 px-2">
                  Delete
                </Button>
              </Confirm>
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
