'use client';
/** A list of everything one can go to or do, found by typing a part of its name. */
import { Command } from 'cmdk';
import { Dialog } from './Dialog';

export interface PaletteChoice {
  key: string;
  name: string;
  hint?: string;
  run: () => void;
}
export type PaletteGroup = [heading: string, choices: PaletteChoice[]];

export function Palette({
  placeholder,
  groups,
  open,
  onOpenChange,
}: {
  placeholder: string;
  groups: readonly PaletteGroup[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Dialog title="Go to or do" open={open} onOpenChange={onOpenChange} bare>
      <Command label="Go to or do" loop>
        <Command.Input
          placeholder={placeholder}
          className="h-11 w-full border-b border-rule bg-sheet px-4 outline-none focus-visible:outline-none placeholder:text-ink-soft"
        />
        <Command.List className="max-h-[50vh] overflow-auto py-1">
          <Command.Empty className="px-4 py-3 text-ink-soft">No matches.</Command.Empty>
          {groups.map(([heading, choices]) => (
            <Command.Group
              key={heading}
              heading={heading}
              className="[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:py-1"
            >
              {choices.map((c) => (
                <Command.Item
                  key={c.key}
                  value={`${c.name} ${c.key}`}
                  onSelect={() => {
                    onOpenChange(false);
                    c.run();
                  }}
                  className="flex h-8 cursor-default items-center gap-6 px-4 data-[selected=true]:bg-table data-[selected=true]:text-spruce"
                >
                  <span className="min-w-0 truncate">{c.name}</span>
                  {c.hint ? <span className="ml-auto text-[12px] text-ink-soft">{c.hint}</span> : null}
                </Command.Item>
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
