'use client';
import { Switch as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** On or off, at once. Its user draws it: in the ledger it is a lane. */
export function Switch({
  label,
  on,
  onSet,
  disabled,
  className,
  children,
}: {
  label: string;
  on: boolean;
  onSet: (on: boolean) => void;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Primitive.Root
      aria-label={label}
      checked={on}
      onCheckedChange={onSet}
      disabled={disabled}
      className={className}
    >
      {children}
    </Primitive.Root>
  );
}
