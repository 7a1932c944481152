'use client';

import { createContext, useContext, useMemo } from 'react';
import { useStore } from 'zustand';
import type { Groove } from '@/core/model/groove';
import { shownGroove, type GroovesState, type GroovesStoreApi } from './grooves-store';
import { handGroove } from './heard';

const Context = createContext<GroovesStoreApi | null>(null);

export const GroovesProvider = Context.Provider;

export function useGroovesStore(): GroovesStoreApi {
  const store = useContext(Context);
  if (!store) throw new Error('outside the Grooves place');
  return store;
}

/** Subscribes to a slice of the place. */
export const useGrooves = <T,>(slice: (state: GroovesState) => T): T => useStore(useGroovesStore(), slice);

/** The groove that is heard and used: a blend is made anew only where one of its sides changed. */
export function useHandGroove(): Groove {
  const own = useGrooves((s) => s.own);
  const chosen = useGrooves((s) => s.chosen);
  const live = useGrooves((s) => s.live);
  const blend = useGrooves((s) => s.blend);
  return useMemo(() => handGroove({ own, chosen, live, blend }), [own, chosen, live, blend]);
}

export const useShownGroove = (): Groove => useGrooves(shownGroove);
