import { bisector } from 'd3-array';
import { ticks, TICKS_PER_WHOLE, type Ticks } from '../units';

/** A meter from a tick on. Ticks count from the file's zero with origin 0; the origin moves the whole map. */
export interface MeterChange {
  tick: Ticks;
  numerator: number;
  denominator: number;
  /** Units a beat, adding up to the numerator; without it {@link defaultGroups} holds. */
  groups?: readonly number[];
}

/** One bar; `index` counts from 0, bars before the origin are negative. `length` is shorter than the meter's where a change cuts it. */
export interface Bar {
  index: number;
  start: Ticks;
  length: Ticks;
  meter: MeterChange;
}

/** A beat of a bar: a group of its meter. */
export interface Beat {
  index: number;
  start: Ticks;
  length: Ticks;
}

/**
 * Units a beat: quarters singly, 6/8 9/8 12/8 by three, 5/8 3+2, 7/8 2+2+3, 3/8 one group, else one beat a unit.
 * @example defaultGroups(7, 8) // [2, 2, 3]
 */
export function defaultGroups(numerator: number, denominator: number): number[] {
  if (denominator === 8) {
    if (numerator === 3) return [3];
    if (numerator === 5) return [3, 2];
    if (numerator === 7) return [2, 2, 3];
    if (numerator === 6 || numerator === 9 || numerator === 12) return Array.from({ length: numerator / 3 }, () => 3);
  }
  return Array.from({ length: numerator }, () => 1);
}

interface Segment {
  start: number;
  firstBar: number;
  barLength: number;
  end: number;
  meter: MeterChange;
  /** Starts of the beats within a bar, with the bar's length behind the last. */
  beats: number[];
}

const SEARCH = { start: bisector((s: Segment) => s.start), firstBar: bisector((s: Segment) => s.firstBar) };

export const DEFAULT_METER: MeterChange = { tick: ticks(0), numerator: 4, denominator: 4 };

/** Finds bars and beats. Its bars start from the origin and go on for ever in both directions. */
export class MeterMap {
  private readonly segments: Segment[];
  private last: Segment;
  /** The bar found last: neighbouring hits ask for the same one. */
  private lastBar: Bar;

  /** @param changes sorted by tick; a repeated equal meter is ignored, one off a bar line cuts the bar short */
  constructor(
    changes: readonly MeterChange[],
    readonly origin: Ticks = ticks(0),
  ) {
    const list = changes.length > 0 ? [...changes] : [DEFAULT_METER];
    if ((list[0] as MeterChange).tick > 0) list.unshift(DEFAULT_METER);
    this.segments = [];
    for (const meter of list) {
      const start = Math.max(0, meter.tick) + origin;
      const before = this.segments[this.segments.length - 1];
      if (before && sameMeter(before.meter, meter)) continue;
      if (before && start <= before.start) this.segments.pop();
      const previous = this.segments[this.segments.length - 1];
      if (previous) previous.end = start;
      const unit = TICKS_PER_WHOLE / meter.denominator;
      const beats = [0];
      for (const g of meter.groups ?? defaultGroups(meter.numerator, meter.denominator))
        beats.push((beats[beats.length - 1] as number) + g * unit);
      const firstBar = previous ? previous.firstBar + Math.ceil((start - previous.start) / previous.barLength - 1e-9) : 0;
      this.segments.push({ start, firstBar, barLength: meter.numerator * unit, end: Infinity, meter, beats });
    }
    this.last = this.segments[0] as Segment;
    this.lastBar = this.bar(this.last, 0);
  }

  private segmentAt(value: number, by: 'start' | 'firstBar'): Segment {
    const hint = this.last;
    if (by === 'start' && hint.start <= value && value < hint.end) return hint;
    // What lies before the first is counted by it.
    return (this.last = this.segments[SEARCH[by].right(this.segments, value, 1) - 1] as Segment);
  }

  private bar(s: Segment, n: number): Bar {
    const start = s.start + n * s.barLength;
    return { index: s.firstBar + n, start: ticks(start), length: ticks(Math.min(s.barLength, s.end - start)), meter: s.meter };
  }

  /** The bar that a tick lies in. */
  barAt(tick: Ticks): Bar {
    const known = this.lastBar;
    if (tick >= known.start && tick < known.start + known.length) return known;
    const s = this.segmentAt(tick, 'start');
    return (this.lastBar = this.bar(s, Math.floor((tick - s.start) / s.barLength)));
  }

  /** The bar of an index, 0 being the first. */
  barOf(index: number): Bar {
    const s = this.segmentAt(index, 'firstBar');
    return this.bar(s, index - s.firstBar);
  }

  /** The beat (group) of a bar that a tick of it lies in. */
  beatAt(bar: Bar, tick: Ticks): Beat {
    const starts = this.beatStarts(bar);
    const place = tick - bar.start;
    let i = starts.length - 2;
    while (i > 0 && (starts[i] as number) > place) i--;
    const start = starts[i] as number;
    return { index: i, start: ticks(bar.start + start), length: ticks(Math.min(starts[i + 1] as number, bar.length) - start) };
  }

  /** Every beat of a bar; a cut bar has fewer. */
  beatsOf(bar: Bar): Beat[] {
    const starts = this.beatStarts(bar);
    const found: Beat[] = [];
    for (let i = 0; i + 1 < starts.length; i++) {
      const start = starts[i] as number;
      if (start >= bar.length) break;
      found.push({ index: i, start: ticks(bar.start + start), length: ticks(Math.min(starts[i + 1] as number, bar.length) - start) });
    }
    return found;
  }

  private beatStarts(bar: Bar): number[] {
    return this.segmentAt(bar.index, 'firstBar').beats;
  }
}

/** True where both ask for the same bars and beats; the ticks do not count. */
export function sameMeter(a: Omit<MeterChange, 'tick'>, b: Omit<MeterChange, 'tick'>): boolean {
  return a.numerator === b.numerator && a.denominator === b.denominator && (a.groups ?? []).join() === (b.groups ?? []).join();
}
