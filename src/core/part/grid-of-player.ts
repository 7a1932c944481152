import { sameValue } from '../model/fields';
import type { Part } from '../model/part';

/** State of a part played without a click: the grid follows the player, the tempo is steady, or it was edited. */
export type GridOfPlayer = 'follows' | 'steady' | 'other';

/** Null if the part has no player's tempo. */
export function gridOfPlayer({ tempo, playerTempo }: Pick<Part, 'tempo' | 'playerTempo'>): GridOfPlayer | null {
  if (!playerTempo) return null;
  if (tempo === playerTempo || sameValue(tempo, playerTempo)) return 'follows';
  return tempo.length === 1 ? 'steady' : 'other';
}
