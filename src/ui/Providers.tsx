'use client';

import { ThemeProvider } from 'next-themes';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { Toaster } from 'sonner';

export function Providers({ children }: { children: ReactNode }) {
  return (
    <ThemeProvider attribute="data-theme" defaultTheme="system" enableSystem disableTransitionOnChange>
      <Tooltip.Provider delayDuration={500}>
        {children}
        <Toaster
          // Over the side panel, where it hides neither hits nor strip nor pads.
          position="bottom-right"
          offset={16}
          duration={7000}
          toastOptions={{ style: { width: 318, background: 'var(--surface)', color: 'var(--ink)', border: '1px solid var(--strong)', fontFamily: 'var(--font-sans)' } }}
        />
      </Tooltip.Provider>
    </ThemeProvider>
  );
}
