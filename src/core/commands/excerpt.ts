/** Bars as a part of their own, and a part's bars put into another: ideas, sections taken out, parts brought in. */
import { breaksBrought, piecesBrought } from '../breaks/brought';
import { homesOf, homeTest } from '../homes/homes';
import type { BarScope } from '../model/feel';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { meterMapOf } from '../part/part-time';
import { sectionsAfter, withSections } from '../part/sections';
import { sameMeter, type MeterChange } from '../time/meter-map';
import type { TempoChange } from '../time/tempo-map';
import { ticks } from '../units';
import { arrangeBars, rangeOf, type BarOfOrder } from './bars';
import { addSection, freshName } from './sections';
import { atTick } from './place';
import { addRow } from './rows';

/** A scope's bars as counted `by` bars later. Bars that lie before the first are behind the last of `bars` instead: nothing is touched. */
function shiftedBars({ from, to, every, at }: BarScope, by: number, bars: number): BarScope {
  const gone = to !== undefined && to - by < 1;
  return {
    ...(from === undefined && !gone ? {} : { from: gone ? bars + 1 : Math.max(1, (from as number) - by) }),
    ...(to === undefined ? {} : { to: gone ? bars + 1 : to - by }),
    ...(every === undefined
      ? {}
      : { every, at: (at ?? []).map((a) => ((((a - 1 - by) % every) + every) % every) + 1).sort((a, b) => a - b) }),
  };
}

/**
 * Some bars as a part of their own (from 0, `to` not included). All stays at its tick, the first bar line being the origin: the feel draws
 * what it drew in the whole part. Sections and the running order stay behind; scopes count the bars anew.
 */
export function excerptOf(part: Part, from: number, to: number): Part {
  const map = meterMapOf(part);
  const { start } = map.barOf(from);
  const end = map.barOf(to).start;
  const homes = homesOf(part);
  const belongs = homeTest(part, start, end);
  const { sections: _sections, order: _order, ...rest } = part;
  const bars = to - from;
  const moves = part.feel.moves.map((move) =>
    move.scope?.bars ? { ...move, scope: { ...move.scope, bars: shiftedBars(move.scope.bars, from, bars) } } : move,
  );
  return {
    ...rest,
    origin: start,
    bars,
    meter: metersOf(part, from, to),
    hits: part.hits.filter((hit, i) => belongs(homes.ticks[i] as number) || (from === 0 && hit.tick < start)),
    feel: { ...part.feel, moves },
    ...(part.breaks ? { breaks: part.breaks.map((b) => ({ ...b, bar: b.bar - from })) } : {}),
  };
}

/** The meters of some bars, counted from the first of them. */
function metersOf(part: Pick<Part, 'meter' | 'origin'>, from: number, to: number): MeterChange[] {
  const map = meterMapOf(part);
  const { start } = map.barOf(from);
  const meters: MeterChange[] = [];
  for (let b = from; b < to; b++) {
    const bar = map.barOf(b);
    const last = meters.at(-1);
    if (!last || !sameMeter(last, bar.meter)) meters.push({ ...bar.meter, tick: ticks(bar.start - start) });
  }
  return meters;
}

/** A part whose first bar begins with its first tick: an excerpt that goes its own way. */
export function fromZero(part: Part): Part {
  const by = part.origin;
  if (by === 0) return part;
  const earlier = (tempo: readonly TempoChange[]): TempoChange[] => {
    const holding = tempo.findLast((t) => t.tick <= by) ?? tempo[0];
    return [
      ...(holding ? [{ ...holding, tick: ticks(0) }] : []),
      ...tempo.filter((t) => t.tick > by).map((t) => ({ ...t, tick: ticks(t.tick - by) })),
    ];
  };
  return {
    ...part,
    origin: ticks(0),
    tempo: earlier(part.tempo),
    ...(part.playerTempo ? { playerTempo: earlier(part.playerTempo) } : {}),
    hits: part.hits.map((hit) => atTick(hit, ticks(hit.tick - by))),
  };
}

/** Bars from 0, `to` not included; none where both are the same. */
export interface BarRange {
  from: number;
  to: number;
}

/**
 * Puts the bars of another part in the place of some of these: its hits, their meters, and rows that are not here yet. Tempo, feel and kit
 * are
 * this part's; sections stay where they are. Behind the last bar it makes the part longer.
 */
export function putBars(part: Part, other: Part, { from, to }: BarRange, newId: () => HitId): Part {
  const meters = Array.from({ length: other.bars }, (_, k) => meterMapOf(other).barOf(k).meter);
  const map = meterMapOf(part);
  const isAlike = other.bars === to - from && meters.every((m, k) => sameMeter(m, map.barOf(from + k).meter));
  const { sections, order, ...bare } = part;
  const pieces: BarOfOrder[] = meters.map(({ tick: _tick, ...meter }) => ({ bar: Math.min(from, part.bars - 1), empty: true, meter }));
  const arranged: Part = isAlike
    ? withoutHits(part, from, to)
    : arrangeBars(bare, [...rangeOf(0, from), ...pieces, ...rangeOf(to, part.bars)], newId);
  // A bar that is replaced is still that bar of its section; those that come on top belong to the last of them.
  const bars = [
    ...rangeOf(0, from),
    ...pieces.map((_, k) => ({ bar: to > from ? Math.min(from + k, to - 1) : null })),
    ...rangeOf(to, part.bars),
  ].map((p) => p.bar);
  const room: Part = isAlike ? arranged : withSections(arranged, sectionsAfter(sections, bars), order);
  const by = meterMapOf(room).barOf(from).start - other.origin;
  const ids = new Set(room.hits.map((h) => h.id));
  const brought = piecesBrought(part, other);
  const added = other.hits.map((hit): Hit =>
    atTick(ids.has(hit.id) ? copyOfHit(brought(hit), newId()) : brought(hit), ticks(hit.tick + by)),
  );
  const withRows = other.rows.reduce(
    (p, { voice, ...settings }) => (added.some((h) => h.voice === voice) ? addRow(p, voice, settings) : p),
    room,
  );
  return breaksBrought({ ...withRows, hits: [...withRows.hits, ...added].sort(compareHits) }, other, from);
}

function withoutHits(part: Part, from: number, to: number): Part {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const belongs = homeTest(part, map.barOf(from).start, map.barOf(to).start);
  return { ...part, hits: part.hits.filter((_, i) => !belongs(homes.ticks[i] as number)) };
}

/** Copies bars over others, beginning at bar `at` (from 0): what stood there goes. Beyond the last bar the part grows. */
export const copyBarsOver = (part: Part, { from, to }: BarRange, at: number, newId: () => HitId): Part =>
  putBars(part, excerptOf(part, from, to), { from: at, to: Math.min(part.bars, at + to - from) }, newId);

/** Brings a part in behind the last bar, as a section. */
export function appendAsSection(part: Part, other: Part, { id, name, newId }: { id: string; name: string; newId: () => HitId }): Part {
  const longer = putBars(part, other, { from: part.bars, to: part.bars }, newId);
  return addSection(longer, id, part.bars, longer.bars, freshName(part.sections ?? [], name));
}

/** The bars that an excerpt came from: those that begin where it does, as far as the part reaches. */
export function cameFrom(part: Part, excerpt: Pick<Part, 'origin'>, bars: number): BarRange {
  const from = Math.max(0, Math.min(part.bars - 1, meterMapOf(part).barAt(excerpt.origin).index));
  return { from, to: Math.min(part.bars, from + bars) };
}
