'use client';
import type { ReactNode } from 'react';
import { Button } from './Button';
import { ScrollArea } from './ScrollArea';

/** What a pane beside the work holds: its name, a way to close it, what stays in sight, and a list that scrolls. */
export function Aside({
  title,
  tools,
  note,
  head,
  onClose,
  children,
}: {
  title: string;
  tools?: ReactNode;
  note?: ReactNode;
  /** Above the list. */
  head?: ReactNode;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <aside
      aria-label={title}
      className="flex min-h-0 flex-1 flex-col"
      onKeyDown={(e) => e.key === 'Escape' && !e.defaultPrevented && onClose()}
    >
      <header className="border-b border-rule px-4 py-2.5">
        <div className="flex items-center gap-2">
          <h2 className="min-w-0 truncate font-serif text-[17px]">{title}</h2>
          <span className="ml-auto" />
          {tools}
          <Button kind="quiet" className="h-7" onClick={onClose}>
            Close
          </Button>
        </div>
        {note ? <p className="text-[13px] text-ink-soft">{note}</p> : null}
        {head}
      </header>
      <ScrollArea label={`${title}: list`} className="flex-1">
        {children}
      </ScrollArea>
    </aside>
  );
}
