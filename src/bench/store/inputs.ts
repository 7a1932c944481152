/** What the canvas, the strip and the player follow: each is made from these members alone, so that nothing else makes it anew. */
import { shallow as same } from 'zustand/shallow';
import type { BenchState } from './bench-store';

export { same };

/** What the stems are drawn from. */
export const sceneInputs = ({ part, underway, view, selection, focus, whole, hands, transport, ui }: BenchState) => ({
  part,
  view,
  selection,
  focus,
  whole,
  // While something is under way, words and marks that sum up the whole part wait.
  calm: underway === null,
  version: transport.version,
  step: ui.step,
  proposal: ui.proposal,
  openMove: ui.openMove,
  other: ui.other,
  hands: ui.sticking ? hands : null,
});

/** What the strip of all bars is drawn from. */
export const stripInputs = ({ underway, whole, view, transport }: BenchState) => ({ underway, whole, view, transport });

/** What is played. */
export const programInputs = ({ part, idea, transport, ui }: BenchState) => ({
  part,
  idea,
  transport,
  other: ui.other,
  equalLoudness: ui.equalLoudness,
  proposal: ui.proposal,
});
/** The same of another idea, or of the part itself while one is open; null where it is gone. */
export function inputsOf(state: BenchState, idea: string | null): ProgramInputs | null {
  if (idea === state.idea) return programInputs(state);
  const part = idea === null ? state.main : state.ideas.find((i) => i.id === idea)?.part;
  return part ? { ...programInputs(state), part, idea, other: null, proposal: null } : null;
}

export type ProgramInputs = ReturnType<typeof programInputs>;
