import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/Providers';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Nod Sway', template: '%s · Nod Sway' },
  description: 'Shape realistic drum grooves from MIDI drum parts.',
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
