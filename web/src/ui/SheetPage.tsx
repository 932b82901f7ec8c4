'use client';
/** A page that belongs to no title: its name, the way back to the titles, and one sheet that scrolls. */
import Link from 'next/link';
import type { ReactNode } from 'react';

export function SheetPage({
  name,
  trouble,
  children,
}: {
  name: string;
  /** Why there is nothing to show; null where there is. */
  trouble: string | null;
  children: ReactNode;
}) {
  return (
    <main className="flex h-dvh flex-col">
      <header className="flex h-11 shrink-0 items-center gap-3 border-b border-rule px-4">
        <Link href="/titles" className="font-serif text-[18px] hover:underline">
          Pagina
        </Link>
        <h1 className="font-serif text-[18px] text-ink-soft">{name}</h1>
        <Link href="/titles" className="ml-auto underline">
          Titles
        </Link>
      </header>
      <div className="flex-1 overflow-auto bg-sheet" tabIndex={0} role="region" aria-label={name}>
        {trouble ? (
          <p role="alert" className="m-6 border-l-2 border-rubric pl-3 text-rubric">
            {trouble}
          </p>
        ) : null}
        {children}
      </div>
    </main>
  );
}
