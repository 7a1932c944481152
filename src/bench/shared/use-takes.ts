'use client';

import { takesOf } from '@/core/take/use-take';
import { useStored } from '@/storage/use-stored';
import { takeStore, type StoredTake } from '@/storage/take-store';
import { useBench } from '../store/context';

const NONE: StoredTake[] = [];

/** How many takes the part has. */
export function useTakeCount(): number {
  const id = useBench((s) => s.id);
  const deleted = useBench((s) => s.part.deletedTakes);
  const ids = useStored(() => takeStore.ids(id).catch(() => []), [id]) ?? [];
  return takesOf(deleted ? { deletedTakes: deleted } : {}, ids, (t) => t).length;
}

/** The part's takes, the newest first. */
export function useTakes(): StoredTake[] {
  const id = useBench((s) => s.id);
  const deleted = useBench((s) => s.part.deletedTakes);
  const all = useStored(() => takeStore.list(id).catch(() => NONE), [id]) ?? NONE;
  return takesOf(deleted ? { deletedTakes: deleted } : {}, all, (t) => t.take.id);
}
