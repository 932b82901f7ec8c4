'use client';
import { ScrollArea as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** A pane that scrolls inside, with a slim bar of the house. */
export function ScrollArea({
  label,
  className = '',
  inside = '',
  children,
}: {
  label: string;
  className?: string;
  /** Of the content, as against the pane. */
  inside?: string;
  children: ReactNode;
}) {
  return (
    <Primitive.Root type="auto" className={`min-h-0 overflow-hidden ${className}`}>
      {/* The primitive lays its content out as a table, in which no line is ever cut short. */}
      <Primitive.Viewport
        tabIndex={0}
        role="region"
        aria-label={label}
        className="h-full w-full -outline-offset-2 [&>div]:block!"
      >
        <div className={inside}>{children}</div>
      </Primitive.Viewport>
      <Primitive.Scrollbar orientation="vertical" className="flex w-2 touch-none p-px select-none">
        <Primitive.Thumb className="flex-1 rounded-[2px] bg-edge/60 hover:bg-edge" />
      </Primitive.Scrollbar>
    </Primitive.Root>
  );
}
