/** Breaks that come along when bars of one part go into another. */
import type { Hit, Part } from '../model/part';
import { breakOfRow } from './rows';

/**
 * A hit's piece by the other part's list, where that knows it under its name; a break that was cut otherwise there has the first of the
 * row's kind.
 */
export function piecesBrought(part: Part, from: Part): (hit: Hit) => Hit {
  if (!from.breaks || !part.breaks) return (hit) => hit;
  const known = new Map(part.breaks.map((b) => [b.id, new Map(b.pieces.map((p, n) => [p.id, n]))]));
  const ofRow = new Map(from.rows.map((r) => [r.voice, breakOfRow(from, r.voice)]));
  return (hit) => {
    const of = ofRow.get(hit.voice);
    const names = of && known.get(of.id);
    if (!names || hit.piece === undefined) return hit;
    const { piece, ...rest } = hit;
    const n = names.get(of.pieces[piece]?.id ?? '');
    return n === undefined ? rest : n === piece ? hit : { ...rest, piece: n };
  };
}

/** A part with the breaks of another, whose bars came in from this bar on. Those that it has itself stay as they are. */
export function breaksBrought(part: Part, other: Part, bar: number): Part {
  const known = new Set(part.breaks?.map((b) => b.id));
  const brought = (other.breaks ?? []).filter((b) => !known.has(b.id));
  if (brought.length === 0) return part;
  const ids = new Set(brought.map((b) => b.id));
  const heard = [...(part.heard ?? []), ...(other.heard ?? []).filter((h) => ids.has(h.break))];
  return {
    ...part,
    breaks: [...(part.breaks ?? []), ...brought.map((b) => ({ ...b, bar: b.bar + bar }))],
    ...(heard.length > 0 ? { heard } : {}),
  };
}
