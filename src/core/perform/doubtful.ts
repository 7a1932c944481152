/**
 * Hits whose line is a matter of opinion: their home was read with little certainty, or, for a quantize move, they lie between two of its
 * lines
 * or are pulled to another line than their home stands for. Each is shown before it happens, and decided by hand where the nearest line is
 * wrong.
 */
import { homesOf } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf } from '../part/part-time';
import type { Hit } from '../model/part';
import { isTriplet, stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks, type Ticks } from '../units';
import { STRAIGHT, type QuantizeMove } from '../model/feel';
import { linesAround, pinnedPull, type LinesAround } from '../moves/quantize';
import { scopeTest } from '../feel/scope';
import type { Performable } from '../feel/work';
import { timesBefore } from './perform';

/** A hit is between two lines within this part of their gap around its middle. */
const MIDDLE = 0.2;

/** A hit that a quantize move could pull to the wrong line. */
export interface DoubtfulHit {
  /** Index of the hit in the part. */
  index: number;
  /** Straight places of the two lines of the move's grid around it: what its home would be. */
  earlier: Ticks;
  later: Ticks;
  /** Which of them it is pulled to unless it is decided: the nearest; null exactly between them, where it stays. */
  taken: 'earlier' | 'later' | null;
  /** How far it lies between them as it reaches the move, 0 at the earlier and 1 at the later. */
  share: number;
  /** The line that its home stands for, where that is one of the two. */
  home: 'earlier' | 'later' | null;
  /** Hits of its row in other bars that the move pulls to the earlier, and to the later line. */
  elsewhere: { earlier: number; later: number };
  /** How likely its home is, 0 to 1. */
  sure: number;
  why: 'unsure' | 'between' | 'another-line';
}

/** Everything that is doubtful for the quantize move of an index: what has been decided (its line chosen, or left alone) is not. */
export function doubtfulForMove(part: Performable, moveIndex: number): DoubtfulHit[] {
  const move = part.feel.moves[moveIndex];
  if (move?.kind !== 'quantize') return [];
  const homes = homesOf(part);
  const map = meterMapOf(part);
  const inScope = scopeTest(move.scope, part, homes);
  const times = timesBefore(part, moveIndex);
  const { step, swingPercent } = gridOf(move);
  const found: DoubtfulHit[] = [];
  part.hits.forEach((hit, index) => {
    if (hit.decided || hit.alone || hit.choke || !inScope(index)) return;
    const around = linesAround(map, times[index] as number, step, swingPercent);
    const share = shareOf(around, times[index] as number);
    const own = share < 0.5 ? around.before : around.after;
    const homeLine = pinnedPull(map, homes.ticks[index] as Ticks, step, swingPercent).line;
    const why =
      Math.abs(share - 0.5) <= MIDDLE ? 'between' : homeLine !== own ? 'another-line' : homes.doubtful[index] === 1 ? 'unsure' : null;
    if (!why) return;
    found.push({
      index,
      earlier: ticks(around.straightBefore),
      later: ticks(around.straightAfter),
      taken: share === 0.5 ? null : share < 0.5 ? 'earlier' : 'later',
      share,
      home: homeLine === around.before ? 'earlier' : homeLine === around.after ? 'later' : null,
      elsewhere: { earlier: 0, later: 0 },
      sure: hit.sure ?? 1,
      why,
    });
  });
  countElsewhere(part, map, times, found, step, swingPercent);
  return found;
}

const gridOf = (move: QuantizeMove) => ({ step: stepOf(move.grid), swingPercent: isTriplet(move.grid) ? STRAIGHT : move.swingPercent });

const shareOf = ({ before, after }: LinesAround, tick: number): number => (after === before ? 0 : (tick - before) / (after - before));

/** Counts, for each uncertain hit, which of its two lines the others of its row are nearest to at the same place of other bars. */
function countElsewhere(
  part: Performable,
  map: MeterMap,
  times: Float64Array,
  found: readonly DoubtfulHit[],
  step: Ticks,
  swingPercent: number,
) {
  if (found.length === 0) return;
  /** Row and place in the bar, by how many hits stand nearest to it; and which bars they are in. */
  const counts = new Map<string, Map<number, number>>();
  const placeOf = (voice: string, line: number): { key: string; bar: number } => {
    const bar = map.barAt(ticks(line));
    return { key: `${voice}@${line - bar.start}`, bar: bar.index };
  };
  const voices = new Set(found.map((d) => (part.hits[d.index] as Hit).voice));
  for (const voice of voices) {
    for (const i of indicesByVoice(part.hits).get(voice) ?? []) {
      const around = linesAround(map, times[i] as number, step, swingPercent);
      const { key, bar } = placeOf(voice, shareOf(around, times[i] as number) < 0.5 ? around.straightBefore : around.straightAfter);
      const bars = counts.get(key) ?? new Map<number, number>();
      bars.set(bar, (bars.get(bar) ?? 0) + 1);
      counts.set(key, bars);
    }
  }
  const totals = new Map([...counts].map(([key, bars]) => [key, [...bars.values()].reduce((a, b) => a + b, 0)]));
  for (const doubt of found) {
    const { voice } = part.hits[doubt.index] as Hit;
    const others = (line: Ticks): number => {
      const { key, bar } = placeOf(voice, line);
      return (totals.get(key) ?? 0) - (counts.get(key)?.get(bar) ?? 0);
    };
    doubt.elsewhere = { earlier: others(doubt.earlier), later: others(doubt.later) };
  }
}

const cache = new WeakMap<Performable['hits'], { part: Performable; flags: Uint8Array }>();

/** 1 for each hit that is doubtful in itself, or for a quantize move that is on. Made once a part. */
export function doubtfulFlags(part: Performable): Uint8Array {
  const known = cache.get(part.hits);
  if (
    known &&
    known.part.feel === part.feel &&
    known.part.meter === part.meter &&
    known.part.origin === part.origin &&
    known.part.tempo === part.tempo
  )
    return known.flags;
  const flags = homesOf(part).doubtful.slice();
  part.hits.forEach((hit, i) => {
    if (hit.alone) flags[i] = 0;
  });
  part.feel.moves.forEach((move, m) => {
    if (move.kind === 'quantize' && move.on !== false) for (const { index } of doubtfulForMove(part, m)) flags[index] = 1;
  });
  cache.set(part.hits, { part, flags });
  return flags;
}
