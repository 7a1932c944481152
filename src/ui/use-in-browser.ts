'use client';

import { useSyncExternalStore } from 'react';

const never = () => () => {};

/** False while a page is prerendered and until it lives in the browser: only then its address is known. */
export const useInBrowser = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
