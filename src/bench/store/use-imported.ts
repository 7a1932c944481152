'use client';

import { useEffect } from 'react';
import { AS_IMPORTED } from '@/storage/version-store';
import { useBench, useBenchStore } from './context';
import { useVersions } from './use-versions';

/** Has the part as it was imported at hand for comparing, where it is kept. */
export function useImported(): void {
  const id = useBench((s) => s.id);
  const { getState } = useBenchStore();
  // The oldest of that name: what came first.
  const kept = useVersions(id).findLast((v) => v.name === AS_IMPORTED);
  useEffect(() => {
    getState().setUi({ imported: kept ? { id: kept.id, name: 'as imported', feel: kept.part.feel, part: kept.part } : null });
  }, [getState, kept]);
}
