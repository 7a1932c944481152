import type { Backing } from '../model/backing';
import type { Part } from '../model/part';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Unrolled } from '../song/unroll';
import { seconds, type Seconds } from '../units';
import type { Program } from './program';

/** A stretch of a recording that is to be heard: from where, how long, and when on the audio clock. */
export interface BackingSlice {
  at: Seconds;
  offset: Seconds;
  length: Seconds;
}

/**
 * What is played without a break: where it begins, counted from the start of playing; which place of the part that is, counted from its
 * first bar; how long it is. Seconds.
 */
export interface BackingSpan {
  begin: number;
  place: number;
  length: number;
}

/** A pass of what is played, counted from 0; null where there is none any more. */
export function stretchOfPass(
  part: Pick<Part, 'tempo' | 'origin'>,
  program: Pick<Program, 'startTick' | 'length' | 'loop'>,
  pass: number,
): BackingSpan | null {
  if (pass > 0 && !(program.loop && program.length > 0)) return null;
  const tempo = tempoMapOf(part);
  return { begin: pass * program.length, place: tempo.toSeconds(program.startTick) - tempo.toSeconds(part.origin), length: program.length };
}

/** The rounds of a running order: bars of the part, wherever they come. @param whole its length in seconds */
export function stretchesOfOrder(
  part: Pick<Part, 'tempo' | 'meter' | 'origin'>,
  { marks }: Pick<Unrolled, 'marks'>,
  whole: number,
): BackingSpan[] {
  const [tempo, meter] = [tempoMapOf(part), meterMapOf(part)];
  return marks.map(({ seconds: begin, round }, i) => ({
    begin,
    place: tempo.toSeconds(meter.barOf(round.from).start) - tempo.toSeconds(part.origin),
    length: (marks[i + 1]?.seconds ?? whole) - begin,
  }));
}

/**
 * What of a backing recording sounds in one stretch of what is played. Its first downbeat stands on the part's first bar; it goes at its
 * own
 * speed, so a part of another tempo drifts from it.
 * @param startedAt when playing began, on the audio clock
 * @param now what is over by then is left out
 * @returns null where the recording has nothing there
 */
export function sliceOf(
  { firstDownbeat, offsetMs, seconds: whole }: Pick<Backing, 'firstDownbeat' | 'offsetMs' | 'seconds'>,
  stretch: BackingSpan,
  startedAt: Seconds,
  now: Seconds,
): BackingSlice | null {
  const begin = startedAt + stretch.begin;
  // In the recording: where the stretch begins and ends.
  const from = firstDownbeat + stretch.place - offsetMs / 1000;
  const until = from + stretch.length;
  const late = Math.max(0, now - begin);
  const first = Math.max(0, from + late);
  const last = Math.min(whole, until);
  if (last - first <= 0) return null;
  return { at: seconds(begin + first - from), offset: seconds(first), length: seconds(last - first) };
}
