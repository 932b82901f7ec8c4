import type { Metadata } from 'next';
import { Specimens } from '@/ui/Specimens';

export const metadata: Metadata = { title: 'Controls' };

export default function Page() {
  return <Specimens />;
}
