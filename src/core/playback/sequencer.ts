import { TempoMap } from '../time/tempo-map';
import { seconds, ticks, type Ticks } from '../units';
import type { Colour } from './mixer';
import type { Program } from './program';

/** A hit that starts at a frame. */
export interface Onset {
  frame: number;
  slot: number;
  voice: number;
  velocity: number;
  pass: number;
  /** Pan, pitch, brightness, choke. */
  colour: Colour;
}

interface Held extends Onset {
  /** Kept across a change of program: it sounds at the time its old version gave it. */
  held: true;
}

/** A program with what the sequencer looks up in it. */
interface Compiled {
  program: Program;
  tempo: TempoMap;
  /** Loop length in frames. */
  length: number;
  /** Event order by wrapped place; for each its place in the loop in frames and how many passes it was wrapped by. */
  order: Uint32Array;
  places: Float64Array;
  wraps: Int32Array;
  indexOfSlot: Map<number, number>;
  /** Frame of the last hit, from the loop's start. */
  latest: number;
}

/** Early hits of the first pass sound before its start, so playing begins this much ahead. */
export const PRE_ROLL_SECONDS = 0.1;

/**
 * Decides, to the sample, which hits start in a block of audio. It knows no audio: the same class runs on the audio thread and
 * in tests. A program may be replaced at any frame: each hit of each pass starts exactly once. Where a hit was still to come in
 * the old program but is already past in the new one, it keeps its old time for this pass; where it has started already, it waits
 * for the next pass.
 */
export class Sequencer {
  private current: Compiled | null = null;
  private playing = false;
  /** Frame of pass 0's start; fractional, so that long loops never drift. */
  private anchor = 0;
  /** Seconds into the loop from which hits of pass 0 count. */
  private from = 0;
  private readonly lastPass = new Map<number, number>();
  private held: Held[] = [];
  /** Hits of passes before the first sound too: a count-in. */
  private counting = false;

  constructor(readonly sampleRate: number) {}

  get isPlaying(): boolean {
    return this.playing;
  }

  /** Frame of the first pass's start; with the program it tells where the playhead is. */
  get anchorFrame(): number {
    return this.anchor;
  }

  /** Replaces the program from `frame` on, keeping the place in the music. */
  setProgram(program: Program, frame: number) {
    const old = this.current;
    const next = compile(program, this.sampleRate);
    this.current = next;
    if (!this.playing || !old) return;
    const sameLoop = old.program.startTick === program.startTick && old.program.endTick === program.endTick && old.program.loop === program.loop;
    const oldAnchor = this.anchor;
    if (!sameLoop) this.enterNewLoop(old, next, frame);
    else if (!sameTempo(old, next)) {
      const cycle = Math.floor((frame - this.anchor) / old.length);
      const place = this.placeOfTick(next, this.tickAt(old, frame));
      this.anchor = frame - place - cycle * next.length;
      this.from = next.tempo.toSeconds(old.tempo.toTicks(seconds(this.from + startSecond(old)))) - startSecond(next);
    }
    if (sameLoop) this.holdOvertaken(old, oldAnchor, next, frame);
  }

  /**
   * Starts at a tick of the loop; its moment is `lead` seconds after `frame`.
   * @param counting the loop is heard before its first pass too, as often as the lead takes: for clicks that count in
   */
  play(fromTick: Ticks, frame: number, lead = PRE_ROLL_SECONDS, counting = false) {
    const c = this.current;
    if (!c) return;
    const place = this.placeOfTick(c, fromTick);
    this.from = place / this.sampleRate;
    this.anchor = frame + Math.round(lead * this.sampleRate) - place;
    this.counting = counting;
    this.lastPass.clear();
    this.held = [];
    this.playing = true;
  }

  stop() {
    this.playing = false;
    this.held = [];
  }

  /** The tick being played at a frame. */
  positionAt(frame: number): Ticks {
    return this.current ? this.tickAt(this.current, frame) : ticks(0);
  }

  /** All hits that start in `[frame, frame + count)`, in order. Past the end of a program that does not loop, playing stops. */
  advance(frame: number, count: number): Onset[] {
    const c = this.current;
    if (!this.playing || !c || c.length <= 0) return [];
    const onsets: Onset[] = this.takeHeld(frame + count);
    // A hit starts at the nearest frame: its exact place lies in [frame - 0.5, frame + count - 0.5).
    const from = frame - 0.5 - this.anchor;
    const to = from + count;
    if (!c.program.loop) this.takeDue(c, 0, from, to, onsets);
    else for (let cycle = Math.floor(from / c.length); cycle * c.length < to; cycle++) this.takeDue(c, cycle, from, to, onsets);
    if (!c.program.loop && this.held.length === 0 && frame + count > this.anchor + Math.max(c.length, c.latest + 1)) this.playing = false;
    return onsets.sort((a, b) => a.frame - b.frame);
  }

  /** Adds the hits of one round of the loop whose exact place lies in `[from, to)`, frames from the anchor. */
  private takeDue(c: Compiled, cycle: number, from: number, to: number, onsets: Onset[]) {
    const base = cycle * c.length;
    for (let k = lowerBound(c.places, from - base); k < c.places.length && (c.places[k] as number) < to - base; k++) {
      const index = c.order[k] as number;
      const pass = cycle - (c.wraps[k] as number);
      if (!this.isDue(c, index, pass)) continue;
      const slot = c.program.slots[index] as number;
      this.lastPass.set(slot, pass);
      onsets.push({
        frame: Math.round(this.anchor + base + (c.places[k] as number)),
        slot,
        voice: c.program.voices[index] as number,
        velocity: c.program.velocities[index] as number,
        pass,
        colour: colourOf(c.program, index),
      });
    }
  }

