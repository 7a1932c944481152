'use client';

import { useCallback, useRef } from 'react';
import type { Part } from '@/core/part/part';
import { useBench, useBenchStore } from '../store/context';

/** Tries a change out: it is seen and heard at once, and stays a preview until it is kept, put back, or something else is done. */
export interface Trial {
  /** Starts, or changes what is tried; always from the part as it was before. */
  show(label: string, command: (base: Part) => Part): void;
  /** Makes a step of it, or puts it back; nothing where it is over. */
  keep(): void;
  putBack(): void;
  /** Whether what is tried is this trial's. */
  active: boolean;
}

export function useTrial(): Trial {
  const { getState } = useBenchStore();
  const number = useRef<number | null>(null);
  const current = useBench((s) => s.gesture?.number ?? null);
  const show = useCallback(
    (label: string, command: (base: Part) => Part) => {
      if (number.current === null || getState().gesture?.number !== number.current) {
        getState().begin(label, true);
        number.current = getState().gesture?.number ?? null;
      }
      getState().preview(command, label);
    },
    [getState],
  );
  const own = useCallback(() => number.current !== null && getState().gesture?.number === number.current, [getState]);
  const keep = useCallback(() => own() && getState().commit(), [own, getState]);
  const putBack = useCallback(() => own() && getState().cancel(), [own, getState]);
  // eslint-disable-next-line react-hooks/refs -- the number is this hook's own and changes only with the store's gesture
  return { show, keep, putBack, active: current !== null && current === number.current };
}
