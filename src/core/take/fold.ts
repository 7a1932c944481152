import { COMPANION_MS, MOST_COMPANIONS, type Companion } from '../model/part';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { MeterMap } from '../time/meter-map';
import { TempoMap } from '../time/tempo-map';
import { milliseconds, seconds, ticks, velocity, type Ticks, type Velocity } from '../units';
import { opennessOfPedal } from '../articulation/openness';
import { type Openness } from '../articulation/openness';
import { HatPedal } from './hat-pedal';
import type { TakeEvent, Take } from '../model/take';
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
  /** Openness by the hat's pedal, 0 to 127, once the pedal has moved. */
  openness?: number;
  /** Where the pad was struck, 0 to 127, if the device sends it. */
  position?: number;
  /** Until it was let go; undefined where that is not known. It comes after the stroke itself. */
  length?: Ticks;
  /** How open the hat was, where its pedal says. */
  hat?: Openness;
  /** Not a key's: a foot's stroke on the hat, or the end of what rings there. */
  foot?: 'pedal' | 'splash' | 'damp';
  /** A hand around a cymbal: it ends what rings there. */
  grab?: true;
}

/** Pressure above this is a grab. */
export const GRAB = 64;
/** A stroke rings over from one pad to another within so many seconds, and is at most this share of it. */
const CROSSTALK_SECONDS = 0.015;
const CROSSTALK_SHARE = 0.6;

type Folding = Pick<Take, 'tempo' | 'meter' | 'origin' | 'start' | 'end' | 'latencyMs' | 'curve' | 'guards' | 'pads' | 'curves' | 'hat'>;

/** Folds a take event by event, as it is played: each costs the same however long the take is. */
export class TakeFolder {
  private readonly tempo: TempoMap;
  private readonly map: MeterMap;
  private readonly startSecond: number;
  private readonly length: number;
  private readonly lastOfKey = new Map<number, number>();
  /** Pedals and pressures that the next stroke may carry. */
  private waiting: TakeEvent[] = [];
  private next = 0;
  private readonly pedal: HatPedal | null;
  /** The foot's last stroke: it may turn out to have been a splash. */
  private footed: FoldedStroke | null = null;
  /** Strokes that are held, by key. */
  private readonly held = new Map<number, { stroke: FoldedStroke; at: number }>();
  private readonly pressures = new Map<number, number>();
  private openness: number | null = null;
  /** The last position received, for the next stroke. */
  private position: TakeEvent | null = null;
  /** The hardest of the latest strokes. */
  private hardest: TakeEvent | null = null;

  constructor(
    private readonly take: Folding,
    private readonly grid: GridName = '1/16',
  ) {
    this.tempo = new TempoMap(take.tempo);
    this.map = new MeterMap(take.meter, take.origin);
    this.startSecond = this.tempo.toSeconds(take.start);
    this.length = this.tempo.toSeconds(take.end) - this.startSecond;
    this.pedal = take.hat ? new HatPedal(take.hat) : null;
  }

  /** The stroke that the take's next event is; null where it is none, or is kept out by a guard. */
  add(e: TakeEvent): FoldedStroke | null {
    const event = this.next++;
    if (e.kind === 'off') return this.letGo(e);
    if (e.kind === 'position') {
      this.position = e;
      return null;
    }
    if (e.kind !== 'note') {
      if (e.kind === 'pedal') this.openness = opennessOfPedal(e.value, this.take.hat?.turned);
      this.waiting = [...this.waiting.filter((w) => (e.at - w.at) * 1000 <= COMPANION_MS), e];
      return e.kind === 'pedal' ? this.pedalled(e, event) : this.squeezed(e, event);
    }
    const { take } = this;
    if (e.value < Math.max(1, take.guards.below)) return null;
    const last = this.lastOfKey.get(e.key);
    if (last !== undefined && (e.at - last) * 1000 < take.guards.doubleMs) return null;
    if (this.isCrosstalk(e)) return null;
    this.lastOfKey.set(e.key, e.at);
    if (!this.hardest || e.at - this.hardest.at > CROSSTALK_SECONDS || e.value >= this.hardest.value) this.hardest = e;
    const companions = this.companionsOf(e);
    const stroke: FoldedStroke = {
      ...(companions.length > 0 ? { companions } : {}),
      ...(this.pedal?.openness ? { hat: this.pedal.openness } : {}),
      ...(this.openness === null ? {} : { openness: this.openness }),
      ...this.positionOf(e),
      event,
      ...this.placeOf(e),
      key: take.pads?.[e.key] ?? e.key,
      velocity: throughCurve(take.curves?.[e.key] ?? take.curve, e.value),
    };
    this.held.set(e.key, { stroke, at: e.at });
    return stroke;
  }

