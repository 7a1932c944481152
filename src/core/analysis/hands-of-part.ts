/** Who plays what in a part, ready to be shown: what the page Hands tells. */
import { barOfHome } from '../homes/homes';
import type { ConflictKind } from '../hands/limits';
import { LIMBS, type Handed, type PlayerLimb } from '../hands/sticking';
import type { HitId } from '../model/part';
import type { Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { conflictWords, stickingOfPart, type PartStroke, type PlayablePart } from './playing';

/** A moment that nobody can play. */
export interface ShownConflict {
  /** From 0. */
  bar: number;
  tick: Ticks;
  kind: ConflictKind;
  text: string;
  voice: VoiceName;
  /** The hit that finds no limb, all of its moment, and those that need the same limbs. */
  hit: HitId;
  moment: HitId[];
  among: HitId[];
  /** It is an ornament's further stroke. */
  isOrnament: boolean;
}

export interface HandsOfPart {
  /** By hit: 1 to 4 for R, L, RF, LF; 0 for none, 5 where nobody can play it. */
  limbs: Uint8Array;
  conflicts: ShownConflict[];
}

export const NO_LIMB = 0;
export const BEYOND = 5;
const NUMBERS: Readonly<Record<PlayerLimb, number>> = { R: 1, L: 2, RF: 3, LF: 4 };

/** @example limbName(1) // 'R' */
export const limbName = (n: number): PlayerLimb | null => LIMBS[n - 1] ?? null;

export function handsOfPart(part: PlayablePart, handed: Handed = {}): HandsOfPart {
  const { strokes, limbs, conflicts } = stickingOfPart(part, handed);
  const found = new Uint8Array(part.hits.length);
  for (const s of strokes) {
    const limb = limbs.get(s);
    if (limb && s.number === 0) found[s.hit] = NUMBERS[limb];
  }
  const idOf = (hit: number): HitId => part.hits[hit]?.id as HitId;
  const idsOf = (list: readonly PartStroke[]): HitId[] => [...new Set(list.map((s) => idOf(s.hit)))];
  return {
    conflicts: conflicts.map((conflict): ShownConflict => {
      const { kind, stroke, moment, among } = conflict;
      found[stroke.hit] = BEYOND;
      return {
        bar: Math.max(0, barOfHome(part, stroke.tick)),
        tick: stroke.tick,
        kind,
        text: conflictWords(part, conflict),
        voice: stroke.voice,
        hit: idOf(stroke.hit),
        moment: idsOf(moment),
        among: idsOf(among),
        isOrnament: stroke.number > 0,
      };
    }),
    limbs: found,
  };
}
