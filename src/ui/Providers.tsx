'use client';

import { ThemeProvider } from 'next-themes';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { Toaster } from 'sonner';

export function Providers({ children }: { children: ReactNode }) {
  return (
    <ThemeProvider attribute="data-theme" defaultTheme="light" enableSystem={false} disableTransitionOnChange>
      <Tooltip.Provider delayDuration={500}>
        {children}
        <Toaster
          position="bottom-center"
          duration={7000}
          toastOptions={{ style: { background: 'var(--surface)', color: 'var(--ink)', border: '1px solid var(--strong)', fontFamily: 'var(--font-sans)' } }}
        />
      </Tooltip.Provider>
    </ThemeProvider>
  );
}
