import { grooveStore, type KeptGroove } from '@/storage/groove-store';
import { useStored } from '@/storage/use-stored';

const NONE: readonly KeptGroove[] = [];

/** The user's own grooves; none while they are read, or where the store refuses. */
export const useKeptGrooves = (): readonly KeptGroove[] => useStored(() => grooveStore.list().catch(() => NONE), []) ?? NONE;
