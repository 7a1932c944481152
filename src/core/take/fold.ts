import { COMPANION_MS, MOST_COMPANIONS, type Companion } from '../model/part';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { MeterMap } from '../time/meter-map';
import { TempoMap } from '../time/tempo-map';
import { milliseconds, seconds, ticks, type Ticks, type Velocity } from '../units';
import type { RawEvent, Take } from '../model/take';
import { throughCurve } from '../velocity-curve';

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

/** Folds a take event by event, as it is played: each costs the same however long the take is. */
export class TakeFolder {
  private readonly tempo: TempoMap;
  private readonly map: MeterMap;
  private readonly startSecond: number;
  private readonly length: number;
  private readonly lastOfKey = new Map<number, number>();
  /** Pedals and pressures that the next stroke may carry. */
  private waiting: RawEvent[] = [];
  private next = 0;

  constructor(
    private readonly take: Folding,
    private readonly grid: GridName = '1/16',
  ) {
    this.tempo = new TempoMap(take.tempo);
    this.map = new MeterMap(take.meter, take.origin);
    this.startSecond = this.tempo.toSeconds(take.start);
    this.length = this.tempo.toSeconds(take.end) - this.startSecond;
  }

  /** The stroke that the take's next event is; null where it is none, or is kept out by a guard. */
  add(e: RawEvent): FoldedStroke | null {
    const event = this.next++;
    if (e.kind !== 'note') {
      this.waiting = [...this.waiting.filter((w) => (e.at - w.at) * 1000 <= COMPANION_MS), e];
      return null;
    }
    const { take, tempo, startSecond, length } = this;
    if (e.value < Math.max(1, take.guards.below)) return null;
    const last = this.lastOfKey.get(e.key);
    if (last !== undefined && (e.at - last) * 1000 < take.guards.doubleMs) return null;
    this.lastOfKey.set(e.key, e.at);
    const at = e.at - take.latencyMs / 1000;
    const pass = Math.floor(at / length);
    const place = at - pass * length;
    const tick = tempo.toTicks(seconds(startSecond + place));
    const next = nearestLine(this.map, tick, stepOf(this.grid)).tick >= take.end;
    // Before the start the tempo of the start holds, or the map's own before it.
    const before = tempo.toTicks(seconds(startSecond + place - length));
    const companions = this.companionsOf(e);
    return { ...(companions.length > 0 ? { companions } : {}), event, pass: next ? pass + 1 : pass, tick: ticks(Math.round(next ? before : tick)), key: take.pads?.[e.key] ?? e.key, velocity: throughCurve(take.curve, e.value) };
  }

  /** A pedal belongs to whatever is struck next, pressure to its own key. */
  private companionsOf(e: RawEvent): Companion[] {
    const companions = this.waiting.flatMap((w): Companion[] => {
      const aheadMs = (e.at - w.at) * 1000;
      return w.kind === 'note' || aheadMs > COMPANION_MS || (w.kind === 'pressure' && w.key !== e.key) ? [] : [{ kind: w.kind, value: w.value, aheadMs: milliseconds(Math.max(0, aheadMs)) }];
    });
    this.waiting = [];
    return companions.slice(-MOST_COMPANIONS);
  }
}

/**
 * Places the strokes of a take: latency off, velocities through the curve, guards applied, passes laid over each other. A stroke whose
 * nearest line of the grid is the loop's end belongs to the next pass's downbeat and stands before the loop's start.
 * @example a stroke 10 ms before the loop's end has the tick 10 ms before its start, in the next pass
 */
export function foldTake(take: Folding, events: readonly RawEvent[], grid: GridName = '1/16'): FoldedStroke[] {
  const folder = new TakeFolder(take, grid);
  return events.flatMap((e) => folder.add(e) ?? []);
}

/** Whether a stroke is recorded: see {@link recordedStrokes}. */
export const isRecorded = ({ pass }: FoldedStroke, passes: number, dropped: readonly number[] = []): boolean => pass >= 0 && (passes === 0 || pass < passes) && !dropped.includes(pass);

/**
 * Strokes that were recorded: what was played in the count-in for the first downbeat counts, what was played before it does not, nor
 * what came after the last pass.
 * @param passes whole passes of the take; 0 while it is not known
 */
export const recordedStrokes = (strokes: readonly FoldedStroke[], passes = 0, dropped: readonly number[] = []): FoldedStroke[] => strokes.filter((s) => isRecorded(s, passes, dropped));
