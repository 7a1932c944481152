'use client';

import { useEffect } from 'react';
import { useBench, useBenchStore } from './context';
import { useVersions } from './use-versions';

/** Has the part as it was imported at hand for comparing, where it is kept. */
export function useImported(): void {
  const id = useBench((s) => s.id);
  const { getState } = useBenchStore();
  const kept = useVersions(id).findLast((v) => v.origin === 'import');
  useEffect(() => {
    getState().setUi({ imported: kept ? { id: kept.id, name: 'as imported', feel: kept.part.feel, part: kept.part } : null });
  }, [getState, kept]);
}
