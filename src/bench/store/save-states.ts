import type { SaveState } from '@/editing/saver';

/** What is told of several things that are saved by themselves: the one that failed, else one that is on its way. */
export function worstOf(states: Iterable<SaveState>): SaveState {
  let worst: SaveState = { kind: 'saved' };
  for (const state of states) {
    if (state.kind === 'failed') return state;
    if (state.kind === 'saving') worst = state;
  }
  return worst;
}
