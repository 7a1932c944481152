'use client';

import { useLiveQuery } from 'dexie-react-hooks';
import { feelStore, type KeptFeel } from '@/storage/feel-store';

const NONE: KeptFeel[] = [];

/** The user's own feels, by name. */
export const useFeels = (): KeptFeel[] => useLiveQuery(() => feelStore.list().catch(() => NONE), []) ?? NONE;
