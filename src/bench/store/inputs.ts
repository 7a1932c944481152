/** What the canvas, the strip and the player follow: each is made from these members alone, so that nothing else makes it anew. */
import { shallow as same } from 'zustand/shallow';
import type { BenchState } from './bench-store';

export { same };

/** What the stems are drawn from. */
export const sceneInputs = ({ part, underway, view, selection, focus, whole, transport, desk }: BenchState) => ({
  part,
  view,
  selection,
  focus,
  whole,
  // While something is under way, words and marks that sum up the whole part wait.
  calm: underway === null,
  version: transport.version,
  step: desk.step,
  proposal: desk.proposal,
  openMove: desk.openMove,
  other: desk.other,
});

/** What the strip of all bars is drawn from. */
export const stripInputs = ({ underway, whole, view, transport }: BenchState) => ({ underway, whole, view, transport });

/** What is played. */
export const programInputs = ({ part, transport, desk }: BenchState) => ({ part, transport, other: desk.other, equalLoudness: desk.equalLoudness, proposal: desk.proposal });
export type ProgramInputs = ReturnType<typeof programInputs>;
