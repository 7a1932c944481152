import type { Performance } from '../feel/perform';
import { tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import type { TempoChange } from '../time/tempo-map';
import { clamp, ticks, type Ticks } from '../units';
import { gainOfVelocity } from './mixer';
import type { VoiceName } from '../voices';

/**
 * What the player plays: performed hits as seconds from the loop's start, in plain arrays that cross a thread's border.
 * Hits belong to the loop by their home: an offset may be negative (pushed before the start) or beyond the end.
 */
export interface Program {
  startTick: Ticks;
  endTick: Ticks;
  /** Seconds from startTick to endTick. */
  length: number;
  loop: boolean;
  tempo: TempoChange[];
  offsets: Float64Array;
  /** Seconds of each hit's home from the loop's start: decides which hits a start in mid-loop plays. */
  homes: Float64Array;
  /** A number for each hit that stays the same from program to program. */
  slots: Int32Array;
  /** Index into the player's voices. */
  voices: Uint16Array;
  velocities: Uint8Array;
  /** -100 (left) to 100 (right). */
  pans: Int8Array;
  /** Semitones. */
  pitches: Float32Array;
  /** -100 to 100. */
  brightness: Int8Array;
  /** 1: sounds nothing and ends the ring of its voice. */
  chokes: Uint8Array;
}

export interface ProgramRange {
  start: Ticks;
  end: Ticks;
  loop: boolean;
}

/** The rows that sound: soloed ones where any is, and none that is muted. */
export function audibleVoices(part: Pick<Part, 'rows'>): Set<VoiceName> {
  const solo = part.rows.some((r) => r.soloed);
  return new Set(part.rows.filter((r) => !r.muted && (!solo || r.soloed)).map((r) => r.voice));
}

/** How loud a program is as a whole: the energy of its hits a second. */
export function loudnessOf(program: Pick<Program, 'velocities' | 'length' | 'chokes'>): number {
  let energy = 0;
  program.velocities.forEach((v, i) => {
    if (program.chokes[i] !== 1) energy += gainOfVelocity(v) ** 2;
  });
  return program.length > 0 ? energy / program.length : 0;
}

/** No version is made louder or softer than by this factor. */
const MOST_GAIN = 4;

/** The factor that makes a program as loud as another. */
export function equalGain(of: Pick<Program, 'velocities' | 'length' | 'chokes'>, as: Pick<Program, 'velocities' | 'length' | 'chokes'>): number {
  const own = loudnessOf(of);
  return own === 0 ? 1 : clamp(Math.sqrt(loudnessOf(as) / own), 1 / MOST_GAIN, MOST_GAIN);
}

/** Makes the program of a range from performed hits. `slotOf` and `voiceIndex` name hits and voices for the player. */
export function makeProgram(
  part: Pick<Part, 'hits' | 'tempo' | 'rows'>,
  performance: Performance,
  range: ProgramRange,
  slotOf: (hit: Hit) => number,
  voiceIndex: (voice: VoiceName) => number,
): Program {
  const map = tempoMapOf(part);
  const audible = audibleVoices(part);
  const startSecond = map.toSeconds(range.start);
  const chosen: number[] = [];
  for (let i = 0; i < part.hits.length; i++) {
    const home = performance.homes.ticks[i] as number;
    if (home >= range.start && home < range.end && audible.has((part.hits[i] as Hit).voice)) chosen.push(i);
  }
  const hitAt = (i: number): Hit => part.hits[i] as Hit;
  return {
    startTick: range.start,
    endTick: range.end,
    length: map.toSeconds(range.end) - startSecond,
    loop: range.loop,
    tempo: map.toChanges(),
    offsets: Float64Array.from(chosen, (i) => map.toSeconds(ticks(performance.ticks[i] as number)) - startSecond),
    homes: Float64Array.from(chosen, (i) => map.toSeconds(ticks(performance.homes.ticks[i] as number)) - startSecond),
    slots: Int32Array.from(chosen, (i) => slotOf(hitAt(i))),
    voices: Uint16Array.from(chosen, (i) => voiceIndex(hitAt(i).voice)),
    velocities: Uint8Array.from(chosen, (i) => performance.velocities[i] as number),
    pans: Int8Array.from(chosen, (i) => hitAt(i).pan ?? 0),
    pitches: Float32Array.from(chosen, (i) => hitAt(i).pitch ?? 0),
    brightness: Int8Array.from(chosen, (i) => hitAt(i).brightness ?? 0),
    chokes: Uint8Array.from(chosen, (i) => (hitAt(i).choke ? 1 : 0)),
  };
}
