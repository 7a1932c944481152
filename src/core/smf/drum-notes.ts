import { cutLengths, type Performance } from '../feel/perform';
import { strokesOf, type Ornamented } from '../ornament/strokes';
import type { Companion, Hit } from '../part/part';
import { tempoMapOf } from '../part/part-time';
import type { TempoMap } from '../time/tempo-map';
import { roundHalfUp, seconds, ticks } from '../units';

/** What happens to hits that are performed before the file's start: moved to 0, a bar put in front, or wrapped to the loop's end. */
export const EARLY_RULES = ['zero', 'lead-in', 'wrap'] as const;
export type EarlyRule = (typeof EARLY_RULES)[number];

/** Notes ready to be written: whole ticks of the target's resolution, sorted by tick; columns run parallel. */
export interface DrumNotes {
  ticks: Float64Array;
  ends: Float64Array;
  keys: Uint8Array;
  velocities: Uint8Array;
  /** Index of each note's hit in the part. */
  hits: Uint32Array;
  /** Which stroke of its hit: 0 for the hit itself. */
  numbers: Uint16Array;
  /** How many were performed before 0. */
  early: number;
  /** Pedal movements and pressure that go with notes, by tick. */
  controls: Control[];
}

/** A pedal's or a pressure's value before a note. */
export interface Control extends Pick<Companion, 'kind' | 'value'> {
  tick: number;
  /** Index of its note. */
  note: number;
}

/** How performed ticks become the file's: scaled, and early ones by rule. `barTicks` and `loopTicks` are in the file's ticks. */
export interface NoteScale {
  perTick: number;
  early: EarlyRule;
  barTicks: number;
  loopTicks: number;
}

/** Rounds performed hits and the strokes of their ornaments to a file's ticks (half up); notes of one key never overlap, the earlier is cut. Chokes sound nothing: they are left out. */
export function drumNotes(part: Ornamented, performance: Performance, scale: NoteScale): DrumNotes {
  const strokes = strokesOf(part, performance);
  const times = new Float64Array(strokes.ticks.length);
  const sounding: number[] = [];
  let early = 0;
  const lead = scale.early === 'lead-in' && strokes.ticks.some((t) => roundHalfUp(t * scale.perTick) < 0) ? scale.barTicks : 0;
  for (let s = 0; s < strokes.ticks.length; s++) {
    if ((part.hits[strokes.hits[s] as number] as Hit).choke) continue;
    sounding.push(s);
    let t = roundHalfUp((strokes.ticks[s] as number) * scale.perTick);
    if (t < 0) {
      early++;
      if (scale.early === 'wrap' && t + scale.loopTicks >= 0) t += scale.loopTicks;
      else if (lead === 0) t = 0;
    }
    times[s] = Math.max(0, t + lead);
  }
  const n = sounding.length;
  const order = Uint32Array.from(sounding).sort((a, b) => (times[a] as number) - (times[b] as number) || a - b);
  const notes: DrumNotes = {
    ticks: new Float64Array(n),
    ends: new Float64Array(n),
    keys: new Uint8Array(n),
    velocities: new Uint8Array(n),
    hits: new Uint32Array(n),
    numbers: new Uint16Array(n),
    early,
    controls: [],
  };
  const lengths = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    const s = order[k] as number;
    notes.ticks[k] = times[s] as number;
    notes.keys[k] = strokes.keys[s] as number;
    notes.velocities[k] = strokes.velocities[s] as number;
    notes.hits[k] = strokes.hits[s] as number;
    notes.numbers[k] = strokes.numbers[s] as number;
    lengths[k] = Math.max(1, roundHalfUp((strokes.lengths[s] as number) * scale.perTick));
  }
  notes.controls = controlsOf(part, notes, scale.perTick);
  const cut = cutLengths(notes.keys, notes.ticks, lengths);
  for (let k = 0; k < n; k++) notes.ends[k] = (notes.ticks[k] as number) + (cut[k] as number);
  return notes;
}

/** Each companion as long before its note as it came before its stroke, but never before the file's start. */
function controlsOf(part: Ornamented, notes: DrumNotes, perTick: number): Control[] {
  const controls: Control[] = [];
  let tempo: TempoMap | null = null;
  for (let k = 0; k < notes.hits.length; k++) {
    const { companions } = part.hits[notes.hits[k] as number] as Hit;
    if (!companions || notes.numbers[k] !== 0) continue;
    tempo ??= tempoMapOf(part);
    const at = (notes.ticks[k] as number) / perTick;
    for (const { kind, value, aheadMs } of companions) {
      const before = tempo.toTicks(seconds(tempo.toSeconds(ticks(at)) - aheadMs / 1000));
      controls.push({ kind, value, note: k, tick: Math.max(0, Math.min(notes.ticks[k] as number, roundHalfUp(before * perTick))) });
    }
  }
  return controls.sort((a, b) => a.tick - b.tick || a.note - b.note);
}
