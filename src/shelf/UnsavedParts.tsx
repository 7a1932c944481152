'use client';

import { useRouter } from 'next/navigation';
import { useStore } from 'zustand';
import { unsavedParts } from '@/editing/unsaved';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';
import { savePartFile } from '@/ui/save-part-file';
import { benchOf } from './places';

/** Parts with edits that the store did not take: kept in memory while this tab is open. */
export function UnsavedParts() {
  const router = useRouter();
  const parts = useStore(unsavedParts);
  return [...parts].map(([id, { part, error, letGo }]) => {
    const now = part?.();
    if (!error || !now) return null;
    return (
      <div
        key={id}
        role="alert"
        data-testid="unsaved-part"
        className="mb-4 flex flex-wrap items-center gap-2 rounded-md border border-danger px-4 py-2"
      >
        <p className="mr-auto">
          <strong>{now.name}</strong> has edits that are not saved: {error.message}
        </p>
        <Button onClick={() => router.push(benchOf(id))}>Open it</Button>
        <Button onClick={() => void savePartFile(id, now).catch(showError)}>Save a part file</Button>
        <Button onClick={letGo}>Discard the edits</Button>
      </div>
    );
  });
}
