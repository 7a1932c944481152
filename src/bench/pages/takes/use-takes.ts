'use client';

import { useStored } from '@/storage/use-stored';
import { takeStore, type StoredTake } from '@/storage/take-store';
import { useBench } from '../../store/context';

const NONE: StoredTake[] = [];

/** The part's takes, the newest first. */
export function useTakes(): StoredTake[] {
  const id = useBench((s) => s.id);
  return useStored(() => takeStore.list(id).catch(() => NONE), [id]) ?? NONE;
}
