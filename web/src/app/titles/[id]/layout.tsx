import type { ReactNode } from 'react';
import { TitleProvider } from '@/title/context';
import { Shell } from '@/title/Shell';

export default async function Layout({
  params,
  children,
}: {
  params: Promise<{ id: string }>;
  children: ReactNode;
}) {
  const { id } = await params;
  return (
    <TitleProvider id={id}>
      <Shell id={id}>{children}</Shell>
    </TitleProvider>
  );
}
