'use client';

import { createContext, useContext } from 'react';
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
