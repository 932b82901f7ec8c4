'use client';
import { TabNames } from '@/ui/Tabs';

const SIDES = [
  ['inside', 'Inside'],
  ['cover', 'Cover'],
] as const;

/** From the inside to the cover and back. */
export function Sides() {
  return <TabNames label="Inside or cover" names={SIDES} />;
}
