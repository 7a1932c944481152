'use client';

import { useStored } from '@/storage/use-stored';
import { feelStore, type KeptFeel } from '@/storage/feel-store';

const NONE: KeptFeel[] = [];

/** The user's own feels, by name. */
export const useFeels = (): KeptFeel[] => useStored(() => feelStore.list().catch(() => NONE), []) ?? NONE;
