'use client';

import { useEffect } from 'react';
import type { SoundEngine } from '@/sound/engine';
import type { GroovesState, GroovesStoreApi } from './store/grooves-store';
import type { Hearing } from './store/use-hearing';

declare global {
  interface Window {
    /** What tests may read of the Grooves place. Nothing in the product uses it. */
    nodSwayGrooves?: { state: () => GroovesState; engine: SoundEngine };
  }
}

export function useGroovesDiagnostics(store: GroovesStoreApi, hearing: Hearing): void {
  useEffect(() => {
    window.nodSwayGrooves = { state: store.getState, engine: hearing.engine };
    return () => {
      delete window.nodSwayGrooves;
    };
  }, [store, hearing]);
}
