import { createStore } from 'zustand/vanilla';
import type { NamedError } from '@/core/errors';
import type { Part } from '@/core/model/part';

/** Work that is not in the store. */
export interface Unsaved {
  /** The part as it stands now, where it is a part. */
  part?: () => Part;
  /** Why it could not be written; null while it is being written. */
  error: NamedError | null;
  /** Forgets the edits. */
  letGo: () => void;
}

/** All such work, parts by their id, while this tab is open. */
export const unsavedParts = createStore<ReadonlyMap<string, Unsaved>>(() => new Map());

const savers = new Set<(id: string) => void>();

/** Hears of each part that is saved after all, or let go. */
export const onSettled = (hear: (id: string) => void): void => void savers.add(hear);

/** Says that there is such work, or (null) that there is none any more. While there are any, leaving the tab is asked about. */
export function markUnsaved(id: string, unsaved: Unsaved | null): void {
  const parts = new Map(unsavedParts.getState());
  if (unsaved) parts.set(id, unsaved);
  else if (!parts.delete(id)) return;
  else for (const hear of savers) hear(id);
  unsavedParts.setState(parts, true);
  if (typeof window === 'undefined') return;
  window.removeEventListener('beforeunload', ask);
  if (parts.size > 0) window.addEventListener('beforeunload', ask);
}

const ask = (e: BeforeUnloadEvent): void => e.preventDefault();
