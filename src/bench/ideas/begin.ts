/** The ways to ideas; what is done with them is loaded with the first press. */
import { showError } from '@/ui/notify';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';

const loaded = () => import('./ideas');

/** Copies the loop to a new idea. */
export const newIdea = (store: BenchStore, playback: Playback): void =>
  void loaded()
    .then((m) => m.newIdea(store, playback))
    .catch(showError);

/** Goes to the next idea or the one before, at once or with the bar line. */
export const stepIdea = (store: BenchStore, playback: Playback, by: number, when: 'now' | 'bar'): void =>
  void loaded()
    .then((m) => m.stepIdea(store, playback, by, when))
    .catch(showError);
