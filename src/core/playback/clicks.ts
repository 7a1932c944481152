import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { placeLines } from '../perform/line-places';
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
  tone: ClickTone;
  /** Clicks between beats stand where the part's swing places the lines. */
  swung: boolean;
}

/** Short tones of its own, for bar lines and for the rest. They are the first kit's, whatever plays the part. */
export const CLICK_TONES = {
  wood: { bar: { voice: 'block-high', pitch: 0 }, beat: { voice: 'claves', pitch: 0 } },
  tick: { bar: { voice: 'rim', pitch: 12 }, beat: { voice: 'rim', pitch: 7 } },
  bell: { bar: { voice: 'triangle-mute', pitch: -5 }, beat: { voice: 'triangle-mute', pitch: -12 } },
} as const satisfies Record<string, Record<'bar' | 'beat', { voice: VoiceName; pitch: number }>>;
export type ClickTone = keyof typeof CLICK_TONES;

export const DEFAULT_CLICK: Click = { level: 90, perBeat: 1, tone: 'wood', swung: false };

/** How loud clicks between beats are, to those on beats. */
const BETWEEN = 0.55;
/** A row that no scope names: the click swings as all rows do. */
const EVERY_ROW: VoiceName = 'click';

/** One click: its tick, and whether it stands on a bar line, a beat or between. */
export interface ClickPlace {
  tick: number;
  on: 'bar' | 'beat' | 'between';
}

/** Every click of a range; beats are groups of the meter, those of three eighths or more click on each unit. */
export function clickPlaces(
  part: Pick<Part, 'meter' | 'origin'>,
  range: Pick<ProgramRange, 'start' | 'end'>,
  perBeat: number,
): ClickPlace[] {
  const map = meterMapOf(part);
  const places: ClickPlace[] = [];
  for (let bar = map.barAt(range.start); bar.start < range.end; bar = map.barOf(bar.index + 1)) {
    const unit = TICKS_PER_WHOLE / bar.meter.denominator;
    for (const beat of map.beatsOf(bar)) {
      const units = Math.max(1, Math.round(beat.length / unit));
      const parts = units * (units > 1 ? Math.max(1, Math.round(perBeat / units)) : perBeat);
      for (let i = 0; i < parts; i++) {
        const tick = beat.start + (beat.length * i) / parts;
        if (tick >= range.start && tick < range.end)
          places.push({ tick, on: i > 0 ? 'between' : beat.start === bar.start ? 'bar' : 'beat' });
      }
    }
  }
  return places;
}

/** What the click goes by; it can swing where there is a feel. */
export type Clicked = Pick<Part, 'tempo' | 'meter' | 'origin' | 'bars'> & Partial<Pick<Part, 'feel'>>;

/** The clicks of a range as a program beside the music's. */
export function clickProgram(part: Clicked, range: ProgramRange, click: Click, voiceIndex: (voice: VoiceName) => number): Program {
  const map = tempoMapOf(part);
  const start = map.toSeconds(range.start);
  const places = clickPlaces(part, range, click.perBeat);
  const swung =
    click.swung && part.feel
      ? placeLines(
          { ...part, hits: [], feel: part.feel },
          EVERY_ROW,
          places.map((c) => ticks(c.tick)),
        )
      : null;
  const offsets = Float64Array.from(places, (c, i) => map.toSeconds(ticks(swung?.[i] ?? c.tick)) - start);
  const toneOf = (c: ClickPlace) => CLICK_TONES[click.tone][c.on === 'bar' ? 'bar' : 'beat'];
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
    voices: Uint16Array.from(places, (c) => voiceIndex(toneOf(c).voice)),
    velocities: Uint8Array.from(places, (c) => Math.max(1, Math.round(click.level * (c.on === 'between' ? BETWEEN : 1)))),
    pans: none,
    pitches: Float32Array.from(places, (c) => toneOf(c).pitch),
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
