import { bisector } from 'd3-array';
import { bpm, milliseconds, seconds, ticks, TICKS_PER_QUARTER, type Bpm, type Milliseconds, type Seconds, type Ticks } from '../units';

/** A tempo from a tick on; MIDI keeps microseconds a quarter note, so does a part, and nothing is lost. */
export interface TempoChange {
  tick: Ticks;
  microsecondsPerQuarter: number;
}

interface Segment {
  tick: number;
  second: number;
  secondsPerTick: number;
}

const SEARCH = { tick: bisector((s: Segment) => s.tick), second: bisector((s: Segment) => s.second) };

/** What MIDI can say of a quarter note's length, in microseconds. */
export const SHORTEST_QUARTER = 1;
export const LONGEST_QUARTER = 0xffffff;

export const DEFAULT_MICROSECONDS_PER_QUARTER = 500_000;

/** @example bpmOf({ tick: ticks(0), microsecondsPerQuarter: 500000 }) // 120 */
export const bpmOf = (change: TempoChange): Bpm => bpm(60e6 / change.microsecondsPerQuarter);
export const microsecondsOf = (tempo: Bpm): number => 60e6 / tempo;

/** Turns ticks into real time and back. Before the first change its tempo holds backwards, so negative ticks have times too. */
export class TempoMap {
  private readonly segments: Segment[] = [];

  /** @param changes sorted by tick; a part without any runs at 120 BPM */
  constructor(changes: readonly TempoChange[]) {
    const first = changes[0];
    this.push(0, 0, first?.microsecondsPerQuarter ?? DEFAULT_MICROSECONDS_PER_QUARTER);
    for (const change of changes) {
      const last = this.segments[this.segments.length - 1] as Segment;
      if (change.tick <= 0) {
        this.segments.length = 0;
        this.push(0, 0, change.microsecondsPerQuarter);
        continue;
      }
      const second = last.second + (change.tick - last.tick) * last.secondsPerTick;
      if (change.tick === last.tick) this.segments.pop();
      this.push(change.tick, second, change.microsecondsPerQuarter);
    }
  }

  private push(tick: number, second: number, microseconds: number) {
    this.segments.push({ tick, second, secondsPerTick: microseconds / 1e6 / TICKS_PER_QUARTER });
  }

  /** True where one tempo holds throughout: conversions are then a single multiplication. */
  get isConstant(): boolean {
    return this.segments.length === 1;
  }

  private at(value: number, by: 'tick' | 'second'): Segment {
    const s = this.segments;
    // What lies before the first goes by its tempo.
    return s[SEARCH[by].right(s, value, 1) - 1] as Segment;
  }

  toSeconds(tick: Ticks): Seconds {
    const s = this.at(tick, 'tick');
    return seconds(s.second + (tick - s.tick) * s.secondsPerTick);
  }

  toTicks(second: Seconds): Ticks {
    const s = this.at(second, 'second');
    return ticks(s.tick + (second - s.second) / s.secondsPerTick);
  }

  /**
   * The tick that lies `ms` later (or earlier) than `tick` in real time.
   * @example new TempoMap([]).shift(ticks(0), milliseconds(500)) // 80640: a quarter at 120 BPM
   */
  shift(tick: Ticks, ms: Milliseconds): Ticks {
    if (ms === 0) return tick;
    const s = this.at(tick, 'tick');
    if (this.isConstant) return ticks(tick + ms / 1000 / s.secondsPerTick);
    return this.toTicks(seconds(this.toSeconds(tick) + ms / 1000));
  }

  /** Real time from one tick to another, in ms; negative where `to` is earlier. */
  between(from: Ticks, to: Ticks): Milliseconds {
    if (from === to) return milliseconds(0);
    if (this.isConstant) return milliseconds((to - from) * (this.segments[0] as Segment).secondsPerTick * 1000);
    return milliseconds((this.toSeconds(to) - this.toSeconds(from)) * 1000);
  }

  bpmAt(tick: Ticks): Bpm {
    return bpm(60 / (this.at(tick, 'tick').secondsPerTick * TICKS_PER_QUARTER));
  }

  /** Copies the map as flat numbers, for borders that take no classes. */
  toChanges(): TempoChange[] {
    return this.segments.map((s) => ({ tick: ticks(s.tick), microsecondsPerQuarter: s.secondsPerTick * TICKS_PER_QUARTER * 1e6 }));
  }
}
