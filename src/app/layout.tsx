import type { Metadata, Viewport } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { AppFrame } from '@/ui/app-frame';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Eager Ladder', template: '%s · Eager Ladder' },
  description: 'High-voltage ladder design: what it will reach, what fails first, how to make it dead again.',
};

export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <AppFrame nonce={nonce}>{children}</AppFrame>
      </body>
    </html>
  );
}
