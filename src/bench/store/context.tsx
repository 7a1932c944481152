'use client';

import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { BenchState, BenchStore } from './bench-store';

const Context = createContext<BenchStore | null>(null);

export const BenchProvider = Context.Provider;

export function useBenchStore(): BenchStore {
  const store = useContext(Context);
  if (!store) throw new Error('outside the Bench');
  return store;
}

/** Subscribes to a slice of the Bench. */
export function useBench<T>(slice: (state: BenchState) => T): T {
  return useStore(useBenchStore(), slice);
}

/**
 * The same for what only shows numbers: while an edit sweeps it follows at every second frame, so that the stems have the others.
 * What it shows may be two frames old; handlers must read the store.
 */
export function useBenchSwept<T>(slice: (state: BenchState) => T): T {
  const store = useBenchStore();
  const subscribe = useCallback(
    (notify: () => void) => {
      let frame = 0;
      const later = () => {
        frame = requestAnimationFrame(() => {
          frame = 0;
          notify();
        });
      };
      const stop = store.subscribe(({ underway }) => {
        if (underway) return void (frame ||= requestAnimationFrame(later));
        cancelAnimationFrame(frame);
        frame = 0;
        notify();
      });
      return () => {
        stop();
        cancelAnimationFrame(frame);
      };
    },
    [store],
  );
  const snapshot = () => slice(store.getState());
  return useSyncExternalStore(subscribe, snapshot, snapshot);
}
