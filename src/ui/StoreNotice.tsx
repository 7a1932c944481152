'use client';

import { useStore } from 'zustand';
import { NamedError } from '@/core/errors';
import { storeHealth } from '@/storage/storage-backend';
import { dismissLoss, libraryLoss } from '@/storage/library-mark';
import { Button } from './Button';
import { lossWords, restoredWords } from './loss-words';

/** What has to be said of the browser's store, or null: work is kept in memory only, or the store owes an answer. */
export function useStoreWords(): string | null {
  const { lost, restored } = useStore(libraryLoss);
  const { keeping, silent } = useStore(storeHealth);
  if (keeping === 'memory')
    return 'The browser does not let this page store data. Your work is lost when you close this tab: export what you want to keep.';
  if (!silent) return lost ? lossWords(lost) : restored && restoredWords(restored);
  const { message, remedy } = new NamedError('store-silent');
  return `${message} ${remedy}`;
}

export function StoreNotice() {
  const { lost, restored } = useStore(libraryLoss);
  const words = useStoreWords();
  // The Shelf tells of a loss with what can be done about it.
  if (lost) return null;
  return words ? (
    <p role="alert" data-testid="store-notice" className="mb-4 rounded-md border border-danger px-4 py-2">
      {words}
      {restored && (
        <Button look="quiet" className="ml-2" onClick={dismissLoss}>
          Dismiss
        </Button>
      )}
    </p>
  ) : null;
}
