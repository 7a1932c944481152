'use client';

import { useEffect } from 'react';

/** Begins to keep the application for working offline, once the page is there and idle. */
export function KeepOffline() {
  useEffect(() => {
    if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return;
    const begin = () => void import('./versions').then(({ keepOffline }) => keepOffline(navigator.serviceWorker)).catch(() => undefined);
    const whenIdle = () => ('requestIdleCallback' in window ? window.requestIdleCallback(begin, { timeout: 10_000 }) : begin());
    if (document.readyState === 'complete') whenIdle();
    else window.addEventListener('load', whenIdle, { once: true });
  }, []);
  return null;
}
