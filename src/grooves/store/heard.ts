/** What is heard in the Grooves place: follows from its state alone. */
import { blendGrooves } from '@/core/groove/blend';
import type { Groove } from '@/core/model/groove';
import { neutralPart } from '@/core/groove/groove-part';
import { putGroove } from '@/core/commands/grooves';
import { startTempo, ticksOfBars } from '@/core/commands/settings';
import type { Part } from '@/core/model/part';
import type { ProgramRange } from '@/core/playback/program';
import type { Bpm } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { grooveOf, shownGroove, type GroovesState } from './grooves-store';

type Choice = Pick<GroovesState, 'own' | 'chosen' | 'live' | 'blend'>;

/** The groove that is heard and used: the blend where there is one, else the chosen groove. */
export function handGroove(state: Choice): Groove {
  const groove = shownGroove(state);
  const other = state.blend && grooveOf(state, state.blend.with);
  return other ? blendGrooves(groove, other, (state.blend as { share: number }).share) : groove;
}

/** The tempo that ms are told at. */
export const tempoOf = (state: Pick<GroovesState, 'stand' | 'tempo'>): Bpm => (state.stand ? startTempo(state.stand.part) : state.tempo);

/** The rows that are meant; undefined for all. */
export const chosenRows = ({ ticked }: Pick<GroovesState, 'ticked'>): VoiceName[] | undefined =>
  ticked.size > 0 ? [...ticked].sort() : undefined;

/** What is played on, without and with the groove, and which bars of it. */
export interface HeardGroove {
  plain: Part;
  grooved: Part;
  range: ProgramRange;
}

/** What is heard follows from these alone: who plays follows them, and nothing else. */
export const heardInputs = ({ own, chosen, live, blend, stand, ticked, lean, level, trying, tempo, bars }: GroovesState) => ({
  own,
  chosen,
  live,
  blend,
  stand,
  ticked,
  lean,
  level,
  trying,
  tempo,
  bars,
});
type HeardInputs = ReturnType<typeof heardInputs>;

const known = new WeakMap<GroovesState, HeardGroove>();

/** Made once for each state: a playhead asks at every frame. */
export function heardParts(state: GroovesState): HeardGroove {
  let heard = known.get(state);
  if (!heard) known.set(state, (heard = makeHeard(state)));
  return heard;
}

function makeHeard(state: HeardInputs): HeardGroove {
  const groove = handGroove(state);
  const { stand, bars, lean, level } = state;
  const plain = stand?.part ?? neutralPart(groove, state.tempo);
  const rows = stand ? chosenRows(state) : undefined;
  const grooved = !stand || state.trying ? putGroove(plain, groove, { voices: rows, lean, level }).part : plain;
  const range = ticksOfBars(plain, stand ? Math.min(bars.from, plain.bars - 1) : 0, stand ? Math.min(bars.to, plain.bars) : plain.bars);
  return {
    plain: stand && !state.trying ? { ...plain, feel: { ...plain.feel, sway: 0 } } : plain,
    grooved,
    range: { ...range, loop: true },
  };
}
