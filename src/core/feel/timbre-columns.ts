import type { Hit } from '../model/part';

/** How hits sound beside their velocity, parallel to a part's hits: pan and brightness in percent, pitch in semitones. */
export interface TimbreColumns {
  pans: Float64Array;
  pitches: Float64Array;
  brightness: Float64Array;
}

/** The hits' own. */
export const ownTimbre = (hits: readonly Hit[]): TimbreColumns => ({
  pans: Float64Array.from(hits, (h) => h.pan ?? 0),
  pitches: Float64Array.from(hits, (h) => h.pitch ?? 0),
  brightness: Float64Array.from(hits, (h) => h.brightness ?? 0),
});

/** Brings columns towards the hits' own: `share` 0 is the hits' own, 1 leaves them. */
export function blendTimbre(columns: TimbreColumns, hits: readonly Hit[], share: number): void {
  const own = ownTimbre(hits);
  for (const name of ['pans', 'pitches', 'brightness'] as const)
    for (let i = 0; i < hits.length; i++)
      columns[name][i] = (own[name][i] as number) + share * ((columns[name][i] as number) - (own[name][i] as number));
}
