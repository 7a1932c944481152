import { NamedError } from '@/core/errors';
import { MOST_HITS } from '@/core/limits';
import type { Part } from '@/core/model/part';
import { strokesAtMost } from '@/core/ornament/strokes';
import { countCycled, soundingPart } from '@/core/song/sounding';

/**
 * What a part would make is counted before it is made: hits of rows with a loop length of their own, strokes of ornaments. Rounds of a
 * running order are counted where they are unrolled.
 * @throws NamedError too-many-hits
 */
export function checkAmount(part: Part): void {
  const hits = countCycled(part);
  const tooMany = (n: number): NamedError => new NamedError('too-many-hits', { hits: n, most: MOST_HITS });
  if (hits > MOST_HITS) throw tooMany(hits);
  const sounding = soundingPart(part);
  const strokes = sounding.hits.reduce((sum, _, i) => sum + strokesAtMost(sounding, i), 0);
  if (strokes > MOST_HITS) throw tooMany(strokes);
}
