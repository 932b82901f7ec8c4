'use client';
import { Popover as Primitive } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';
import { popup } from './Select';

/** A few more words, or a few settings, beside the button that opens them. */
export function Popover({
  label,
  trigger,
  className = 'w-72 p-3',
  onClosed,
  open,
  onOpenChange,
  children,
}: {
  label: string;
  trigger: ReactElement;
  className?: string;
  onClosed?: () => void;
  /** Where something inside closes it too. */
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <Primitive.Root
      open={open}
      onOpenChange={(now) => {
        onOpenChange?.(now);
        if (!now) onClosed?.();
      }}
    >
      <Primitive.Trigger asChild>{trigger}</Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          aria-label={label}
          align="start"
          sideOffset={2}
          collisionPadding={8}
          className={`${popup} ${className}`}
        >
          {children}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
