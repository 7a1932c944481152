import { homesOf } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { roundHalfUp, ticks, TICKS_PER_QUARTER, type Bpm } from '../units';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { deviation, mean } from '../statistics';
import { foundSwings, type Swing, type Swings } from '../homes/swings';

export interface VoiceReport {
  voice: VoiceName;
  /** Its most frequent MIDI key, the lowest on a tie. */
  key: number;
  n: number;
  meanLeanMs: number;
  sdLeanMs: number;
  /** As read over the whole part; null where straight explains it as well. */
  swing: (Pick<Swings, 'division'> & Pick<Swing, 'percent' | 'n'>) | null;
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

/**
 * Measures a written part. Leans are against the homes, against `grid` where one is given, or against other lines.
 * @param lines by hit, in ticks
 */
export function reportPart(part: Reportable, grid?: GridName, lines: Float64Array = homesOf(part).ticks): PartReport {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const swings = foundSwings(part);
  const first = part.meter[0];
  const voices = [...indicesByVoice(part.hits)].map(([voice, indices]): VoiceReport => {
    const hits = indices.map((i) => part.hits[i] as Hit);
    const leans = indices.map((i, k) => {
      const tick = (hits[k] as Hit).tick;
      return tempo.between(grid ? nearestLine(map, tick, stepOf(grid)).tick : ticks(lines[i] as number), tick);
    });
    const velocities = hits.map((h) => h.velocity);
    const swing = swings?.rows.get(voice);
    return {
      voice,
      key: commonestKey(hits),
      n: hits.length,
      meanLeanMs: mean(leans),
      sdLeanMs: deviation(leans),
      swing: swings && swing ? { division: swings.division, percent: swing.percent, n: swing.n } : null,
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
