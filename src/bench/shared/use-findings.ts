'use client';

import { useEffect } from 'react';
import type { PageFinding } from '../store/ui-state';
import { useBenchStore } from '../store/context';

/** Lets one key step through what a page lists, as long as the list is shown. @param findings the same list as long as it says the same */
export function useFindings(findings: readonly PageFinding[]): void {
  const { getState } = useBenchStore();
  useEffect(() => {
    getState().setUi({ findings });
    return () => {
      if (getState().ui.findings === findings) getState().setUi({ findings: null });
    };
  }, [getState, findings]);
}
