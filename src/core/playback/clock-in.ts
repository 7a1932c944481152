import { ticks, TICKS_PER_QUARTER, type Milliseconds, type Ticks } from '../units';

/** Messages of a MIDI clock. */
export type ClockEvent = 'start' | 'continue' | 'stop' | 'clock' | 'position';

const EVENTS: Readonly<Record<number, ClockEvent>> = { 0xf8: 'clock', 0xfa: 'start', 0xfb: 'continue', 0xfc: 'stop', 0xf2: 'position' };
const CLOCKS_A_QUARTER = 24;
const STEP = TICKS_PER_QUARTER / CLOCKS_A_QUARTER;
const SIXTEENTH = TICKS_PER_QUARTER / 4;
/**
 * Gains of the filter that smooths clocks (an alpha-beta filter, critically damped: Kalata, The tracking index, IEEE Transactions on
 * Aerospace and Electronic Systems 20, 1984): how much of what a clock is off moves the place, and the length of a clock.
 */
const [ALPHA, BETA] = [0.2, 0.011] as const;
/** Gains start higher and fall to their final values over this many clocks. */
const SETTLED = 24;
/** Limits of a clock's period in ms: 400 and 20 BPM. */
const [SHORTEST, LONGEST] = [60_000 / (400 * CLOCKS_A_QUARTER), 60_000 / (20 * CLOCKS_A_QUARTER)] as const;
/** Missing clocks are filled in for silences up to this. */
const BRIDGED_MS = 2000;
/** Window for measuring jitter, in clocks. */
const JITTER_CLOCKS = 96;

/** Smoothed state of a clock. */
export interface ClockState {
  /** Between start or continue, and stop. */
  running: boolean;
  /** Milliseconds a quarter note; null before two clocks came. */
  quarterMs: number | null;
  /** RMS deviation of the clocks. */
  jitterMs: Milliseconds;
}

/**
 * Follows a MIDI clock (MIDI 1.0 Detailed Specification, system real time messages): 24 clocks a quarter, start, continue, stop and song
 * position. Position and tempo are smoothed, since clocks arrive with jitter.
 */
export class ClockIn {
  private running = false;
  /** Clocks since the position that the start named; -1 until the first one came. */
  private count = -1;
  /** Ticks from the song's zero at which it started. */
  private from = 0;
  private next = 0;
  /** Smoothed moment of the last clock, and length of one, in ms. */
  private at = Number.NaN;
  private length = Number.NaN;
  private heard = 0;
  private squares: number[] = [];
  private last = Number.NaN;

  /** @param page when it came, ms of the page's clock @returns what it was; null for what is no clock's */
  hear(bytes: ArrayLike<number>, page: number): ClockEvent | null {
    const event = EVENTS[bytes[0] ?? 0];
    switch (event) {
      case 'clock':
        this.clock(page);
        return event;
      case 'position':
        this.next = ((bytes[1] ?? 0) + 128 * (bytes[2] ?? 0)) * SIXTEENTH;
        return event;
      case 'start':
      case 'continue':
        if (event === 'start') this.next = 0;
        this.from = this.next;
        this.count = -1;
        this.running = true;
        return event;
      case 'stop':
        this.next = this.tickAt(page) ?? this.next;
        this.running = false;
        return event;
      default:
        return null;
    }
  }

  private clock(page: number): void {
    const silence = page - this.last;
    this.last = page;
    if (Number.isNaN(this.at)) return this.begin(page);
    if (Number.isNaN(this.length)) {
      this.length = Math.min(LONGEST, Math.max(SHORTEST, silence));
      this.at = page;
      return this.step(1);
    }
    // Fill in dropped clocks.
    const steps = Math.max(1, Math.round((page - this.at) / this.length));
    if (silence > BRIDGED_MS) return this.begin(page);
    const expected = this.at + steps * this.length;
    const off = page - expected;
    this.heard++;
    const settling = Math.max(0, 1 - this.heard / SETTLED);
    this.at = expected + (ALPHA + 0.4 * settling) * off;
    this.length = Math.min(LONGEST, Math.max(SHORTEST, this.length + ((BETA + 0.1 * settling) * off) / steps));
    this.squares = [...this.squares.slice(1 - JITTER_CLOCKS), off * off];
    this.step(steps);
  }

  private begin(page: number): void {
    this.at = page;
    this.length = Number.NaN;
    this.heard = 0;
    this.squares = [];
    this.step(1);
  }

  private step(clocks: number): void {
    if (this.running) this.count += clocks;
  }

  get state(): ClockState {
    const mean = this.squares.reduce((a, b) => a + b, 0) / Math.max(1, this.squares.length);
    return {
      running: this.running,
      quarterMs: Number.isNaN(this.length) ? null : this.length * CLOCKS_A_QUARTER,
      jitterMs: Math.sqrt(mean) as Milliseconds,
    };
  }

  /** How long no clock has come, in ms. */
  silentFor(page: number): number {
    return Number.isNaN(this.last) ? Infinity : page - this.last;
  }

  /** Where the song is at a moment, in ticks from its zero; null while it does not run, or before its first clock. */
  tickAt(page: number): Ticks | null {
    if (!this.running || this.count < 0) return null;
    const since = Number.isNaN(this.length) ? 0 : (page - this.at) / this.length;
    return ticks(this.from + (this.count + since) * STEP);
  }
}

/** A correction of the player. */
export interface Correction {
  /** Factor for the program's durations; 1 is its own tempo. */
  stretch: number;
  /** Too far off to correct by speed: restart from this tick. */
  jump: Ticks | null;
}

/** Time constant of the correction. */
const SETTLING_SECONDS = 0.35;
/** Largest speed ratio to the clock while correcting. */
const MOST_FASTER = 1.6;
/** Beyond this many quarters, playback restarts. */
const FURTHEST = 1;

/** A tick within a loop, however often it has come round. @example inLoop(9, { start: 2, end: 6 }) // 5 */
export const inLoop = (tick: number, { start, end }: { start: number; end: number }): number =>
  tick < start ? tick : start + ((tick - start) % (end - start));

/**
 * The playback speed that brings the player to the clock's position.
 * @param wanted where the clock is @param heard where the player is, both within the loop
 * @param quarterMs of the clock @param ownQuarterMs of the program where it is
 */
export function correctionOf(
  { wanted, heard, quarterMs, ownQuarterMs }: { wanted: Ticks; heard: Ticks; quarterMs: number; ownQuarterMs: number },
  loop: { start: Ticks; end: Ticks } | null,
): Correction {
  let off = wanted - heard;
  if (loop) {
    const length = loop.end - loop.start;
    // The shorter way around the loop.
    off -= Math.round(off / length) * length;
  }
  const quarters = off / TICKS_PER_QUARTER;
  if (Math.abs(quarters) > FURTHEST) return { stretch: quarterMs / ownQuarterMs, jump: wanted };
  // Quarters a second: the clock's own, and what is off over the time that it may take.
  const own = 1000 / quarterMs;
  const speed = Math.min(own * MOST_FASTER, Math.max(own / MOST_FASTER, own + quarters / SETTLING_SECONDS));
  return { stretch: 1000 / (speed * ownQuarterMs), jump: null };
}
