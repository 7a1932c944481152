import type { PlayState } from '@/core/playback/player';
import type { Program } from '@/core/playback/program';
import type { TempoMap } from '@/core/time/tempo-map';
import { seconds, ticks, type Ticks } from '@/core/units';

/** A program that the audio thread has, with what its ticks stand for in the part. */
export interface KnownProgram {
  program: Program;
  tempo: TempoMap;
  tickOf?: ((tick: Ticks) => Ticks) | undefined;
}

/** The tick of the part that plays at a moment of the audio clock, in seconds. */
export function tickPlayedAt(
  { program: p, tempo, tickOf = (tick) => tick }: KnownProgram,
  state: PlayState,
  rate: number,
  now: number,
): Ticks {
  let place = (now - state.anchorFrame / rate) / state.stretch;
  // Before the first pass there is a lead for early hits or a count-in; the cursor waits at the start.
  if (place < 0) return tickOf(p.startTick);
  if (p.loop && p.length > 0) place -= Math.floor(place / p.length) * p.length;
  return tickOf(ticks(tempo.toTicks(seconds(tempo.toSeconds(p.startTick) + place))));
}
