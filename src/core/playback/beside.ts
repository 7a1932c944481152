import type { Backing } from '../model/backing';
import type { Part } from '../model/part';
import { tempoMapOf } from '../part/part-time';
import { seconds, type Seconds } from '../units';
import type { Program } from './program';

/** A stretch of a recording that is to be heard: from where, how long, and when on the audio clock. */
export interface BackingSlice {
  at: Seconds;
  offset: Seconds;
  length: Seconds;
}

/**
 * What of a backing recording sounds in one pass of what is played. Its first downbeat stands on the part's first bar; it goes at its own
 * speed, so a part of another tempo drifts from it.
 * @param startedAt of the first pass, on the audio clock
 * @param now what is over by then is left out
 * @returns null where the recording has nothing there
 */
export function sliceOfPass(part: Pick<Part, 'tempo' | 'origin'>, { firstDownbeat, offsetMs, seconds: whole }: Pick<Backing, 'firstDownbeat' | 'offsetMs' | 'seconds'>, program: Pick<Program, 'startTick' | 'length' | 'loop'>, startedAt: Seconds, pass: number, now: Seconds): BackingSlice | null {
  const tempo = tempoMapOf(part);
  const place = tempo.toSeconds(program.startTick) - tempo.toSeconds(part.origin);
  const begin = startedAt + pass * program.length;
  // In the recording: where the pass begins and ends.
  const from = firstDownbeat + place - offsetMs / 1000;
  const until = from + program.length;
  const late = Math.max(0, now - begin);
  const first = Math.max(0, from + late);
  const last = Math.min(whole, until);
  if (last - first <= 0) return null;
  return { at: seconds(begin + first - from), offset: seconds(first), length: seconds(last - first) };
}
