'use client';
/** Design: of the book's inside, or of its cover. Which of them is looked at stands in the address. */
import { useRouter, useSearchParams } from 'next/navigation';
import { Tabs } from '@/ui/Tabs';
import { CoverDesk } from './cover/CoverDesk';
import { Inside } from './Inside';

export function DesignStation() {
  const router = useRouter();
  const side = useSearchParams().get('of') === 'cover' ? 'cover' : 'inside';
  return (
    <Tabs value={side} onChoose={(to) => router.push(to === 'cover' ? '?of=cover' : '?')}>
      {side === 'cover' ? <CoverDesk /> : <Inside />}
    </Tabs>
  );
}
