'use client';
/** From the inside to the cover and back. */
import Link from 'next/link';

export function Sides({ of }: { of: 'inside' | 'cover' }) {
  const side = (name: 'inside' | 'cover', words: string) => (
    <Link
      href={name === 'cover' ? '?of=cover' : '?'}
      aria-current={of === name ? 'page' : undefined}
      className={`flex h-7 items-center border-b-2 px-1 ${of === name ? 'border-spruce' : 'border-transparent text-ink-soft hover:text-ink'}`}
    >
      {words}
    </Link>
  );
  return (
    <nav aria-label="Inside or cover" className="flex gap-2 border-r border-rule pr-3">
      {side('inside', 'Inside')}
      {side('cover', 'Cover')}
    </nav>
  );
}
