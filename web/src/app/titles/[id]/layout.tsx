import type { ReactNode } from 'react';
import { preload } from 'react-dom';
import { TitleProvider } from '@/title/context';
import { FindingsProvider } from '@/title/findings';
import { Shell } from '@/title/Shell';

export default async function Layout({
  params,
  children,
}: {
  params: Promise<{ id: string }>;
  children: ReactNode;
}) {
  const { id } = await params;
  // The book is on its way while the page's own program still loads.
  preload(`/api/titles/${id}`, { as: 'fetch', crossOrigin: 'anonymous' });
  return (
    <TitleProvider id={id}>
      <FindingsProvider>
        <Shell id={id}>{children}</Shell>
      </FindingsProvider>
    </TitleProvider>
  );
}
