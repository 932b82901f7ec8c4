'use client';
/** A row of tools: one stop of the Tab key, within which arrow keys move. */
import { Slot, Toolbar as Primitive } from 'radix-ui';
import { createContext, use, type ComponentProps, type ReactElement, type ReactNode } from 'react';

const Within = createContext(false);

export function Toolbar({
  label,
  className = '',
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Within value={true}>
      <Primitive.Root
        aria-label={label}
        loop={false}
        className={`no-print flex min-h-10 flex-wrap items-center gap-y-1 border-b border-rule px-4 py-1 whitespace-nowrap ${className}`}
      >
        {children}
      </Primitive.Root>
    </Within>
  );
}

/** Makes a button a member of the toolbar it stands in. What is laid around it (a tip, a trigger) reaches the button. */
export function InToolbar({
  children,
  ...laid
}: ComponentProps<typeof Slot.Root> & { children: ReactElement }) {
  return use(Within) ? (
    <Primitive.Button asChild {...(laid as ComponentProps<typeof Primitive.Button>)}>
      {children}
    </Primitive.Button>
  ) : (
    <Slot.Root {...laid}>{children}</Slot.Root>
  );
}

export const useInToolbar = (): boolean => use(Within);

/** A hairline between groups of tools. */
export function ToolbarLine() {
  return <Primitive.Separator className="mx-1 h-5 w-px shrink-0 bg-rule" />;
}
