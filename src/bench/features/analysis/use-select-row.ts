'use client';

import type { VoiceName } from '@/core/row-names';
import { useBenchStore } from '../../store/context';

/** Selects all hits of a row. */
export function useSelectRow(): (voice: VoiceName) => void {
  const { getState } = useBenchStore();
  return (voice) =>
    getState().select(
      getState()
        .part.hits.filter((h) => h.voice === voice)
        .map((h) => h.id),
    );
}
