'use client';

import { useStored } from '@/storage/use-stored';
import { takeStore, type StoredTake } from '@/storage/take-store';
import { useBench } from '../../store/context';

const NONE: StoredTake[] = [];

/** How many takes the part has. */
export function useTakeCount(): number {
  const id = useBench((s) => s.id);
  return useStored(() => takeStore.count(id).catch(() => 0), [id]) ?? 0;
}

/** The part's takes, the newest first. */
export function useTakes(): StoredTake[] {
  const id = useBench((s) => s.id);
  return useStored(() => takeStore.list(id).catch(() => NONE), [id]) ?? NONE;
}
