import type { Hit } from '../model/part';
import { ticks, velocity, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import type { SwingMove } from '../model/feel';
import type { Performable } from '../feel/work';
import { isIdle } from '../feel/move-spec';
import { performPart } from './perform';

/** The swing moves of a feel that are on: they alone place the lines. */
const swingsOf = ({ feel }: Pick<Performable, 'feel'>): SwingMove[] => (isIdle(feel) ? [] : feel.moves.filter((m): m is SwingMove => m.kind === 'swing' && m.on !== false));

/** Whether rows are swung differently. */
export const isSwungByRow = (part: Pick<Performable, 'feel'>): boolean => swingsOf(part).some((m) => m.scope?.voices !== undefined);

/**
 * Where the swing moves in scope put lines of a row, blended by the sway: where they are drawn, and where a hit that is placed on one
 * sounds, before other moves act on it.
 * @param lines written ticks, rising
 * @example swing 1/8 at 2:1: placeLines(part, 'snare', [ticks(Q / 3)]) // about 0.454 of a quarter
 */
export function placeLines(part: Performable, voice: VoiceName, lines: readonly Ticks[]): Float64Array {
  const moves = swingsOf(part);
  if (moves.length === 0) return Float64Array.from(lines);
  const hits = lines.map((tick, i): Hit => ({ id: String(i), voice, key: 0, tick, length: ticks(1), velocity: velocity(96) }));
  return performPart({ ...part, hits, feel: { ...part.feel, moves } }).ticks;
}
