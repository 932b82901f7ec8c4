'use client';
import type { ReactNode } from 'react';
import { Button } from './controls';

/** A pane beside the work, with its name and a way to close it. */
export function Aside({
  title,
  tools,
  note,
  wide = false,
  onClose,
  children,
}: {
  title: string;
  tools?: ReactNode;
  note?: ReactNode;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <aside
      aria-label={title}
      className={`no-print flex shrink-0 flex-col border-l border-edge bg-sheet ${wide ? 'w-[560px]' : 'w-[400px]'}`}
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
    >
      <header className="border-b border-rule px-4 py-2.5">
        <div className="flex items-center gap-2">
          <h2 className="font-serif text-[17px]">{title}</h2>
          <span className="ml-auto" />
          {tools}
          <Button kind="quiet" className="h-7" onClick={onClose}>
            Close
          </Button>
        </div>
        {note ? <p className="text-[13px] text-ink-soft">{note}</p> : null}
      </header>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label={`${title}: list`}>
        {children}
      </div>
    </aside>
  );
}
