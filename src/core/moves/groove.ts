import type { Groove, GrooveStep } from '../model/groove';
import { stepsFor } from '../groove/steps';
import { indicesByVoice, voiceNumbers } from '../part/by-voice';
import type { MeterMap } from '../time/meter-map';
import { clamp, ticks, TICKS_PER_QUARTER } from '../units';
import type { GrooveMove } from '../model/feel';
import { roundOfBar } from '../time/cycle';
import { choice, number, optional, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** However far a groove leans, no step reaches the next. */
const MOST_OFFSET = 0.49;

/** What a groove says at a place: an offset in steps (already times `lean`, each step limited), and a level. */
export interface GrooveValue {
  offset: number;
  level: number;
}

/**
 * A groove's offset by linear interpolation between its steps and the level of the nearest step, at a written tick. Grooves longer
 * than a bar run over round(length / bar) bars, shorter ones restart at each; where a bar cuts one off, the last step leads to
 * step 0 of the next round.
 */
export function grooveAt(map: MeterMap, groove: Groove, steps: readonly GrooveStep[], tick: number, lean: number): GrooveValue {
  const step = TICKS_PER_QUARTER / groove.stepsPerBeat;
  const length = steps.length * step;
  const round = roundOfBar(map, map.barAt(ticks(tick)).index, length);
  const inRound = tick - round.start;
  const base = Math.floor(inRound / length) * length;
  const i = Math.min(steps.length - 1, Math.floor((inRound - base) / step));
  const here = base + i * step;
  const cut = round.end - round.start;
  // The next step's place: the round's end where it comes first.
  const next = Math.min(here + step, cut);
  const leadsOn = next === cut || i + 1 >= steps.length;
  const a = steps[i] as GrooveStep;
  const b = steps[leadsOn ? 0 : i + 1] as GrooveStep;
  const share = next > here ? (inRound - here) / (next - here) : 0;
  const limited = (s: GrooveStep): number => clamp(lean * s.offset, -MOST_OFFSET, MOST_OFFSET);
  return { offset: limited(a) + (limited(b) - limited(a)) * share, level: share >= 0.5 ? b.level : a.level };
}

/** Adds a groove's offsets and levels, by the line that a hit is on: all hits of a line move alike, and keep their own leans. */
const applyGroove: ApplyMove<GrooveMove> = (
  { groove, lean, level, at },
  { hits, written, lines, range, times, loudness, map },
  inScope,
) => {
  const places = at === 'written' ? written.ticks : lines;
  const step = TICKS_PER_QUARTER / groove.stepsPerBeat;
  const { numbers } = voiceNumbers(hits);
  const steps = [...indicesByVoice(hits).keys()].map((voice) => stepsFor(groove, voice));
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    const value = grooveAt(map, groove, steps[numbers[i] as number] as readonly GrooveStep[], places[i] as number, lean);
    times[i] = (times[i] as number) + value.offset * step;
    if (written.chokes[i] !== 1) loudness[i] = (loudness[i] as number) * (1 + level * (value.level - 1));
  }
};

export const grooveMove: MoveSpec<GrooveMove> = {
  kind: 'groove',
  members: { groove: { is: 'groove' }, lean: number(0, 1.5), level: number(0, 1.5), at: optional(choice(['home', 'written'])) },
  plain: { kind: 'groove', lean: 1, level: 1 },
  first: (_part, { groove }) => ({ groove }),
  salt: 'template',
  draws: false,
  apply: applyGroove,
};