  private isDue(c: Compiled, index: number, pass: number): boolean {
    if ((pass < 0 && !this.counting) || (pass > 0 && !c.program.loop)) return false;
    if (pass === 0 && !this.counting && (c.program.homes[index] as number) < this.from - 1e-6) return false;
    const last = this.lastPass.get(c.program.slots[index] as number);
    return last === undefined || last < pass;
  }

  private takeHeld(until: number): Onset[] {
    const due = this.held.filter((h) => h.frame < until);
    if (due.length > 0) this.held = this.held.filter((h) => h.frame >= until);
    for (const h of due) this.lastPass.set(h.slot, h.pass);
    return due.map(({ held: _held, ...onset }) => onset);
  }

  /** Hits that were to come and would now be past keep the time they had. */
  private holdOvertaken(old: Compiled, oldAnchor: number, next: Compiled, frame: number) {
    this.held = this.held.filter((h) => next.indexOfSlot.has(h.slot));
    const waiting = new Set(this.held.map((h) => `${h.slot}.${h.pass}`));
    for (const [slot, index] of next.indexOfSlot) {
      const before = old.indexOfSlot.get(slot);
      if (before === undefined) continue;
      const now = (next.program.offsets[index] as number) * this.sampleRate;
      // The latest pass whose new time is past.
      const pass = Math.ceil((frame - 0.5 - this.anchor - now) / next.length) - 1;
      if (!this.isDue(next, index, pass) || waiting.has(`${slot}.${pass}`)) continue;
      const was = oldAnchor + pass * old.length + (old.program.offsets[before] as number) * this.sampleRate;
      if (Math.round(was) < frame) continue;
      this.held.push({ held: true, frame: Math.round(was), slot, voice: next.program.voices[index] as number, velocity: old.program.velocities[before] as number, pass, colour: colourOf(old.program, before) });
    }
  }

  /** Another range: the place is kept where it lies inside, else the new loop starts. Passes count anew. */
  private enterNewLoop(old: Compiled, next: Compiled, frame: number) {
    const tick = this.tickAt(old, frame);
    const inside = tick >= next.program.startTick && tick < next.program.endTick;
    const place = inside ? this.placeOfTick(next, tick) : 0;
    this.anchor = frame - place;
    this.from = 0;
    this.lastPass.clear();
    this.held = [];
    const oldPlace = this.placeOfTick(old, tick);
    for (const [slot, index] of next.indexOfSlot) {
      const ahead = (next.program.offsets[index] as number) * this.sampleRate - place;
      const before = old.indexOfSlot.get(slot);
      const sounded = before !== undefined && (old.program.offsets[before] as number) * this.sampleRate < oldPlace;
      // What lies behind the playhead, or has sounded and lies just ahead of it, is done for this pass.
      if (ahead < 0 || (inside && sounded && ahead < PRE_ROLL_SECONDS * this.sampleRate)) this.lastPass.set(slot, 0);
    }
  }

  private tickAt(c: Compiled, frame: number): Ticks {
    let place = frame - this.anchor;
    if (c.program.loop) place -= Math.floor(place / c.length) * c.length;
    return c.tempo.toTicks(seconds(startSecond(c) + place / this.sampleRate));
  }

  private placeOfTick(c: Compiled, tick: Ticks): number {
    return (c.tempo.toSeconds(tick) - startSecond(c)) * this.sampleRate;
  }
}

const colourOf = (p: Program, index: number): Colour => ({
  pan: p.pans[index] as number,
  pitch: p.pitches[index] as number,
  brightness: p.brightness[index] as number,
  choke: p.chokes[index] === 1,
});

const startSecond = (c: Compiled): number => c.tempo.toSeconds(c.program.startTick);

function compile(program: Program, sampleRate: number): Compiled {
  const n = program.offsets.length;
  const length = program.length * sampleRate;
  const order = Uint32Array.from({ length: n }, (_, i) => i);
  const wrapped = new Float64Array(n);
  const wrapOf = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    const frame = (program.offsets[i] as number) * sampleRate;
    const wrap = program.loop && length > 0 ? Math.floor(frame / length) : 0;
    wrapOf[i] = wrap;
    wrapped[i] = frame - wrap * length;
  }
  order.sort((a, b) => (wrapped[a] as number) - (wrapped[b] as number) || a - b);
  const indexOfSlot = new Map<number, number>();
  for (let i = 0; i < n; i++) indexOfSlot.set(program.slots[i] as number, i);
  const places = Float64Array.from(order, (i) => wrapped[i] as number);
  return {
    program,
    tempo: new TempoMap(program.tempo),
    length,
    order,
    places,
    wraps: Int32Array.from(order, (i) => wrapOf[i] as number),
    indexOfSlot,
    latest: places[n - 1] ?? 0,
  };
}

const sameTempo = (a: Compiled, b: Compiled): boolean =>
  a.length === b.length && a.program.tempo.length === b.program.tempo.length && a.program.tempo.every((t, i) => t.tick === b.program.tempo[i]?.tick && t.microsecondsPerQuarter === b.program.tempo[i]?.microsecondsPerQuarter);

function lowerBound(values: Float64Array, wanted: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((values[mid] as number) < wanted) low = mid + 1;
    else high = mid;
  }
  return low;
}
