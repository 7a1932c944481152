'use client';

import { useMemo } from 'react';
import { touchOf, chosenIds, type Touch } from '../../actions/act';
import { useBench } from '../../store/context';
import { calmPart } from '../../store/derived';

/** What the page's tools touch: the selection, or every hit where nothing is selected, without the locked ones. */
export function useTouched(): Touch & { all: boolean } {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  return useMemo(() => ({ ...touchOf(part, chosenIds({ part, selection })), all: selection.size === 0 }), [part, selection]);
}
