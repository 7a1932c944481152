'use client';

import { useStore } from 'zustand';
import { NamedError } from '@/core/errors';
import { storeHealth } from '@/storage/backing';

/** What has to be said of the browser's store, or null: work is kept in memory only, or the store owes an answer. */
export function useStoreWords(): string | null {
  const { keeping, silent } = useStore(storeHealth);
  if (keeping === 'memory') return 'The browser does not let this page keep data: work is kept until this tab is closed. Export what you want to keep.';
  if (!silent) return null;
  const { message, remedy } = new NamedError('store-silent');
  return `${message} ${remedy}`;
}

export function StoreNotice() {
  const words = useStoreWords();
  return words ? (
    <p role="alert" data-testid="store-notice" className="mb-4 rounded-md border border-danger px-4 py-2">
      {words}
    </p>
  ) : null;
}
