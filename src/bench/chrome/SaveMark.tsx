'use client';

import { useStore } from 'zustand';
import { storeHealth } from '@/storage/storage-backend';
import { useRecorded } from '../recording/context';
import { useBench } from '../store/context';

const WORDS = {
  saved: 'saved in this browser',
  saving: 'saving …',
  failed: 'not saved',
  memory: 'kept in this tab only',
  behind: 'not safely saved yet',
} as const;

export function SaveMark() {
  const save = useBench((s) => s.save.kind);
  const inMemory = useStore(storeHealth, (s) => s.keeping === 'memory');
  const behind = useStore(storeHealth, (s) => s.copyBehind);
  // The pass that is played in is part of it: its strokes are kept one by one.
  const unkept = useRecorded((s) => s.unkept);
  const kind =
    save === 'saved' && unkept ? 'saving' : save === 'saved' && inMemory ? 'memory' : save === 'saved' && behind ? 'behind' : save;
  return (
    <p
      data-testid="save-state"
      role="status"
      className={`px-1 text-xs ${kind === 'failed' || kind === 'behind' ? 'font-semibold text-danger' : 'text-faint'}`}
    >
      {WORDS[kind]}
    </p>
  );
}
