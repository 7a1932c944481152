'use client';

import { useStored } from '@/storage/use-stored';
import { versionStore, type KeptVersion } from '@/storage/version-store';

const NONE: KeptVersion[] = [];

/** The kept versions of a part, the newest first. */
export const useVersions = (partId: string): KeptVersion[] =>
  useStored(() => versionStore.list(partId).catch(() => NONE), [partId]) ?? NONE;
