import { homesOf } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { roundHalfUp, ticks, TICKS_PER_QUARTER, type Bpm } from '../units';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { deviation, mean } from '../statistics';
import { measureSwing, type MeasuredSwing } from './swing-of-hits';

export interface VoiceReport {
  voice: VoiceName;
  /** Its most frequent MIDI key, the lowest on a tie. */
  key: number;
  n: number;
  meanLeanMs: number;
  sdLeanMs: number;
  swing: MeasuredSwing | null;
  velocity: { min: number; mean: number; max: number; sd: number };
  ghosts: number;
}

/** What a part is like as written, one entry a voice; sd is of the population. */
export interface PartReport {
  /** At the start. */
  tempo: Bpm;
  meter: [number, number];
  bars: number;
  /** In ticks of the source. */
  originTicks: number;
  voices: VoiceReport[];
}

/** What of a part is measured. */
export type Reportable = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars' | 'source'>;

/** Lines that leans are measured from: by hit in ticks, and the swing of each row, where a reading found it. */
export interface ReadLines {
  lines: Float64Array;
  swings: ReadonlyMap<VoiceName, MeasuredSwing>;
}

/** Measures a written part. Leans are against fitted homes, against `grid` where one is given, or against lines that were `read`. */
export function reportPart(part: Reportable, grid?: GridName, read?: ReadLines): PartReport {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const homes = read?.lines ?? homesOf(part).ticks;
  const first = part.meter[0];
  const voices = [...indicesByVoice(part.hits)].map(([voice, indices]): VoiceReport => {
    const hits = indices.map((i) => part.hits[i] as Hit);
    const leans = indices.map((i, k) => {
      const tick = (hits[k] as Hit).tick;
      return tempo.between(grid ? nearestLine(map, tick, stepOf(grid)).tick : ticks(homes[i] as number), tick);
    });
    const velocities = hits.map((h) => h.velocity);
    return {
      voice,
      key: commonestKey(hits),
      n: hits.length,
      meanLeanMs: mean(leans),
      sdLeanMs: deviation(leans),
      swing: read ? (read.swings.get(voice) ?? null) : measureSwing(map, hits.map((h) => h.tick)),
      velocity: { ...extremes(velocities), mean: mean(velocities), sd: deviation(velocities) },
      ghosts: hits.filter((h) => h.ghost).length,
    };
  });
  return {
    tempo: tempo.bpmAt(ticks(0)),
    meter: [first?.numerator ?? 4, first?.denominator ?? 4],
    bars: part.bars,
    originTicks: roundHalfUp((part.origin * (part.source?.ppq ?? TICKS_PER_QUARTER)) / TICKS_PER_QUARTER),
    voices: voices.sort((a, b) => compareVoices(a.voice, b.voice)),
  };
}

/** No spread into Math.min: a stack has less room than a part has hits. */
function extremes(values: readonly number[]): { min: number; max: number } {
  let [min, max] = [Infinity, -Infinity];
  for (const v of values) {
    min = Math.min(min, v);
    max = Math.max(max, v);
  }
  return { min, max };
}

function commonestKey(hits: readonly Hit[]): number {
  const counts = new Map<number, number>();
  for (const h of hits) counts.set(h.key, (counts.get(h.key) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? 0;
}
