'use client';
import { Collapsible as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** A heading that opens what is below it. */
export function Collapsible({
  heading,
  className = '',
  children,
}: {
  heading: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Primitive.Root className={className}>
      <Primitive.Trigger className="group flex min-h-7 w-full items-baseline gap-2 text-left hover:text-spruce">
        <span aria-hidden className="text-[10px] group-data-[state=open]:rotate-90">
          ▸
        </span>
        <span>{heading}</span>
      </Primitive.Trigger>
      <Primitive.Content>{children}</Primitive.Content>
    </Primitive.Root>
  );
}
