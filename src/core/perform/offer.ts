import { specOf, type MoveSpec, type Surrounding } from '../feel/move-spec';
import type { Performable } from '../feel/work';
import { HOUSE_GROOVES } from '../groove/house-grooves';
import type { Groove } from '../model/groove';
import type { Move } from '../model/feel';
import { MOVES } from '../moves/all';
import { effectOfMove } from './effect';
import { performPart } from './perform';

const AROUND: Surrounding = { loopBars: 4, groove: HOUSE_GROOVES[0] as Groove };

/**
 * What would be heard instead of a move that changes nothing right now: the whole part in its scope, what a new one starts with, or one
 * member at its plain value. Null where none of these would be, or the feel is not used at all.
 * @example of a 1/16 swing in a part of eighths: { division: '1/8', percent: 60 }
 */
export function offerFor(part: Performable, index: number, specs: readonly MoveSpec[] = MOVES): Partial<Move> | null {
  const move = part.feel.moves[index];
  if (!move || move.on === false || part.feel.sway === 0) return null;
  const spec = specOf(specs, move.kind);
  const first: Record<string, unknown> = { ...spec.first?.(part, AROUND) };
  // Another groove is another choice, not a louder one.
  delete first.groove;
  const unscoped = move.scope ? [{ scope: undefined }] : [];
  const singles = Object.entries(spec.plain).flatMap(([name, value]) => (name === 'kind' ? [] : [{ [name]: value }]));
  const changes = [...unscoped, first, ...singles, ...unscoped.map((scope) => ({ ...scope, ...first }))] as Partial<Move>[];
  return changes.find((change) => isHeard(part, index, change, specs)) ?? null;
}

function isHeard(part: Performable, index: number, change: Partial<Move>, specs: readonly MoveSpec[]): boolean {
  const moves = part.feel.moves.map((m, i) => (i === index ? ({ ...m, ...change } as Move) : m));
  const changed = { ...part, feel: { ...part.feel, moves } };
  const effect = effectOfMove(changed, performPart(changed, undefined, specs), index, specs);
  return effect.hits > 0 || effect.timbres > 0;
}
