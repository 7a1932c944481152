'use client';

import { useMemo } from 'react';
import { withVoices } from '@/core/breaks/rows';
import LearnFromBench from '../../dialogs/LearnFromBench';
import { useBench, useBenchStore } from '../../store/context';

/** Learns a groove from the part that is open, or from what is selected in it. */
export function LearnSelected() {
  const part = useBench((s) => s.part);
  const learnt = useMemo(() => withVoices(part), [part]);
  const selected = useBench((s) => s.selection);
  const { getState } = useBenchStore();
  return <LearnFromBench part={learnt} selected={selected} onClose={() => getState().setUi({ dialog: null })} />;
}
