'use client';
/** The bar of the design: which interior, which one beside it, large print, one's own designs. */
import { useState } from 'react';
import { Dialog } from 'radix-ui';
import { INTERIOR_NAMES, type DesignChoice } from '@pagina/core/design';
import type { Edition } from '@pagina/core/book';
import { Button, Field, input } from '@/ui/controls';
import { Sides } from './Sides';
import type { useOwnDesigns } from './ownDesigns';

/** Pages across by their size, alone and beside another design. */
export const ACROSS = { small: [4, 3], large: [3, 2], reading: [2, 1] } as const;
export type Size = keyof typeof ACROSS;

const PLAIN = { from: {}, set: {} };

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
  edition: Edition;
  kept: ReturnType<typeof useOwnDesigns>;
  second: ({ name: string } & DesignChoice) | null;
  size: Size;
  large: boolean;
  onSize: (s: Size) => void;
  onTake: (choice: DesignChoice, name: string) => void;
  onSecond: (choice: ({ name: string } & DesignChoice) | null) => void;
  onLarge: () => void;
  /** Ebooks of this title that look otherwise than this edition. */
  ebooks: number;
  onEbooks: () => void;
}) {
  const changed = Object.keys(edition.design.set).length + Object.keys(edition.design.from).length;
  /** A design by what stands in a list: an interior's name, or "own:" and the id of a saved one. */
  const choiceOf = (value: string): ({ name: string } & DesignChoice) | null => {
    const own = kept.list.find((k) => `own:${k.id}` === value);
    if (own) return { name: own.name, interior: own.interior, design: own.design };
    return INTERIOR_NAMES.includes(value) ? { name: value, interior: value, design: PLAIN } : null;
  };
  const options = (
    <>
      <optgroup label="Interiors">
        {INTERIOR_NAMES.map((n) => (
          <option key={n} value={n}>
            {n}
          </option>
        ))}
      </optgroup>
      {kept.list.length > 0 ? (
        <optgroup label="Your own">
          {kept.list.map((k) => (
            <option key={k.id} value={`own:${k.id}`}>
              {k.name}
            </option>
          ))}
        </optgroup>
      ) : null}
    </>
  );
  const select = 'h-7 rounded-[2px] border border-edge bg-sheet px-1';
  return (
    <div
      role="toolbar"
      aria-label="Design"
      className="no-print flex h-10 items-center gap-3 border-b border-rule px-4"
    >
      <Sides of="inside" />
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Interior</span>
        <select
          className={select}
          value={edition.interior}
          onChange={(e) => {
            const c = choiceOf(e.target.value);
            if (c) onTake(c, c.name);
          }}
        >
          {options}
        </select>
      </label>
      <span className="text-[13px] text-ink-soft" data-changed={changed}>
        {changed > 0 ? `with ${changed} ${changed === 1 ? 'change' : 'changes'} of your own` : 'unchanged'}
      </span>
      {changed > 0 ? (
        <Button
          kind="quiet"
          className="h-7 px-2"
          onClick={() => onTake({ interior: edition.interior, design: PLAIN }, edition.interior)}
        >
          Put it back
        </Button>
      ) : null}
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Beside it</span>
        <select
          className={select}
          value={
            second
              ? kept.list.find((k) => k.name === second.name)
                ? `own:${kept.list.find((k) => k.name === second.name)?.id}`
                : second.name
              : ''
          }
          onChange={(e) => onSecond(choiceOf(e.target.value))}
        >
          <option value="">nothing</option>
          {options}
        </select>
      </label>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={large} onChange={onLarge} /> Large print
      </label>
      {ebooks > 0 ? (
        <Button className="h-7" onClick={onEbooks}>
          Use for the ebook too
        </Button>
      ) : null}
      <span className="ml-auto" />
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Pages</span>
        <select className={select} value={size} onChange={(e) => onSize(e.target.value as Size)}>
          <option value="small">small</option>
          <option value="large">large</option>
          <option value="reading">for reading</option>
        </select>
      </label>
      <OwnDesigns edition={edition} kept={kept} />
    </div>
  );
}

function OwnDesigns({ edition, kept }: { edition: Edition; kept: ReturnType<typeof useOwnDesigns> }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const keep = async (): Promise<void> => {
    const { interior, design, trim } = edition;
    if (await kept.save(name, { interior, design, trim })) setOpen(false);
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button className="h-7">Your own designs</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="fixed top-24 left-1/2 z-50 w-[440px] -translate-x-1/2 border border-edge bg-sheet p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="font-serif text-[20px]">Your own designs</Dialog.Title>
          <form
            className="flex items-end gap-2 py-3"
            onSubmit={(e) => {
              e.preventDefault();
              void keep();
            }}
          >
            <div className="flex-1">
              <Field label="Save this design as">
                <input
                  className={input}
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                  placeholder="For example: our novels"
                  maxLength={80}
                />
              </Field>
            </div>
            <Button kind="primary" type="submit" disabled={!name.trim()}>
              Save
            </Button>
          </form>
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
                  <Button kind="quiet" className="h-7 px-2" onClick={() => void kept.remove(k.id)}>
                    Delete
                  </Button>
                </li>
              ))}
            </ul>
          )}
          <div className="flex justify-end pt-3">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
