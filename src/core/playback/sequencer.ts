import { bisector } from 'd3-array';
import { mix } from '../random';
import { TempoMap } from '../time/tempo-map';
import { seconds, ticks, type Ticks } from '../units';
import type { Colour } from './mixer';
import type { Program } from './program';

/** A hit that starts at a frame. */
export interface ScheduledHit {
  frame: number;
  slot: number;
  voice: number;
  velocity: number;
  pass: number;
  /** Pan, pitch, brightness, choke. */
  colour: Colour;
}

interface Held extends ScheduledHit {
  /** Kept across a change of program: it sounds at the time its old version gave it. */
  held: true;
}

/** A program with what the sequencer looks up in it. */
interface Compiled {
  program: Program;
  tempo: TempoMap;
  /** Loop length in frames. */
  length: number;
  /** Frame of the last hit, from the loop's start. */
  latest: number;
}

/** The pass of a slot that has not sounded. */
const NEVER = -0x80000000;

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
  /** The pass in which each slot sounded last. */
  private lastPass = new Int32Array(0);
  private held: Held[] = [];
  /** Hits whose home lies at this frame or later do not sound: something else plays from there. */
  private end = Infinity;
  /** Hits of passes before the first sound too: a count-in. */
  private counting = false;

  /** Factor for the program's durations, set while following an external clock. */
  private stretched = 1;

  constructor(readonly sampleRate: number) {}

  /** Frames per second of the program. */
  private get perSecond(): number {
    return this.sampleRate * this.stretched;
  }

  /** Scales durations from a frame on (over 1 is slower) and keeps the musical position. */
  setStretch(stretch: number, frame: number) {
    if (stretch === this.stretched) return;
    this.anchor = frame - ((frame - this.anchor) * stretch) / this.stretched;
    this.stretched = stretch;
    const { current } = this;
    if (current) this.current = { ...current, ...lengthsOf(current.program, this.perSecond) };
  }

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
    const next = compile(program, this.perSecond);
    this.current = next;
    this.makeRoom(program.index.ofSlot.length);
    if (!this.playing || !old) return;
    const sameLoop =
      old.program.startTick === program.startTick && old.program.endTick === program.endTick && old.program.loop === program.loop;
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
    this.from = place / this.perSecond;
    this.anchor = frame + Math.round(lead * this.sampleRate) - place;
    this.counting = counting;
    this.lastPass.fill(NEVER);
    this.held = [];
    this.end = Infinity;
    this.playing = true;
  }

  /** Leaves off at a frame: hits that belong before it still sound, however late they are. */
  endAt(frame: number) {
    this.end = frame;
  }

  /** The frame at which what plays may be left: its next bar line, or the end of its pass. */
  leavingFrame(frame: number, when: 'bar' | 'end'): number {
    const c = this.current;
    if (!c || c.length <= 0) return frame;
    const pass = c.program.loop ? Math.max(0, Math.floor((frame - this.anchor) / c.length)) : 0;
    const start = this.anchor + pass * c.length;
    if (when === 'bar') {
      const line = c.program.bars.find((s) => start + s * this.perSecond >= frame);
      if (line !== undefined) return start + line * this.perSecond;
    }
    return start + c.length;
  }

  /** How far a frame lies in its bar, 0 to 1. */
  placeInBar(frame: number): number {
    const c = this.current;
    if (!c || c.length <= 0) return 0;
    let place = (frame - this.anchor) / this.perSecond;
    if (c.program.loop) place -= Math.floor(place / c.program.length) * c.program.length;
    const { bars, length } = c.program;
    const next = bars.findIndex((s) => s > place);
    const [from, to] = next < 0 ? [bars[bars.length - 1] as number, length] : [bars[Math.max(0, next - 1)] as number, bars[next] as number];
    return Math.max(0, Math.min(1, (place - from) / (to - from)));
  }

  stop() {
    this.playing = false;
    this.held = [];
  }

  /** The tick being played at a frame. */
  positionAt(frame: number): Ticks {
    return this.current ? this.tickAt(this.current, frame) : ticks(0);
  }

  /**
   * All hits that start in `[frame, frame + count)`, in order. Past the end of a program that does not loop, playing stops.
   * @param behind so many frames before are taken too: their hits start late, at `frame`
   */
  advance(frame: number, count: number, behind = 0): ScheduledHit[] {
    const c = this.current;
    if (!this.playing || !c || c.length <= 0) return [];
    const onsets: ScheduledHit[] = this.takeHeld(frame + count);
    // A hit starts at the nearest frame: its exact place lies in [frame - 0.5, frame + count - 0.5).
    const from = frame - behind - 0.5 - this.anchor;
    const to = frame + count - 0.5 - this.anchor;
    if (!c.program.loop) this.takeDue(c, 0, from, to, onsets);
    else for (let cycle = Math.floor(from / c.length); cycle * c.length < to; cycle++) this.takeDue(c, cycle, from, to, onsets);
    // One that is left plays what is late and no more.
    if (
      !c.program.loop &&
      this.end === Infinity &&
      this.held.length === 0 &&
      frame + count > this.anchor + Math.max(c.length, c.latest + 1)
    )
      this.playing = false;
    for (const o of onsets) o.frame = Math.max(o.frame, frame);
    return onsets.sort((a, b) => a.frame - b.frame);
  }

  /** Adds the hits of one round of the loop whose exact place lies in `[from, to)`, frames from the anchor. */
  private takeDue(c: Compiled, cycle: number, from: number, to: number, onsets: ScheduledHit[]) {
    const base = cycle * c.length;
    const { order, places, wraps } = c.program.index;
    const placeAt = (k: number): number => (places[k] as number) * this.perSecond;
    for (
      let k = bisector((place: number) => place * this.perSecond).left(places, from - base);
      k < places.length && placeAt(k) < to - base;
      k++
    ) {
      const index = order[k] as number;
      const pass = cycle - (wraps[k] as number);
      if (!this.isDue(c, index, pass)) continue;
      const slot = c.program.slots[index] as number;
      this.lastPass[slot] = pass;
      onsets.push({
        frame: Math.round(this.anchor + base + placeAt(k)),
        slot,
        voice: c.program.voices[index] as number,
        velocity: c.program.velocities[index] as number,
        pass,
        colour: colourOf(c.program, index, pass),
      });
    }
  }

  /** Room for more slots; what has sounded stays known. */
  private makeRoom(slots: number) {
    if (slots <= this.lastPass.length) return;
    const grown = new Int32Array(Math.max(slots, 2 * this.lastPass.length)).fill(NEVER);
    grown.set(this.lastPass);
    this.lastPass = grown;
  }

  private isDue(c: Compiled, index: number, pass: number): boolean {
    if ((pass < 0 && !this.counting) || (pass > 0 && !c.program.loop)) return false;
    if (this.end < Infinity && this.anchor + pass * c.length + (c.program.homes[index] as number) * this.perSecond >= this.end - 0.5)
      return false;
    if (pass === 0 && !this.counting && (c.program.homes[index] as number) < this.from - 1e-6) return false;
    return (this.lastPass[c.program.slots[index] as number] as number) < pass;
  }

  private takeHeld(until: number): ScheduledHit[] {
    const due = this.held.filter((h) => h.frame < until);
    if (due.length > 0) this.held = this.held.filter((h) => h.frame >= until);
    for (const h of due) this.lastPass[h.slot] = h.pass;
    return due.map(({ held: _held, ...onset }) => onset);
  }

  /** Hits that were to come and would now be past keep the time they had. */
  private holdOvertaken(old: Compiled, oldAnchor: number, next: Compiled, frame: number) {
    this.held = this.held.filter((h) => (next.program.index.ofSlot[h.slot] ?? -1) >= 0);
    const waiting = new Set(this.held.map((h) => `${h.slot}.${h.pass}`));
    const { slots, offsets } = next.program;
    const { ofSlot } = old.program.index;
    const { offsets: oldOffsets } = old.program;
    const rate = this.perSecond;
    // Every hit is asked, on the audio thread: what most of them fail comes first and costs little.
    const reached = (frame - 0.5 - this.anchor) / next.length;
    const [nextRate, knownSlots] = [rate / next.length, ofSlot.length];
    for (let index = 0; index < slots.length; index++) {
      const slot = slots[index] as number;
      const before = slot < knownSlots ? (ofSlot[slot] as number) : -1;
      if (before < 0) continue;
      // The latest pass whose new time is past.
      const pass = Math.ceil(reached - (offsets[index] as number) * nextRate) - 1;
      const was = oldAnchor + pass * old.length + (oldOffsets[before] as number) * rate;
      if (was + 0.5 < frame || !this.isDue(next, index, pass) || waiting.has(`${slot}.${pass}`)) continue;
      this.held.push({
        held: true,
        frame: Math.round(was),
        slot,
        voice: next.program.voices[index] as number,
        velocity: old.program.velocities[before] as number,
        pass,
        colour: colourOf(old.program, before, pass),
      });
    }
  }

  /** Another range: the place is kept where it lies inside, else the new loop starts. Passes count anew. */
  private enterNewLoop(old: Compiled, next: Compiled, frame: number) {
    const tick = this.tickAt(old, frame);
    const inside = tick >= next.program.startTick && tick < next.program.endTick;
    const place = inside ? this.placeOfTick(next, tick) : 0;
    this.anchor = frame - place;
    this.from = 0;
    this.lastPass.fill(NEVER);
    this.held = [];
    const oldPlace = this.placeOfTick(old, tick);
    const { slots, offsets } = next.program;
    for (let index = 0; index < slots.length; index++) {
      const slot = slots[index] as number;
      const ahead = (offsets[index] as number) * this.perSecond - place;
      const before = old.program.index.ofSlot[slot] ?? -1;
      const sounded = before >= 0 && (old.program.offsets[before] as number) * this.perSecond < oldPlace;
      // What lies behind the playhead, or has sounded and lies just ahead of it, is done for this pass.
      if (ahead < 0 || (inside && sounded && ahead < PRE_ROLL_SECONDS * this.sampleRate)) this.lastPass[slot] = 0;
    }
  }

  private tickAt(c: Compiled, frame: number): Ticks {
    let place = frame - this.anchor;
    if (c.program.loop) place -= Math.floor(place / c.length) * c.length;
    return c.tempo.toTicks(seconds(startSecond(c) + place / this.perSecond));
  }

  private placeOfTick(c: Compiled, tick: Ticks): number {
    return (c.tempo.toSeconds(tick) - startSecond(c)) * this.perSecond;
  }
}

