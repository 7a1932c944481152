import { isOfBreak, KEY_OF_BREAKS, type Break, type StrokeKind } from '../model/break';
import { provisionalHome } from '../homes/homes';
import { compareHits, type Hit, type Part, type Row } from '../model/part';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { VoiceName } from '../row-names';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { piecesOf } from './cut';
import { roundsOfBreak, tickOfMoment } from './lines';
import { kindOfRow, LIKE_OF_KIND, rowOfKind } from './rows';
import { heardIn, strokesOfBreak } from './strokes';

const NAMES: Readonly<Record<StrokeKind, string>> = {
  kick: 'Kick slices',
  snare: 'Snare slices',
  hat: 'Hat slices',
  other: 'Other slices',
};
/** Rows stand as a kit's do: hats above, the kick at the foot. */
const ORDER: readonly StrokeKind[] = ['hat', 'other', 'snare', 'kick'];

/** A stroke before the part's first bar line is at most so early. */
const EARLIEST = TICKS_PER_QUARTER / 2;

/** Hits that play a break as it is, in each of its rounds. */
export function plainHits(part: Part, of: Break): Hit[] {
  const end = endOfPart(part);
  const map = meterMapOf(part);
  const { start } = map.barOf(0);
  const hits: Hit[] = [];
  for (let round = 0; round < roundsOfBreak(part, of); round++) {
    of.pieces.forEach((piece, n) => {
      const tick = tickOfMoment(part, of, piece.from, round);
      if (tick >= end || tick < start - EARLIEST) return;
      hits.push({
        id: `${of.id}.${round}.${piece.id}`,
        voice: rowOfKind(of.id, piece.kind),
        key: KEY_OF_BREAKS,
        tick,
        home: provisionalHome(map, tick),
        length: ticks(Math.max(1, tickOfMoment(part, of, piece.until, round) - tick)),
        velocity: piece.velocity,
        piece: n,
      });
    });
  }
  return hits;
}

const untouched = (hit: Hit, plain: Hit): boolean =>
  hit.voice === plain.voice && hit.tick === plain.tick && hit.velocity === plain.velocity && hit.length === plain.length;

/**
 * A part with a break in place of its former state: cut anew, its hits played by the new pieces. What the hand did to hits stays: one that
 * was
 * moved, or added, goes on with its piece under that piece's name; one that was left as it was follows; one that was deleted stays away.
 */
export function withBreak(part: Part, next: Break): Part {
  const before = part.breaks?.find((b) => b.id === next.id);
  const cut: Break = { ...next, pieces: piecesOf(next, strokesOfBreak(next, heardIn(part, next.id))) };
  const breaks = before ? (part.breaks ?? []).map((b) => (b === before ? cut : b)) : [...(part.breaks ?? []), cut];
  const was = new Map(before ? plainHits(part, before).map((h) => [h.id, h]) : []);
  const isNew = new Map(plainHits(part, cut).map((h) => [h.id, h]));
  const numberOf = new Map(cut.pieces.map((p, n) => [p.id, n]));
  const isOf = rowsTest(part, next.id);
  const end = endOfPart(part);
  const kept: Hit[] = [];
  for (const hit of part.hits) {
    if (!isOf(hit.voice)) {
      kept.push(hit);
      continue;
    }
    const plain = isNew.get(hit.id);
    isNew.delete(hit.id);
    const old = was.get(hit.id);
    if (plain && old && untouched(hit, old))
      kept.push({
        ...hit,
        voice: plain.voice,
        tick: plain.tick,
        home: plain.home,
        length: plain.length,
        velocity: plain.velocity,
        piece: plain.piece as number,
      });
    else {
      const name = before && hit.piece !== undefined ? before.pieces[hit.piece]?.id : undefined;
      const n = name === undefined ? undefined : numberOf.get(name);
      // The piece that it played is no more.
      if (hit.tick >= end || (n === undefined && (name !== undefined || old))) continue;
      kept.push(n === undefined ? hit : { ...hit, piece: n });
    }
  }
  const added = [...isNew.values()].filter((h) => !was.has(h.id));
  const hits = [...kept, ...added].sort(compareHits);
  return { ...part, breaks, rows: rowsFor(part, cut, hits), hits };
}

const rowsTest = (part: Part, id: string): ((row: VoiceName) => boolean) => {
  const own = new Set(part.rows.flatMap((r) => (isOfBreak(r.plays) && r.plays.break === id ? [r.voice] : [])));
  return (row) => own.has(row);
};

/** Rows for the kinds that are struck, above all others; those without hits go. */
function rowsFor(part: Part, { id }: Break, hits: readonly Hit[]): Row[] {
  const struck = new Set(hits.map((h) => h.voice));
  const isOf = rowsTest(part, id);
  const rows = part.rows.filter((r) => !isOf(r.voice) || struck.has(r.voice));
  const missing = ORDER.filter((kind) => struck.has(rowOfKind(id, kind)) && !rows.some((r) => r.voice === rowOfKind(id, kind)));
  const made = missing.map((kind): Row => ({
    voice: rowOfKind(id, kind),
    name: NAMES[kind],
    like: LIKE_OF_KIND[kind],
    plays: { break: id },
  }));
  const rank = (r: Row): number => (isOf(r.voice) || made.includes(r) ? ORDER.indexOf(kindOfRow(r.voice)) : ORDER.length);
  return made.length === 0 ? rows : [...made, ...rows].sort((a, b) => rank(a) - rank(b));
}

/** A part without a break, its rows and its hits. */
export function withoutBreak(part: Part, id: string): Part {
  const isOf = rowsTest(part, id);
  const { breaks = [], heard = [], ...rest } = part;
  const [others, otherHeard] = [breaks.filter((b) => b.id !== id), heard.filter((h) => h.break !== id)];
  return {
    ...rest,
    ...(others.length > 0 ? { breaks: others } : {}),
    ...(otherHeard.length > 0 ? { heard: otherHeard } : {}),
    rows: part.rows.filter((r) => !isOf(r.voice)),
    hits: part.hits.filter((h) => !isOf(h.voice)),
  };
}

/** Whether a part is nothing but this break: its tempo, meter and bars are those of the break then. */
export const isBreakAlone = (part: Part, id: string): boolean => part.rows.every((r) => isOfBreak(r.plays) && r.plays.break === id);
