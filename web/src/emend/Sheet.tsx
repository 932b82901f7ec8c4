'use client';
/** A sheet of the ebook: its fields, and its source one step behind. */
import { useState, type ReactNode } from 'react';
import { Button } from '@/ui/Button';
import { Toolbar } from '@/ui/Toolbar';
import { WholeSource } from './WholeSource';

export function Sheet({
  name,
  source,
  tools,
  children,
}: {
  name: string;
  /** Path of the part behind it; '' where there is none. */
  source: string;
  tools?: ReactNode;
  children: ReactNode;
}) {
  const [behind, setBehind] = useState(false);
  const shown = behind && source !== '';
  return (
    <div className="flex h-full flex-col">
      <Toolbar label={name} className="gap-x-2">
        <span className="mr-2 font-serif text-[17px]">{name}</span>
        <span className="min-w-0 truncate text-[13px] text-ink-soft">{source}</span>
        <span className="ml-auto" />
        {shown ? null : tools}
        {source ? (
          <Button className="h-7 px-2" aria-pressed={shown} onClick={() => setBehind(!behind)}>
            {shown ? 'Back to the fields' : 'Source'}
          </Button>
        ) : null}
      </Toolbar>
      {shown ? (
        <WholeSource path={source} />
      ) : (
        <div className="min-h-0 flex-1 overflow-auto px-6 py-4">{children}</div>
      )}
    </div>
  );
}
