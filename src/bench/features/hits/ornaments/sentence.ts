'use client';

import type { ComponentType } from 'react';
import { changeOrnament } from '@/core/commands/ornaments';
import type { Ornament, OrnamentKind } from '@/core/model/ornament';
import type { Part } from '@/core/model/part';
import { actOnSelection, touchOf } from '../../../actions/act';
import { useBenchStore } from '../../../store/context';
import { useSweep } from '../../../store/use-sweep';

/** An ornament as a sentence whose words and numbers are edited in place; `index` is its hit's in the part. */
export type OrnamentSentence<O = Ornament> = ComponentType<{ part: Part; index: number; ornament: O }>;

export const narrow = '[&_input]:w-[3em]';

/** How an ornament is changed from its sentence: numbers are swept, choices are one step each. */
export function useOrnamentEdit<K extends OrnamentKind>(kind: K) {
  const store = useBenchStore();
  const { getState } = store;
  type Change = Partial<Extract<Ornament, { kind: K }>>;
  const sweep = useSweep();
  return {
    sweep: (change: Change) => {
      const { part, selection } = getState();
      const { ids, what } = touchOf(part, selection);
      sweep.show(`Change the ${kind} of ${what}`, (p) => changeOrnament(p, ids, kind, change));
    },
    done: sweep.done,
    cancel: sweep.cancel,
    set: (change: Change) => actOnSelection(store, `Change the ${kind} of`, (p, ids) => changeOrnament(p, ids, kind, change)),
  };
}
