import type { ReactNode } from 'react';

/** Settings below their name. */
export function Named({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <span className="column-head mb-1 block">{name}</span>
      {children}
    </div>
  );
}
