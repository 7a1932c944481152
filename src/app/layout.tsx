import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { KeepOffline } from '@/offline/KeepOffline';
import { Providers } from '@/ui/Providers';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Nod Sway', template: '%s · Nod Sway' },
  description: 'Shape realistic drum grooves from MIDI drum parts.',
  manifest: '/manifest.webmanifest',
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
        <KeepOffline />
      </body>
    </html>
  );
}
