import type { Metadata } from 'next';
import { TitlesList } from '@/stations/TitlesList';

export const metadata: Metadata = { title: 'Titles' };

export default function Page() {
  return <TitlesList />;
}
