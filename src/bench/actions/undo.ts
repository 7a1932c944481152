import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** A step back, or forward, that says what it did. */
export function undo(store: BenchStore) {
  const { history, undo: back } = store.getState();
  const label = history.undo.at(-1)?.label;
  back();
  say(label ? `Undone: ${label}.` : 'There is nothing to undo.');
}

export function redo(store: BenchStore) {
  const { history, redo: forth } = store.getState();
  const label = history.redo.at(-1)?.label;
  forth();
  say(label ? `Redone: ${label}.` : 'There is nothing to redo.');
}
