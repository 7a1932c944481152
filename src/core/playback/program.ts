import type { Performance } from '../perform/perform';
import { homeTest } from '../homes/homes';
import { isSpilled, strokesOf } from '../ornament/strokes';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { NO_OWN_SOUNDS, type OwnSounds } from '../model/own-sound';
import { bpmOf, type TempoChange } from '../time/tempo-map';
import { semitonesOfTempo } from '../breaks/lines';
import { breakOfRow, pieceOfHit } from '../breaks/rows';
import { clamp, ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import type { Ornamented } from '../ornament/ornament-spec';
import { hashText, mix } from '../random';
import { placeOfId } from '../song/unroll';
import { variationOf } from '../song/variation';
import { responseOf } from './mixer';
import { mixOf, PLAIN_MIX, type Mix } from './row-mix';

/**
 * What the player plays: performed hits as seconds from the loop's start, in plain arrays that cross a thread's border.
 * Hits belong to the loop by their home: an offset may be negative (pushed before the start) or beyond the end.
 */
export interface Program {
  startTick: Ticks;
  endTick: Ticks;
  /** Seconds from startTick to endTick. */
  length: number;
  loop: boolean;
  tempo: TempoChange[];
  offsets: Float64Array;
  /** Seconds of each hit's home from the loop's start: decides which hits a start in mid-loop plays. */
  homes: Float64Array;
  /** A number for each hit that stays the same from program to program. */
  slots: Int32Array;
  /** Index into the player's voices. */
  voices: Uint16Array;
  velocities: Uint8Array;
  /** -100 (left) to 100 (right). */
  pans: Int8Array;
  /** Semitones. */
  pitches: Float32Array;
  /** -100 to 100. */
  brightness: Int8Array;
  /** 1: sounds nothing and ends the ring of its voice. */
  chokes: Uint8Array;
  /** Seconds until it fades; 0: it rings freely. */
  lasts: Float32Array;
  /** Decides, with the pass, which take of a stroke is heard. */
  dice: Uint32Array;
  /** Which take is struck; -1: the dice decide. */
  takes: Int16Array;
  /** Passes that each hit's bars have sounded before. */
  rounds: Uint16Array;
  /** Seconds of the bar lines from the loop's start, the first at 0. */
  bars: Float64Array;
  /** How rows and the whole are mixed. */
  mix: Mix;
  /** Made here, so that the audio thread has nothing to sort or to look up when a program is handed over. */
  index: ProgramIndex;
}

/** Where a program's hits are found, by place and by slot. */
export interface ProgramIndex {
  /** Indices of the hits by their place in the loop. */
  order: Uint32Array;
  /** In that order: the place within the loop in seconds, and how many passes it was wrapped by. */
  places: Float64Array;
  wraps: Int32Array;
  /** Index of each slot's hit; -1 where it has none. */
  ofSlot: Int32Array;
}

export function indexProgram({ offsets, slots, loop, length }: Pick<Program, 'offsets' | 'slots' | 'loop' | 'length'>): ProgramIndex {
  const n = offsets.length;
  const wrapped = new Float64Array(n);
  const wrapOf = new Int32Array(n);
  let last = -1;
  for (let i = 0; i < n; i++) {
    const offset = offsets[i] as number;
    const wrap = loop && length > 0 ? Math.floor(offset / length) : 0;
    wrapOf[i] = wrap;
    wrapped[i] = offset - wrap * length;
    last = Math.max(last, slots[i] as number);
  }
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((a, b) => (wrapped[a] as number) - (wrapped[b] as number) || a - b);
  const ofSlot = new Int32Array(last + 1).fill(-1);
  for (let i = 0; i < n; i++) ofSlot[slots[i] as number] = i;
  return {
    order,
    places: Float64Array.from(order, (i) => wrapped[i] as number),
    wraps: Int32Array.from(order, (i) => wrapOf[i] as number),
    ofSlot,
  };
}

export interface ProgramRange {
  start: Ticks;
  end: Ticks;
  loop: boolean;
  /** Which pass of these bars it is, from 1; the first without it. */
  pass?: number;
}

/** The rows that sound: soloed ones where any is, and none that is muted. */
export function audibleVoices(part: Pick<Part, 'rows'>): Set<VoiceName> {
  const solo = part.rows.some((r) => r.soloed);
  return new Set(part.rows.filter((r) => !r.muted && (!solo || r.soloed)).map((r) => r.voice));
}

/** What of a program says how loud it is. */
type Loud = Pick<Program, 'velocities' | 'voices' | 'length' | 'chokes' | 'mix'>;

/**
 * How loud a program is as a whole: the K-weighted energy of its strokes a second, rows by their settings.
 * @param levelOf K-weighted level of a row's hardest stroke in dB, by the player's number for it
 */
export function loudnessOf({ velocities, voices, length, chokes, mix: { rows } }: Loud, levelOf: (voice: number) => number): number {
  let energy = 0;
  velocities.forEach((v, i) => {
    if (chokes[i] === 1) return;
    const voice = voices[i] as number;
    const row = rows[voice] ?? PLAIN_MIX;
    energy += (responseOf(v, row.loudness) * row.gain) ** 2 * 10 ** (levelOf(voice) / 10);
  });
  return length > 0 ? energy / length : 0;
}

/** No version is made louder or softer than by this factor. */
const MOST_GAIN = 4;

/** The factor that makes a program as loud as another. */
export function equalGain(of: Loud, as: Loud, levelOf: (voice: number) => number): number {
  const own = loudnessOf(of, levelOf);
  return own === 0 ? 1 : clamp(Math.sqrt(loudnessOf(as, levelOf) / own), 1 / MOST_GAIN, MOST_GAIN);
}

/** Which pieces of breaks hits play, and how high: tuned each by itself, with the tempo where the break's pitch goes with it. */
function piecesPlayed(part: Pick<Part, 'rows' | 'breaks' | 'tempo' | 'meter' | 'origin'>): {
  takeOf(hit: Hit, row: VoiceName): number;
  tuneOf(hit: Hit, row: VoiceName, tick: number): number;
} {
  if (!part.breaks) return { takeOf: () => -1, tuneOf: () => 0 };
  const breaks = new Map(part.rows.flatMap((r) => [[r.voice, breakOfRow(part, r.voice)] as const]));
  return {
    takeOf: (hit, row) => {
      const of = breaks.get(row);
      return of ? pieceOfHit(of, hit) : -1;
    },
    tuneOf: (hit, row, tick) => {
      const of = breaks.get(row);
      if (!of) return 0;
      const tune = of.pieces[pieceOfHit(of, hit)]?.tune ?? 0;
      return tune + (of.repitch ? semitonesOfTempo(part, of, bpmAt(part.tempo, tick)) : 0);
    },
  };
}

/** The tempo that holds at a tick. */
const bpmAt = (tempo: readonly TempoChange[], tick: number): number =>
  bpmOf(tempo.findLast((t) => t.tick <= tick) ?? (tempo[0] as TempoChange));

/** The bar lines of a range, in seconds from its start; a range that begins within a bar has one there all the same. */
export function barLines(
  part: Pick<Part, 'tempo' | 'meter' | 'origin'>,
  { start, end }: Pick<ProgramRange, 'start' | 'end'>,
): Float64Array {
  const bars = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const lines = [0];
  for (let bar = bars.barOf(bars.barAt(start).index + 1); bar.start < end; bar = bars.barOf(bar.index + 1))
    lines.push(tempo.toSeconds(bar.start) - tempo.toSeconds(start));
  return Float64Array.from(lines);
}

/**
 * Makes the program of a range from performed hits and the strokes of their ornaments, which belong to the loop with their hit; what they
 * would play behind its end is left out.
 * `slotOf` and `voiceIndex` name strokes and voices for the player.
 */
export function makeProgram(
  part: Ornamented & Pick<Part, 'rows' | 'bars' | 'meter' | 'origin' | 'kit' | 'ownKit' | 'mix' | 'feel' | 'breaks'>,
  performance: Performance,
  range: ProgramRange,
  slotOf: (hit: Hit, stroke: number) => number,
  voiceIndex: (voice: VoiceName) => number,
  sounds: OwnSounds = NO_OWN_SOUNDS,
): Program {
  const map = tempoMapOf(part);
  const audible = audibleVoices(part);
  const startSecond = map.toSeconds(range.start);
  const strokes = strokesOf(part, performance);
  const voiceOf = (s: number): VoiceName => strokes.voices.get(s) ?? hitAt(s).voice;
  const hitAt = (s: number): Hit => part.hits[strokes.hits[s] as number] as Hit;
  const belongs = homeTest(part, range.start, range.end);
  const { timbre } = performance;
  const pieces = piecesPlayed(part);
  const held = new Set(part.rows.filter((r) => r.held).map((r) => r.voice));
  const chosen: number[] = [];
  for (let s = 0; s < strokes.hits.length; s++) {
    if (isSpilled(strokes, s, range.end) || !audible.has(voiceOf(s))) continue;
    if (belongs(performance.homes.ticks[strokes.hits[s] as number] as number)) chosen.push(s);
  }
  const program: Omit<Program, 'index'> = {
    startTick: range.start,
    endTick: range.end,
    length: map.toSeconds(range.end) - startSecond,
    loop: range.loop,
    tempo: map.toChanges(),
    offsets: Float64Array.from(chosen, (s) => map.toSeconds(ticks(strokes.ticks[s] as number)) - startSecond),
    homes: Float64Array.from(
      chosen,
      (s) => map.toSeconds(ticks(performance.homes.ticks[strokes.hits[s] as number] as number)) - startSecond,
    ),
    slots: Int32Array.from(chosen, (s) => slotOf(hitAt(s), strokes.numbers[s] as number)),
    voices: Uint16Array.from(chosen, (s) => voiceIndex(voiceOf(s))),
    velocities: Uint8Array.from(chosen, (s) => strokes.velocities[s] as number),
    pans: Int8Array.from(chosen, (s) => (timbre ? Math.round(timbre.pans[strokes.hits[s] as number] as number) : (hitAt(s).pan ?? 0))),
    pitches: Float32Array.from(
      chosen,
      (s) =>
        (timbre ? (timbre.pitches[strokes.hits[s] as number] as number) : (hitAt(s).pitch ?? 0)) +
        pieces.tuneOf(hitAt(s), voiceOf(s), strokes.ticks[s] as number),
    ),
    brightness: Int8Array.from(chosen, (s) =>
      timbre ? Math.round(timbre.brightness[strokes.hits[s] as number] as number) : (hitAt(s).brightness ?? 0),
    ),
    chokes: Uint8Array.from(chosen, (s) => (hitAt(s).choke ? 1 : 0)),
    lasts: Float32Array.from(chosen, (s) =>
      held.has(voiceOf(s))
        ? map.toSeconds(ticks((strokes.ticks[s] as number) + (strokes.lengths[s] as number))) -
          map.toSeconds(ticks(strokes.ticks[s] as number))
        : 0,
    ),
    takes: Int16Array.from(chosen, (s) => pieces.takeOf(hitAt(s), voiceOf(s))),
    dice: Uint32Array.from(chosen, (s) => {
      const { id, stroke } = variationOf(hitAt(s));
      return mix(mix(part.feel.seed, hashText(id)), stroke + (strokes.numbers[s] as number));
    }),
    rounds: Uint16Array.from(chosen, (s) => placeOfId(hitAt(s).id).pass + (range.pass ?? 1) - 2),
    bars: barLines(part, range),
    mix: mixOf(part, voiceIndex, sounds),
  };
  return { ...program, index: indexProgram(program) };
}
