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
  children,
}: {
  label: string;
  trigger: ReactElement;
  className?: string;
  onClosed?: () => void;
  children: ReactNode;
}) {
  return (
    <Primitive.Root onOpenChange={(open) => !open && onClosed?.()}>
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