  /** The pass and the tick of a moment. */
  private placeOf(e: TakeEvent): Pick<FoldedStroke, 'pass' | 'tick'> {
    const { take, tempo, startSecond, length } = this;
    const at = e.at - take.latencyMs / 1000;
    const pass = Math.floor(at / length);
    const place = at - pass * length;
    const tick = tempo.toTicks(seconds(startSecond + place));
    const next = nearestLine(this.map, tick, stepOf(this.grid)).tick >= take.end;
    // Before the start the tempo of the start holds, or the map's own before it.
    const before = tempo.toTicks(seconds(startSecond + place - length));
    return { pass: next ? pass + 1 : pass, tick: ticks(Math.round(next ? before : tick)) };
  }

  /** A stroke that is let go has a length, by the tempo where it stands. */
  private letGo(e: TakeEvent): null {
    const held = this.held.get(e.key);
    if (held)
      held.stroke.length = ticks(
        Math.max(1, Math.round(this.tempo.shift(held.stroke.tick, milliseconds((e.at - held.at) * 1000)) - held.stroke.tick)),
      );
    this.held.delete(e.key);
    return null;
  }

  private pedalled(e: TakeEvent, event: number): FoldedStroke | null {
    const play = this.pedal?.move(e.at, e.value);
    if (!play) return null;
    if (play.kind === 'splash') {
      if (this.footed) this.footed.foot = 'splash';
      return null;
    }
    const stroke: FoldedStroke = {
      event,
      ...this.placeOf(e),
      key: e.key,
      velocity: play.kind === 'stroke' ? play.velocity : velocity(1),
      foot: play.kind === 'stroke' ? 'pedal' : 'damp',
    };
    this.footed = play.kind === 'stroke' ? stroke : null;
    return stroke;
  }

  private squeezed(e: TakeEvent, event: number): FoldedStroke | null {
    const before = this.pressures.get(e.key) ?? 0;
    this.pressures.set(e.key, e.value);
    if (before > GRAB || e.value <= GRAB) return null;
    return { event, ...this.placeOf(e), key: this.take.pads?.[e.key] ?? e.key, velocity: velocity(1), grab: true };
  }

  /** A position applies only to the stroke right after it. */
  private positionOf(e: TakeEvent): Pick<FoldedStroke, 'position'> {
    const { position } = this;
    this.position = null;
    return position && (e.at - position.at) * 1000 <= COMPANION_MS ? { position: position.value } : {};
  }

  private isCrosstalk(e: TakeEvent): boolean {
    const threshold = this.take.guards.crosstalk?.[e.key];
    const { hardest } = this;
    return (
      threshold !== undefined &&
      e.value < threshold &&
      hardest !== null &&
      hardest.key !== e.key &&
      e.at - hardest.at <= CROSSTALK_SECONDS &&
      e.value <= hardest.value * CROSSTALK_SHARE
    );
  }

  /** A pedal belongs to whatever is struck next, pressure to its own key. */
  private companionsOf(e: TakeEvent): Companion[] {
    const companions = this.waiting.flatMap((w): Companion[] => {
      const aheadMs = (e.at - w.at) * 1000;
      return (w.kind !== 'pedal' && w.kind !== 'pressure') || aheadMs > COMPANION_MS || (w.kind === 'pressure' && w.key !== e.key)
        ? []
        : [{ kind: w.kind, value: w.value, aheadMs: milliseconds(Math.max(0, aheadMs)) }];
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
export function foldTake(take: Folding, events: readonly TakeEvent[], grid: GridName = '1/16'): FoldedStroke[] {
  const folder = new TakeFolder(take, grid);
  return events.flatMap((e) => folder.add(e) ?? []);
}

/** Whether a stroke is recorded: see {@link recordedStrokes}. */
export const isRecorded = ({ pass }: FoldedStroke, passes: number, dropped: readonly number[] = []): boolean =>
  pass >= 0 && (passes === 0 || pass < passes) && !dropped.includes(pass);

/**
 * Strokes that were recorded: what was played in the count-in for the first downbeat counts, what was played before it does not, nor
 * what came after the last pass.
 * @param passes whole passes of the take; 0 while it is not known
 */
export const recordedStrokes = (strokes: readonly FoldedStroke[], passes = 0, dropped: readonly number[] = []): FoldedStroke[] =>
  strokes.filter((s) => isRecorded(s, passes, dropped));
