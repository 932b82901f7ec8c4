import type { Metadata } from 'next';
import { ImprintSheet } from '@/stations/imprint/ImprintSheet';

export const metadata: Metadata = { title: 'Imprint' };

export default function Page() {
  return <ImprintSheet />;
}
