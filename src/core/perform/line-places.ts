import { compareHits, type Hit } from '../model/part';
import { BINARY } from '../moves/swing';
import { meterMapOf } from '../part/part-time';
import { ticks, velocity, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import type { SwingMove } from '../model/feel';
import type { Performable } from '../feel/work';
import { isIdle } from '../feel/move-spec';
import { performPart } from './perform';

/** The swing moves of a feel that are on: they alone place the lines. */
const swingsOf = ({ feel }: Pick<Performable, 'feel'>): SwingMove[] =>
  isIdle(feel) ? [] : feel.moves.filter((m): m is SwingMove => m.kind === 'swing' && m.on !== false);

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
  const map = meterMapOf(part);
  const isBinary = (line: Ticks): boolean => (line - map.barAt(line).start) % BINARY === 0;
  // Two calls, so that triplet lines do not keep the binary ones from swinging.
  const [binary, others] = [lines.filter(isBinary), lines.filter((line) => !isBinary(line))];
  const places = new Map([...placed(part, moves, voice, binary), ...placed(part, moves, voice, others)]);
  return Float64Array.from(lines, (line) => places.get(line) as number);
}

/** No id of a part's begins so. */
const MARK = '\u0003';

/** Where a hit on each line would sound. The row's own hits take part, because triplets keep their pair straight. */
function placed(part: Performable, moves: readonly SwingMove[], voice: VoiceName, lines: readonly Ticks[]): [Ticks, number][] {
  if (lines.length === 0) return [];
  const own = part.hits.filter((h) => h.voice === voice).map(({ nudge: _nudge, ...hit }) => hit);
  const marks = lines.map((tick, i): Hit => ({ id: MARK + i, voice, key: 0, tick, home: tick, length: ticks(1), velocity: velocity(96) }));
  const hits = [...own, ...marks].sort(compareHits);
  const { ticks: times } = performPart({ ...part, hits, feel: { ...part.feel, moves } });
  return hits.flatMap((h, i) => (h.id.startsWith(MARK) ? [[h.tick, times[i] as number] as [Ticks, number]] : []));
}
