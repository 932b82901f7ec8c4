import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { EbookProvider } from '@/emend/context';
import { EbookShell } from '@/emend/EbookShell';

export const metadata: Metadata = { title: 'Ebook' };

export default async function Layout({
  params,
  children,
}: {
  params: Promise<{ id: string }>;
  children: ReactNode;
}) {
  const { id } = await params;
  return (
    <EbookProvider key={id} id={id}>
      <EbookShell id={id}>{children}</EbookShell>
    </EbookProvider>
  );
}