const colourOf = (p: Program, index: number, pass: number): Colour => ({
  pan: p.pans[index] as number,
  pitch: p.pitches[index] as number,
  brightness: p.brightness[index] as number,
  choke: p.chokes[index] === 1,
  dice: mix(p.dice[index] as number, pass + (p.rounds[index] as number)),
  ...((p.takes[index] as number) >= 0 ? { take: p.takes[index] as number } : {}),
  ...((p.lasts[index] as number) > 0 ? { lasts: seconds(p.lasts[index] as number) } : {}),
});

const startSecond = (c: Compiled): number => c.tempo.toSeconds(c.program.startTick);

const lengthsOf = (program: Program, perSecond: number): Pick<Compiled, 'length' | 'latest'> => ({
  length: program.length * perSecond,
  latest: (program.index.places.at(-1) ?? 0) * perSecond,
});

const compile = (program: Program, perSecond: number): Compiled => ({
  program,
  tempo: new TempoMap(program.tempo),
  ...lengthsOf(program, perSecond),
});

const sameTempo = (a: Compiled, b: Compiled): boolean =>
  a.length === b.length &&
  a.program.tempo.length === b.program.tempo.length &&
  a.program.tempo.every(
    (t, i) => t.tick === b.program.tempo[i]?.tick && t.microsecondsPerQuarter === b.program.tempo[i]?.microsecondsPerQuarter,
  );
