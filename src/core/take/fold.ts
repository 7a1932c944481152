import { COMPANION_MS, MOST_COMPANIONS, type Companion } from '../model/part';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { MeterMap } from '../time/meter-map';
import { TempoMap } from '../time/tempo-map';
import { milliseconds, seconds, ticks, type Ticks, type Velocity } from '../units';
import { throughCurve } from './velocity-curve';
import type { RawEvent, Take } from '../model/take';

/** A stroke of a take at its place in the loop. */
export interface FoldedStroke {
  /** Index of its raw event. */
  event: number;
  /** From 0; -1 where it was played in the count-in. */
  pass: number;
  /** A stroke just before the loop's start stands before it: its line is the downbeat. */
  tick: Ticks;
  key: number;
  velocity: Velocity;
  companions?: readonly Companion[];
}

type Folding = Pick<Take, 'tempo' | 'meter' | 'origin' | 'start' | 'end' | 'latencyMs' | 'curve' | 'guards' | 'pads'>;

/**
 * Places the strokes of a take: latency off, velocities through the curve, guards applied, passes laid over each other. A stroke whose
 * nearest line of the grid is the loop's end belongs to the next pass's downbeat and stands before the loop's start.
 * @example a stroke 10 ms before the loop's end has the tick 10 ms before its start, in the next pass
 */
export function foldTake(take: Folding, events: readonly RawEvent[], grid: GridName = '1/16'): FoldedStroke[] {
  const tempo = new TempoMap(take.tempo);
  const map = new MeterMap(take.meter, take.origin);
  const startSecond = tempo.toSeconds(take.start);
  const length = tempo.toSeconds(take.end) - startSecond;
  const lastOfKey = new Map<number, number>();
  const strokes: FoldedStroke[] = [];
  let waiting: RawEvent[] = [];
  events.forEach((e, event) => {
    if (e.kind !== 'note') return void waiting.push(e);
    if (e.value < Math.max(1, take.guards.below)) return;
    const last = lastOfKey.get(e.key);
    if (last !== undefined && (e.at - last) * 1000 < take.guards.doubleMs) return;
    lastOfKey.set(e.key, e.at);
    const at = e.at - take.latencyMs / 1000;
    const pass = Math.floor(at / length);
    const place = at - pass * length;
    const tick = tempo.toTicks(seconds(startSecond + place));
    const next = nearestLine(map, tick, stepOf(grid)).tick >= take.end;
    // Before the start the tempo of the start holds, or the map's own before it.
    const before = tempo.toTicks(seconds(startSecond + place - length));
    // A pedal belongs to whatever is struck next, pressure to its own key.
    const companions = waiting.flatMap((w): Companion[] => {
      const aheadMs = (e.at - w.at) * 1000;
      return w.kind === 'note' || aheadMs > COMPANION_MS || (w.kind === 'pressure' && w.key !== e.key) ? [] : [{ kind: w.kind, value: w.value, aheadMs: milliseconds(Math.max(0, aheadMs)) }];
    });
    waiting = [];
    strokes.push({ ...(companions.length > 0 ? { companions: companions.slice(-MOST_COMPANIONS) } : {}), event, pass: next ? pass + 1 : pass, tick: ticks(Math.round(next ? before : tick)), key: take.pads?.[e.key] ?? e.key, velocity: throughCurve(take.curve, e.value) });
  });
  return strokes;
}

/**
 * Strokes that were recorded: what was played in the count-in for the first downbeat counts, what was played before it does not, nor
 * what came after the last pass.
 * @param passes whole passes of the take; 0 while it is not known
 */
export const recordedStrokes = (strokes: readonly FoldedStroke[], passes = 0): FoldedStroke[] => strokes.filter((s) => s.pass >= 0 && (passes === 0 || s.pass < passes));
