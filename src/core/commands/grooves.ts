/** Putting a groove on a part or on rows of it: a template move. */
import type { Move, GrooveMove } from '../model/feel';
import type { Groove } from '../model/groove';
import { rowsNamed } from '../part/rows';
import { voiceOfAll, type VoiceName } from '../row-names';
import type { Part } from '../model/part';
import { addMove } from './moves';

export interface GrooveUse {
  /** Without it: all rows. */
  voices?: readonly VoiceName[] | undefined;
  /** 0 to 1.5. */
  lean: number;
  level: number;
}

/** Whether a move is a groove that was put on rows, whole and everywhere: nothing but rows narrows it. */
const isOnRows = (m: Move): m is GrooveMove => m.kind === 'groove' && Object.keys(m.scope ?? {}).every((k) => k === 'voices');

/** What came of putting a groove down: the part, and the names of other grooves that still act on these rows. */
export interface GroovePut {
  part: Part;
  stays: string[];
}

/**
 * Puts a groove on rows, or on the whole part: it takes the place of what was put on these very rows, and other grooves that were put
 * on some of them leave those. A groove on the whole part, or one that is narrowed by bars or steps, stays and is named. A groove on
 * the whole part replaces the one that was there, those on single rows stay.
 * @example putGroove(part, hold, { voices: ['hat-closed'], lean: 0.6, level: 1 }).part
 */
export function putGroove(part: Part, groove: Groove, { voices, lean, level }: GrooveUse): GroovePut {
  const wanted = new Set(voices ?? []);
  const fresh: GrooveMove = { kind: 'groove', groove, lean, level, ...(voices ? { scope: { voices } } : {}) };
  const stays: string[] = [];
  const moves: Move[] = [];
  let placed = false;
  for (const move of part.feel.moves) {
    const own =
      move.kind === 'groove'
        ? move.scope?.voices?.flatMap((name) => (voiceOfAll(name) === null ? [name] : rowsNamed(part, [name])))
        : undefined;
    const shares = move.kind === 'groove' && (!voices || !own || own.some((v) => wanted.has(v)));
    if (!shares) {
      moves.push(move);
      continue;
    }
    const rest = own?.filter((v) => !wanted.has(v)) ?? [];
    const replaceable = isOnRows(move) && (voices ? own !== undefined : own === undefined);
    if (!replaceable) {
      moves.push(move);
      if (move.on !== false) stays.push(move.groove.name);
    } else if (voices && rest.length > 0) moves.push({ ...move, scope: { voices: rest } });
    else if (!placed) {
      placed = true;
      moves.push(fresh);
    }
  }
  const next: Part = { ...part, feel: { ...part.feel, moves } };
  return { part: placed ? next : addMove(next, fresh), stays };
}
