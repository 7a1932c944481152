'use client';

import { useEffect, useState } from 'react';
import type { Part } from '@/core/model/part';
import { sweepOf, type Sweep } from '@/editing/sweep';
import { useBench, useBenchStore } from './context';

/** A control's changes while it is swept; one that leaves the screen lets go, and keeps them unless told otherwise. */
export function useSweep(leaving: 'done' | 'cancel' = 'done'): Sweep<Part> {
  const { getState } = useBenchStore();
  const [sweep] = useState(() => sweepOf(getState().open, 'drag'));
  useEffect(() => sweep[leaving], [sweep, leaving]);
  return sweep;
}

/** Tries a change out: it is seen and heard at once, and stays a preview until it is kept, put back, or something else is done. */
export interface Trial extends Sweep<Part> {
  /** Whether what is tried is this trial's. */
  active: boolean;
}

export function useTrial(): Trial {
  const { getState } = useBenchStore();
  const [sweep] = useState(() => sweepOf(getState().open, 'trial'));
  const active = useBench((s) => sweep.owns(s.underway));
  return { ...sweep, active };
}
