import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Toaster } from 'sonner';
import { Tips } from '@/ui/Tip';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Pagina', template: '%s · Pagina' },
  description: 'From manuscript to printed book and ebook.',
};

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <Tips>{children}</Tips>
        <Toaster
          position="bottom-right"
          style={{ fontFamily: 'inherit' }}
          toastOptions={{
            unstyled: true,
            classNames: {
              toast: 'bg-ink text-sheet px-4 py-3 rounded-[2px] w-80 text-[14px] flex gap-3 items-center',
              actionButton: 'underline ml-auto min-h-6 px-1',
            },
          }}
        />
      </body>
    </html>
  );
}
