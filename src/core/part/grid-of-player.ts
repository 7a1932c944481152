import { sameValue } from '../model/fields';
import type { Part } from '../model/part';

/** How a part that was played without a click stands: its grid follows the player, is steady, or its tempo was changed otherwise. */
export type GridOfPlayer = 'follows' | 'steady' | 'other';

/** Null where nothing is known of a player's tempo. */
export function gridOfPlayer({ tempo, playerTempo }: Pick<Part, 'tempo' | 'playerTempo'>): GridOfPlayer | null {
  if (!playerTempo) return null;
  if (tempo === playerTempo || sameValue(tempo, playerTempo)) return 'follows';
  return tempo.length === 1 ? 'steady' : 'other';
}
