import { compareGrooves } from '../groove/compare';
import type { Groove } from '../model/groove';
import type { Bpm } from '../units';

/** A groove, and how far another is from it. */
export interface NearGroove {
  groove: Groove;
  /** Root mean square over the steps that were learnt. */
  ms: number;
  /** The same of levels: 0.1 is 10 %. */
  level: number;
}

/** A tenth of level counts as much as 5 ms. */
const MS_OF_LEVEL = 50;

/**
 * Of some grooves those that come closest to one that was learnt, by time and level.
 * @param own learnt from hits: places that none was struck at do not count
 * @example nearestGrooves(learnGroove(part), bpm(96), HOUSE_GROOVES)[0]
 */
export const nearestGrooves = (own: Groove, tempo: Bpm, among: readonly Groove[], most = 3): NearGroove[] =>
  among
    .map((groove): NearGroove => {
      const { rmsMs, rmsLevel } = compareGrooves(groove, own, tempo, { learntOnly: true });
      return { groove, ms: rmsMs, level: rmsLevel };
    })
    .sort((a, b) => a.ms + a.level * MS_OF_LEVEL - (b.ms + b.level * MS_OF_LEVEL))
    .slice(0, most);
