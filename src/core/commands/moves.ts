/** Commands on the feel: its moves and their order, whole feels, baking in. */
import { MOST_MOVES, type Feel, type Move, EMPTY_FEEL } from '../model/feel';
import { performPart, type Performance } from '../perform/perform';
import { rollLength } from '../part/roll-strokes';
import { roundHalfUp, ticks, velocity } from '../units';
import { compareHits, type Hit, type Part } from '../model/part';
import { isIdle } from '../feel/move-spec';
import { grownToFit } from './copy';

const withMoves = (part: Part, moves: readonly Move[]): Part => ({ ...part, feel: { ...part.feel, moves } });

/** Adds a move at the end; at most 64 fit. */
export const addMove = (part: Part, move: Move): Part =>
  part.feel.moves.length >= MOST_MOVES ? part : withMoves(part, [...part.feel.moves, move]);

/** Changes members of a move; a member set to undefined goes. */
export function changeMove<M extends Move>(part: Part, index: number, change: Partial<M>): Part {
  const moves = part.feel.moves.map((m, i) => {
    if (i !== index) return m;
    const next = { ...m, ...change } as Record<string, unknown>;
    for (const name of Object.keys(next)) if (next[name] === undefined) delete next[name];
    return next as unknown as Move;
  });
  return withMoves(part, moves);
}

export const removeMove = (part: Part, index: number): Part =>
  withMoves(
    part,
    part.feel.moves.filter((_, i) => i !== index),
  );

/** Copies a move right behind itself. */
export function duplicateMove(part: Part, index: number): Part {
  const move = part.feel.moves[index];
  if (!move || part.feel.moves.length >= MOST_MOVES) return part;
  return withMoves(part, [...part.feel.moves.slice(0, index + 1), move, ...part.feel.moves.slice(index + 1)]);
}

/** Moves a move so that it stands at another index. */
export function reorderMove(part: Part, from: number, to: number): Part {
  const moves = [...part.feel.moves];
  const [move] = moves.splice(from, 1);
  if (!move || from === to) return part;
  moves.splice(to, 0, move);
  return withMoves(part, moves);
}

/** Applies a whole feel; the old one goes. */
export const setFeel = (part: Part, feel: Feel): Part => ({ ...part, feel });

/**
 * Writes the performed hits as the written ones and empties feel and nudges: performing afterwards gives the same notes to the tick.
 * Ornaments stay as they are, around the hits' new places; homes, chokes and locks stay. The part grows by a bar where a hit was performed
 * behind its end.
 */
export function bake(part: Part): Part {
  const nudged = part.hits.some((h) => h.nudge);
  if (isIdle(part.feel) && !nudged) return part.feel.moves.length === 0 ? part : { ...part, feel: { ...EMPTY_FEEL, seed: part.feel.seed } };
  return writtenOut(part, performPart(part));
}

/** A part with what was performed of it as what is written. */
export function writtenOut(part: Part, performed: Performance): Part {
  const hits = part.hits.map((hit, i): Hit => {
    const { nudge: _nudge, ...rest } = hit;
    // A roll without a length of its own goes on to the next hit, which may move: it keeps what it had.
    const ornament: Pick<Hit, 'ornament'> =
      hit.ornament?.kind === 'roll' ? { ornament: { ...hit.ornament, length: rollLength(part, i) } } : {};
    return {
      ...withTimbre(rest, performed, i),
      ...ornament,
      tick: ticks(roundHalfUp(performed.ticks[i] as number)),
      velocity: velocity(performed.velocities[i] as number),
      length: ticks(Math.max(1, roundHalfUp(performed.lengths[i] as number))),
    };
  });
  return grownToFit({ ...part, hits: hits.sort(compareHits), feel: { ...EMPTY_FEEL, seed: part.feel.seed } });
}

/** Pan, pitch and brightness as performed; pitch to a hundredth, what is at rest is not kept. */
function withTimbre<H extends Pick<Hit, 'pan' | 'pitch' | 'brightness'>>(hit: H, { timbre }: Performance, i: number): H {
  if (!timbre) return hit;
  const { pan: _pan, pitch: _pitch, brightness: _brightness, ...rest } = hit;
  const [pan, pitch, brightness] = [
    Math.round(timbre.pans[i] as number),
    Math.round((timbre.pitches[i] as number) * 100) / 100,
    Math.round(timbre.brightness[i] as number),
  ];
  return { ...rest, ...(pan ? { pan } : {}), ...(pitch ? { pitch } : {}), ...(brightness ? { brightness } : {}) } as H;
}
