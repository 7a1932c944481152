/** Putting a groove on a part or on rows of it: a template move. */
import type { Move, TemplateMove } from '../../feel/feel';
import type { Groove } from '../../groove/groove';
import type { VoiceName } from '../../voices';
import type { Part } from '../part';
import { addMove, changeMove } from './moves';

export interface GrooveUse {
  /** Without it: all rows. */
  voices?: readonly VoiceName[] | undefined;
  /** 0 to 1.5. */
  lean: number;
  level: number;
}

/** The template move of exactly these rows, whole and everywhere; -1 where there is none. */
function placeOf(part: Part, voices: readonly VoiceName[] | undefined): number {
  const wanted = [...(voices ?? [])].sort().join();
  return part.feel.moves.findIndex((m: Move) => m.kind === 'template' && Object.keys(m.scope ?? {}).every((k) => k === 'voices') && [...(m.scope?.voices ?? [])].sort().join() === wanted);
}

/**
 * Adds a template move at the end of the feel; where one of the very same rows is there, it takes that one's place, so that trying one
 * groove after another never piles them up.
 * @example putGroove(part, hold, { voices: ['hat-closed'], lean: 0.6, level: 1 })
 */
export function putGroove(part: Part, groove: Groove, { voices, lean, level }: GrooveUse): Part {
  const at = placeOf(part, voices);
  if (at >= 0) return changeMove<TemplateMove>(part, at, { groove, lean, level, on: undefined } as Partial<TemplateMove>);
  return addMove(part, { kind: 'template', groove, lean, level, ...(voices ? { scope: { voices } } : {}) });
}
