'use client';

import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import { opened, storeHealth } from './storage-backend';
import { database } from './database';

/** What a query of the store answers, again whenever that changes, in this tab or another. Undefined until the store is open. */
export function useStored<T>(query: () => Promise<T>, about: unknown[]): T | undefined {
  const ready = useStore(storeHealth, (s) => s.keeping !== 'opening');
  useEffect(() => void opened(database), []);
  return useLiveQuery(() => (ready ? query() : undefined), [ready, ...about]);
}
