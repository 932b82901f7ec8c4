'use client';
/** A few choices on one line, of which one is pressed, or any number. */
import { ToggleGroup as Plain, Toolbar } from 'radix-ui';
import { twMerge } from 'tailwind-merge';
import { Tip } from './Tip';
import { useInToolbar } from './Toolbar';

export interface Pressable<V extends string = string> {
  value: V;
  name: string;
  tip?: string;
  className?: string;
}

const item =
  'inline-flex h-7 items-center border-y border-r border-edge bg-sheet px-2 whitespace-nowrap first:rounded-l-[2px] first:border-l last:rounded-r-[2px] hover:text-spruce disabled:opacity-45 data-[state=on]:bg-table data-[state=on]:font-semibold data-[state=on]:text-spruce';

/** One is always pressed. */
export function OneOf<V extends string>({
  label,
  value,
  choices,
  onChoose,
  className = '',
}: {
  label: string;
  value: V;
  choices: readonly Pressable<V>[];
  onChoose: (value: V) => void;
  className?: string;
}) {
  const { Root, Item } = useParts();
  return (
    <Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(v: string) => v && onChoose(v as V)}
      className={`inline-flex ${className}`}
    >
      {choices.map((c) => (
        <Tip key={c.value} words={c.tip}>
          <Item value={c.value} aria-label={c.name} className={twMerge(item, c.className)}>
            {c.name}
          </Item>
        </Tip>
      ))}
    </Root>
  );
}

/** Any number are pressed. */
export function AnyOf<V extends string>({
  label,
  values,
  choices,
  onChoose,
  disabled,
  keepsFocus = false,
}: {
  label: string;
  values: readonly V[];
  choices: readonly Pressable<V>[];
  onChoose: (value: V) => void;
  disabled?: boolean;
  /** Leaves the focus where it is when pressed with the mouse: a selection in the text stays. */
  keepsFocus?: boolean;
}) {
  const { Root, Item } = useParts();
  return (
    <Root
      type="multiple"
      role="group"
      aria-label={label}
      value={[...values]}
      disabled={disabled}
      onValueChange={(next: string[]) => {
        const changed = choices.find((c) => next.includes(c.value) !== values.includes(c.value));
        if (changed) onChoose(changed.value);
      }}
      className="inline-flex"
    >
      {choices.map((c) => (
        <Tip key={c.value} words={c.tip}>
          <Item
            value={c.value}
            className={twMerge(item, c.className)}
            onMouseDown={(e) => keepsFocus && e.preventDefault()}
          >
            {c.name}
          </Item>
        </Tip>
      ))}
    </Root>
  );
}

function useParts() {
  return useInToolbar()
    ? { Root: Toolbar.ToggleGroup, Item: Toolbar.ToggleItem }
    : { Root: Plain.Root, Item: Plain.Item };
}
