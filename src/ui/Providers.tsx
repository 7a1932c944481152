'use client';

import { ThemeProvider } from 'next-themes';
import dynamic from 'next/dynamic';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { messagesState } from './notify';

const Messages = dynamic(() => import('./Messages'), { ssr: false });

function MessagesWhenWanted() {
  const { wanted, onShown } = useStore(messagesState);
  return wanted && <Messages onShown={onShown} />;
}

export function Providers({ children }: { children: ReactNode }) {
  return (
    <ThemeProvider attribute="data-theme" defaultTheme="system" enableSystem disableTransitionOnChange>
      <Tooltip.Provider delayDuration={500}>
        {children}
        <MessagesWhenWanted />
      </Tooltip.Provider>
    </ThemeProvider>
  );
}
