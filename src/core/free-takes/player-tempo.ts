import type { Part } from '../model/part';
import { gridOfPlayer } from '../part/grid-of-player';
import { endOfPart, tempoMapOf } from '../part/part-time';
import { LONGEST_QUARTER, microsecondsOf, SHORTEST_QUARTER, TempoMap, type TempoChange } from '../time/tempo-map';
import { bpm, clamp, ticks, TICKS_PER_QUARTER, type Bpm, type Ticks } from '../units';
import { withTempoUnderLines, withTempoUnderTimes } from './retime';

/** Mean, slowest and fastest tempo of the player over the part's bars, in quarters per minute; null if unknown. */
export function rangeOfPlayer(part: Pick<Part, 'playerTempo' | 'meter' | 'origin' | 'bars'>): { mean: Bpm; min: Bpm; max: Bpm } | null {
  const { playerTempo, origin } = part;
  if (!playerTempo) return null;
  const map = new TempoMap(playerTempo);
  const end = endOfPart(part);
  const inside = playerTempo.filter((t) => t.tick >= origin && t.tick < end).map((t) => 60e6 / t.microsecondsPerQuarter);
  const mean = 60 / (((map.toSeconds(end) - map.toSeconds(origin)) * TICKS_PER_QUARTER) / (end - origin));
  return { mean: bpm(mean), min: bpm(Math.min(mean, ...inside)), max: bpm(Math.max(mean, ...inside)) };
}

/** Sets a steady tempo and keeps the feel: each hit keeps its line and its lean in ms. @param tempo quarters per minute */
export const setSteady = (part: Part, tempo: Bpm): Part =>
  withTempoUnderLines(part, [
    { tick: ticks(0), microsecondsPerQuarter: clamp(Math.round(microsecondsOf(tempo)), SHORTEST_QUARTER, LONGEST_QUARTER) },
  ]);

/** Restores the player's tempo and keeps the feel; returns the same part if none is known. */
export const followAgain = (part: Part): Part => (part.playerTempo ? withTempoUnderLines(part, part.playerTempo) : part);

/** A moved beat leaves at least this share of the two beats around it. */
const LEAST_SHARE = 0.1;

/**
 * Moves a beat of a grid that follows the player. The hits keep their times; the tempo before and after the beat changes.
 * @param index of a tempo change behind the first @param to seconds from the part's zero; clamped between its neighbours
 */
export function moveBeat(part: Part, index: number, to: number): Part {
  const { tempo } = part;
  const [before, beat, after] = [tempo[index - 1], tempo[index], tempo[index + 1]];
  if (!before || !beat) return part;
  const map = tempoMapOf(part);
  const from = map.toSeconds(before.tick);
  // After the last change its tempo continues.
  const until = after ? map.toSeconds(after.tick) : Infinity;
  const room = (after ? until - from : 4 * (map.toSeconds(beat.tick) - from)) * LEAST_SHARE;
  const at = clamp(to, from + room, after ? until - room : from + 9 * room);
  const length = (a: Ticks, b: Ticks): number => (b - a) / TICKS_PER_QUARTER;
  const first = micro((at - from) / length(before.tick, beat.tick));
  const reached = from + (first * length(before.tick, beat.tick)) / 1e6;
  const second = after ? micro((until - reached) / length(beat.tick, after.tick)) : beat.microsecondsPerQuarter;
  const moved: TempoChange[] = tempo.map((t, i) =>
    i === index - 1 ? { ...t, microsecondsPerQuarter: first } : i === index ? { ...t, microsecondsPerQuarter: second } : t,
  );
  const isPlayers = gridOfPlayer(part) === 'follows';
  return { ...withTempoUnderTimes(part, moved), ...(isPlayers ? { playerTempo: moved } : {}) };
}

const micro = (secondsPerQuarter: number): number => clamp(Math.round(secondsPerQuarter * 1e6), SHORTEST_QUARTER, LONGEST_QUARTER);
