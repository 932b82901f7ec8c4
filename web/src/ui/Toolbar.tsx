'use client';
/** A row of tools: one stop of the Tab key, within which arrow keys move. */
import { Toolbar as Primitive } from 'radix-ui';
import { createContext, use, type ReactElement, type ReactNode } from 'react';

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
        className={`no-print flex min-h-10 items-center border-b border-rule px-4 ${className}`}
      >
        {children}
      </Primitive.Root>
    </Within>
  );
}

/** Makes a button a member of the toolbar it stands in; elsewhere it changes nothing. */
export function InToolbar({ children }: { children: ReactElement }) {
  return use(Within) ? <Primitive.Button asChild>{children}</Primitive.Button> : children;
}

export const useInToolbar = (): boolean => use(Within);

/** A hairline between groups of tools. */
export function ToolbarLine() {
  return <Primitive.Separator className="mx-1 h-5 w-px shrink-0 bg-rule" />;
}
