'use client';
/** Design: of the book's inside, or of its cover. Which of them is looked at stands in the address. */
import { useSearchParams } from 'next/navigation';
import { CoverDesk } from './cover/CoverDesk';
import { Inside } from './Inside';

export function DesignStation() {
  return useSearchParams().get('of') === 'cover' ? <CoverDesk /> : <Inside />;
}
