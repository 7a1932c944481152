'use client';

import { useLiveQuery } from 'dexie-react-hooks';
import { versionStore, type KeptVersion } from '@/storage/version-store';

const NONE: KeptVersion[] = [];

/** The kept versions of a part, the newest first. */
export const useVersions = (partId: string): KeptVersion[] => useLiveQuery(() => versionStore.list(partId).catch(() => NONE), [partId]) ?? NONE;
