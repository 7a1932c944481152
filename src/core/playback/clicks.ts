import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { ticks, TICKS_PER_WHOLE } from '../units';
import type { VoiceName } from '../row-names';
import { PLAIN_MIX_OF_PART } from './row-mix';
import { barLines, indexProgram, type Program, type ProgramRange } from './program';

/** How the click sounds. */
export interface Click {
  /** 1 to 127. */
  level: number;
  /** Clicks a beat: 1, 2, 3 or 4. */
  perBeat: number;
}

export const DEFAULT_CLICK: Click = { level: 90, perBeat: 1 };

const BAR_VOICE: VoiceName = 'block-high';
const BEAT_VOICE: VoiceName = 'claves';
/** How loud clicks between beats are, to those on beats. */
const BETWEEN = 0.55;

/** One click: its tick, and whether it stands on a bar line, a beat or between. */
export interface ClickPlace {
  tick: number;
  on: 'bar' | 'beat' | 'between';
}

/** Every click of a range; beats are groups of the meter, those of three eighths or more click on each unit. */
export function clickPlaces(part: Pick<Part, 'meter' | 'origin'>, range: Pick<ProgramRange, 'start' | 'end'>, perBeat: number): ClickPlace[] {
  const map = meterMapOf(part);
  const places: ClickPlace[] = [];
  for (let bar = map.barAt(range.start); bar.start < range.end; bar = map.barOf(bar.index + 1)) {
    const unit = TICKS_PER_WHOLE / bar.meter.denominator;
    for (const beat of map.beatsOf(bar)) {
      const units = Math.max(1, Math.round(beat.length / unit));
      const parts = units * (units > 1 ? Math.max(1, Math.round(perBeat / units)) : perBeat);
      for (let i = 0; i < parts; i++) {
        const tick = beat.start + (beat.length * i) / parts;
        if (tick >= range.start && tick < range.end) places.push({ tick, on: i > 0 ? 'between' : beat.start === bar.start ? 'bar' : 'beat' });
      }
    }
  }
  return places;
}

/** The clicks of a range as a program beside the music's. */
export function clickProgram(part: Pick<Part, 'tempo' | 'meter' | 'origin'>, range: ProgramRange, click: Click, voiceIndex: (voice: VoiceName) => number): Program {
  const map = tempoMapOf(part);
  const start = map.toSeconds(range.start);
  const places = clickPlaces(part, range, click.perBeat);
  const offsets = Float64Array.from(places, (c) => map.toSeconds(ticks(c.tick)) - start);
  const none = new Int8Array(places.length);
  const program = {
    startTick: range.start,
    endTick: range.end,
    length: map.toSeconds(range.end) - start,
    loop: range.loop,
    tempo: map.toChanges(),
    offsets,
    homes: offsets,
    slots: Int32Array.from(places, (_, i) => i),
    voices: Uint16Array.from(places, (c) => voiceIndex(c.on === 'bar' ? BAR_VOICE : BEAT_VOICE)),
    velocities: Uint8Array.from(places, (c) => Math.max(1, Math.round(click.level * (c.on === 'between' ? BETWEEN : 1)))),
    pans: none,
    pitches: new Float32Array(places.length),
    brightness: none,
    chokes: new Uint8Array(places.length),
    lasts: new Float32Array(places.length),
    takes: new Int16Array(places.length).fill(-1),
    dice: new Uint32Array(places.length),
    rounds: new Uint16Array(places.length),
    bars: barLines(part, range),
    mix: PLAIN_MIX_OF_PART,
  };
  return { ...program, index: indexProgram(program) };
}
