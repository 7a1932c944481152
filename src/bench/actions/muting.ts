import { setMuted } from '@/core/commands/marks';
import type { BenchStore } from '../store/bench-store';
import { actOnSelection } from './act';

/** Mutes the selected hits, or lets them sound again where all of them are muted. */
export function muteSelection(store: BenchStore): void {
  const { part, selection } = store.getState();
  const muted = part.hits.filter((h) => selection.has(h.id)).every((h) => h.muted);
  actOnSelection(store, muted ? 'Unmute' : 'Mute', (p, ids) => setMuted(p, ids, !muted));
}
