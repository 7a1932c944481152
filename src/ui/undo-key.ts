'use client';

import { useEffect } from 'react';
import { showError, tell } from './notify';

/** What was deleted in places that have no history of their own, the last one last: Ctrl Z brings it back, as everywhere. */
const waiting: { putBack: () => Promise<unknown> }[] = [];
const MOST_KEPT = 50;

/** Tells what was deleted; the choice beside it, or Ctrl Z, puts it back. */
export function tellDeleted(text: string, putBack: () => Promise<unknown>): void {
  const entry = { putBack };
  waiting.push(entry);
  if (waiting.length > MOST_KEPT) waiting.shift();
  tell(text, { label: 'Undo', onClick: () => bringBack(entry) });
}

function bringBack(entry: (typeof waiting)[number] | undefined): boolean {
  const at = entry ? waiting.indexOf(entry) : -1;
  // It is back already.
  if (!entry || at < 0) return false;
  waiting.splice(at, 1);
  entry.putBack().catch(showError);
  return true;
}

/** Puts the last deleted thing back. @returns whether there was one */
export const undoDelete = (): boolean => bringBack(waiting.at(-1));

/** Ctrl Z of a place that has no history of its own. Fields keep theirs. */
export function useUndoKey(): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() !== 'z' || !(e.ctrlKey || e.metaKey) || e.shiftKey || e.defaultPrevented) return;
      const field = e.target instanceof HTMLElement && e.target.closest('input:not([type=checkbox]), textarea, [contenteditable=true]');
      if (!field && undoDelete()) e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
