'use client';
/** One of a few choices. For a long list see Picker, which can be searched. */
import { Select as Primitive } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { twMerge } from 'tailwind-merge';
import { InToolbar } from './Toolbar';
import { Tip } from './Tip';

export interface Choice<V extends string = string> {
  value: V;
  name: string;
  /** Choices that follow one another under the same heading stand in a group. */
  group?: string;
}

/** The choices of a table of names by value. */
export const choicesOf = <V extends string>(names: Readonly<Record<V, string>>): Choice<V>[] =>
  (Object.entries(names) as [V, string][]).map(([value, name]) => ({ value, name }));

/** The primitive keeps the empty string for itself. */
const EMPTY = '\u2400';
const inward = (value: string): string => (value === '' ? EMPTY : value);

export const trigger =
  'inline-flex h-8 min-w-0 items-center gap-2 rounded-[2px] border border-edge bg-sheet pr-1.5 pl-2 text-left disabled:opacity-45 aria-expanded:border-spruce';
export const popup = 'z-50 overflow-hidden rounded-[2px] border border-edge bg-sheet text-ink';
export const option =
  'flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-7 outline-none data-[highlighted]:bg-table data-[highlighted]:text-spruce data-[selected=true]:bg-table data-[selected=true]:text-spruce aria-disabled:opacity-45';

export function Select<V extends string>({
  label,
  value,
  choices,
  onChoose,
  placeholder = '',
  disabled,
  className = '',
  tip,
  onClosed,
}: {
  label: string;
  value: V | null;
  choices: readonly Choice<V>[];
  onChoose: (value: V) => void;
  /** Shown while nothing, or nothing of the list, is chosen. */
  placeholder?: string;
  disabled?: boolean;
  className?: string;
  tip?: ReactNode;
  /** Takes the focus when the list closes; the button has it otherwise. */
  onClosed?: () => void;
}) {
  // The list is built when somebody comes near: a page may have dozens that nobody opens.
  const [near, setNear] = useState(false);
  const chosen = choices.find((c) => c.value === value);
  return (
    <Primitive.Root
      value={chosen ? inward(chosen.value) : ''}
      onValueChange={(v) => onChoose((v === EMPTY ? '' : v) as V)}
      disabled={disabled}
      onOpenChange={(open) => open && setNear(true)}
    >
      <Tip words={tip}>
        <InToolbar>
          <Primitive.Trigger
            aria-label={label}
            data-value={value ?? undefined}
            className={twMerge(trigger, className)}
            onFocus={() => setNear(true)}
            onPointerEnter={() => setNear(true)}
          >
            <span className="min-w-0 flex-1 truncate">
              <Primitive.Value placeholder={<span className="text-ink-soft">{placeholder}</span>}>
                {chosen?.name}
              </Primitive.Value>
            </span>
            <Primitive.Icon className="text-[10px] text-ink-soft">▾</Primitive.Icon>
          </Primitive.Trigger>
        </InToolbar>
      </Tip>
      {near ? (
        <Primitive.Portal>
          <Primitive.Content
            position="popper"
            sideOffset={2}
            collisionPadding={8}
            className={`${popup} max-h-[min(420px,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)]`}
            onCloseAutoFocus={(e) => {
              if (!onClosed) return;
              e.preventDefault();
              onClosed();
            }}
          >
            <Primitive.Viewport className="py-1">
              {groupsOf(choices).map(([group, members]) => (
                <Primitive.Group key={group}>
                  {group ? (
                    <Primitive.Label className="column-head px-3 py-1">{group}</Primitive.Label>
                  ) : null}
                  {members.map((c) => (
                    <Primitive.Item key={c.value} value={inward(c.value)} className={`relative ${option}`}>
                      <Primitive.ItemIndicator className="absolute left-3 text-[11px]">
                        ✓
                      </Primitive.ItemIndicator>
                      <Primitive.ItemText>{c.name}</Primitive.ItemText>
                    </Primitive.Item>
                  ))}
                </Primitive.Group>
              ))}
            </Primitive.Viewport>
          </Primitive.Content>
        </Primitive.Portal>
      ) : null}
    </Primitive.Root>
  );
}

/** Choices by their group, in the order of the list. */
export function groupsOf<V extends string>(choices: readonly Choice<V>[]): [string, Choice<V>[]][] {
  const groups: [string, Choice<V>[]][] = [];
  for (const c of choices) {
    const last = groups.at(-1);
    if (last && last[0] === (c.group ?? '')) last[1].push(c);
    else groups.push([c.group ?? '', [c]]);
  }
  return groups;
}
