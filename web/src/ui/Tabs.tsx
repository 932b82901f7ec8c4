'use client';
/** Views of one thing, of which one is shown. */
import { Tabs as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** Around the row of names and the view, wherever in it each stands. */
export function Tabs<V extends string>({
  value,
  onChoose,
  children,
}: {
  value: V;
  onChoose: (value: V) => void;
  children: ReactNode;
}) {
  return (
    <Primitive.Root
      value={value}
      onValueChange={(v) => onChoose(v as V)}
      activationMode="manual"
      className="h-full"
    >
      {children}
    </Primitive.Root>
  );
}

export function TabNames({
  label,
  names,
  className = 'border-r border-rule pr-3',
}: {
  label: string;
  names: readonly (readonly [value: string, name: string])[];
  /** Beside other things in a row, a rule parts them unless another look is given. */
  className?: string;
}) {
  return (
    <Primitive.List aria-label={label} className={`flex gap-2 ${className}`}>
      {names.map(([value, name]) => (
        <Primitive.Trigger
          key={value}
          value={value}
          className="flex h-7 items-center border-b-2 border-transparent px-1 text-ink-soft hover:text-ink data-[state=active]:border-spruce data-[state=active]:text-ink"
        >
          {name}
        </Primitive.Trigger>
      ))}
    </Primitive.List>
  );
}

export function TabView({ of, children }: { of: string; children: ReactNode }) {
  return (
    <Primitive.Content value={of} tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
      {children}
    </Primitive.Content>
  );
}
