import type { Metadata } from 'next';
import { NewsSheet } from '@/stations/news/NewsSheet';

export const metadata: Metadata = { title: 'News' };

export default function Page() {
  return <NewsSheet />;
}
