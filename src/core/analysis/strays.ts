import { leanOf, type Performance } from '../perform/perform';
import { gridOfLine } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { stepOf } from '../time/grid';
import { ticks } from '../units';

/** Beyond this part of a step, at most a sixteenth, from its row's mean lean a hit stops being subtle. */
export const STRAY_LIMIT = 0.2;

/** Which hits stray, parallel to the part's hits, and each row's mean lean in ms. */
export interface Strays {
  flags: Uint8Array;
  meanLean: ReadonlyMap<string, number>;
}

/**
 * Finds hits that lie more than 20 % of a step from where the others of their row sit on average. Rows of fewer than three hits have none.
 */
export function straysOf(part: Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin'>, performance: Performance): Strays {
  const tempo = tempoMapOf(part);
  const map = meterMapOf(part);
  const flags = new Uint8Array(part.hits.length);
  const meanLean = new Map<string, number>();
  for (const [voice, indices] of indicesByVoice(part.hits)) {
    const leans = indices.map((i) => leanOf(part, performance, i) as number);
    const sum = leans.reduce((a, b) => a + b, 0);
    meanLean.set(voice, sum / leans.length);
    if (indices.length < 3) continue;
    indices.forEach((i, k) => {
      const home = ticks(performance.placedHomes[i] as number);
      const grid = gridOfLine(map, ticks(performance.homes.ticks[i] as number)) ?? '1/16';
      const step = tempo.between(home, ticks(home + Math.min(stepOf(grid), stepOf('1/16'))));
      const lean = leans[k] as number;
      // The hit itself is left out of the mean: a single stray among few must not pull it along.
      const others = (sum - lean) / (leans.length - 1);
      if (Math.abs(lean - others) > STRAY_LIMIT * step) flags[i] = 1;
    });
  }
  return { flags, meanLean };
}
