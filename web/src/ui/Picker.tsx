'use client';
/** One of many choices, found by typing a part of its name. */
import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { twMerge } from 'tailwind-merge';
import { InToolbar } from './Toolbar';
import { groupsOf, option, popup, trigger, type Choice } from './Select';

export function Picker<V extends string>({
  label,
  value,
  choices,
  onChoose,
  placeholder = '',
  disabled,
  className = '',
}: {
  label: string;
  value: V | null;
  choices: readonly Choice<V>[];
  onChoose: (value: V) => void;
  placeholder?: string;
  disabled?: boolean;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  const chosen = choices.find((c) => c.value === value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <InToolbar>
        <Popover.Trigger
          role="combobox"
          aria-label={label}
          data-value={value ?? undefined}
          disabled={disabled}
          className={twMerge(trigger, className)}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
            if (e.altKey || e.ctrlKey || e.metaKey) return;
            e.preventDefault();
            e.stopPropagation();
            setOpen(true);
          }}
        >
          <span className="min-w-0 flex-1 truncate">
            {chosen?.name ?? <span className="text-ink-soft">{placeholder}</span>}
          </span>
          <span aria-hidden className="text-[10px] text-ink-soft">
            ▾
          </span>
        </Popover.Trigger>
      </InToolbar>
      {open ? (
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={2}
            collisionPadding={8}
            aria-label={label}
            className={`${popup} w-72`}
          >
            <Command label={label} loop filter={contains} defaultValue={chosen ? keyOf(chosen) : undefined}>
              <Command.Input
                placeholder="Type a part of the name"
                className="h-9 w-full border-b border-rule bg-sheet px-3 outline-none placeholder:text-ink-soft"
              />
              <Command.List className="max-h-[min(320px,50vh)] overflow-auto py-1">
                <Command.Empty className="px-3 py-2 text-ink-soft">No matches.</Command.Empty>
                {groupsOf(choices).map(([group, members]) => (
                  <Command.Group
                    key={group}
                    heading={group || undefined}
                    className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1"
                  >
                    {members.map((c) => (
                      <Command.Item
                        key={c.value}
                        value={keyOf(c)}
                        onSelect={() => {
                          setOpen(false);
                          onChoose(c.value);
                        }}
                        className={`relative ${option}`}
                      >
                        {c.value === value ? (
                          <span aria-hidden className="absolute left-3 text-[11px]">
                            ✓
                          </span>
                        ) : null}
                        <span className="truncate">{c.name}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                ))}
              </Command.List>
            </Command>
          </Popover.Content>
        </Popover.Portal>
      ) : null}
    </Popover.Root>
  );
}

/** A part of the name as it was typed: scattered letters would find too much in a list of names. */
const contains = (key: string, typed: string): number =>
  key.toLowerCase().includes(typed.trim().toLowerCase()) ? 1 : 0;

/** Names may repeat; the value beside the name keeps each apart. */
const keyOf = (c: Choice): string => `${c.name} ${c.value}`;
