/**
 * Commands on whole bars. All of them are one thing: the part is cut into bars and put together anew from a list of them, with
 * their hits, meters and tempo changes.
 */
import { bisector } from 'd3-array';
import { barOfHome, homesOf } from '../homes/homes';
import { sameMeter, type Bar, type MeterChange } from '../time/meter-map';
import type { TempoChange } from '../time/tempo-map';
import { ticks, TICKS_PER_WHOLE, type Ticks } from '../units';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { meterMapOf } from '../part/part-time';
import { sectionsAfter, withSections } from '../part/sections';
import { atTick } from './place';

/** A bar of the new order: one of the part's bars, or an empty one in the meter and tempo of such a bar. */
export interface BarOfOrder {
  bar: number;
  empty?: boolean;
  /** Another meter than its own: its hits keep their distance from the bar line, those beyond a shorter bar go. */
  meter?: Omit<MeterChange, 'tick'>;
}

export const rangeOf = (from: number, to: number): BarOfOrder[] =>
  Array.from({ length: Math.max(0, to - from) }, (_, i) => ({ bar: from + i }));

/**
 * Puts a part together from a list of its bars, 0-based. Hits go with the bar of their home; those before the first bar stay in
 * front. A bar that is used again gets copies with new ids. An empty list leaves one empty bar.
 */
export function arrangeBars(part: Part, pieces: readonly BarOfOrder[], newId: () => HitId): Part {
  const map = meterMapOf(part);
  const order = pieces.length > 0 ? pieces : [{ bar: 0, empty: true }];
  const { ahead, byBar } = hitsByBar(part);
  const hits: Hit[] = [...ahead];
  const meter: MeterChange[] = [];
  const tempo = new TempoOfBars(part.tempo, part.origin);
  const player = part.playerTempo ? new TempoOfBars(part.playerTempo, part.origin) : null;
  const used = new Set<number>();
  let start: number = part.origin;
  const homes = homesOf(part);
  for (const { bar: index, empty, meter: wanted } of order) {
    const bar = map.barOf(index);
    const own = wanted ?? meterOf(bar);
    const length = lengthOf(own);
    const before = meter[meter.length - 1];
    if (!before || !sameMeter(before, own)) meter.push({ ...own, tick: ticks(start - part.origin) });
    tempo.add(bar, start, length);
    player?.add(bar, start, length);
    if (!empty) {
      for (const i of byBar.get(index) ?? []) {
        const hit = part.hits[i] as Hit;
        if (wanted && isBeyond(homes.ticks[i] as number, bar, length)) continue;
        hits.push(atTick(used.has(index) ? copyOfHit(hit, newId()) : hit, ticks(hit.tick - bar.start + start)));
      }
      used.add(index);
    }
    start += length;
  }
  const arranged: Part = {
    ...part,
    hits: hits.sort(compareHits),
    meter,
    tempo: tempo.changes(),
    ...(player ? { playerTempo: player.changes() } : {}),
    bars: order.length,
  };
  return part.sections
    ? withSections(
        arranged,
        sectionsAfter(
          part.sections,
          order.map(({ bar, empty }) => (empty ? null : bar)),
        ),
      )
    : arranged;
}

export const lengthOf = ({ numerator, denominator }: Pick<MeterChange, 'numerator' | 'denominator'>): number =>
  (numerator * TICKS_PER_WHOLE) / denominator;

/** Whether a home would lie behind the end of its bar, were that only so long. */
export const isBeyond = (home: number, bar: Bar, length: number): boolean => length < bar.length && home - bar.start >= length;

/** Hits before the first bar, and the indices of those of each bar. */
function hitsByBar(part: Part): { ahead: Hit[]; byBar: Map<number, number[]> } {
  const homes = homesOf(part);
  const ahead: Hit[] = [];
  const byBar = new Map<number, number[]>();
  part.hits.forEach((hit, i) => {
    const index = barOfHome(part, homes.ticks[i] as number);
    if (index < 0) return ahead.push(hit);
    const list = byBar.get(index);
    if (list) list.push(i);
    else byBar.set(index, [i]);
  });
  return { ahead, byBar };
}

/** The meter that a bar really has: one cut short gets a meter of its own length, as far as whole 64ths can say it. */
function meterOf(bar: Bar): Omit<MeterChange, 'tick'> {
  const { numerator, denominator, groups } = bar.meter;
  const full = (numerator * TICKS_PER_WHOLE) / denominator;
  const own = { numerator, denominator, ...(groups ? { groups } : {}) };
  return bar.length === full ? own : (meterOfLength(bar.length) ?? own);
}

/** The simplest meter of a length: quarters, else eighths and so on to 64ths. */
export function meterOfLength(length: number): { numerator: number; denominator: number } | null {
  for (const denominator of [4, 8, 16, 32, 64]) {
    const numerator = (length * denominator) / TICKS_PER_WHOLE;
    if (Number.isInteger(numerator) && numerator >= 1 && numerator <= 64) return { numerator, denominator };
  }
  return null;
}

const byTick = bisector((change: TempoChange) => change.tick);

/** Collects the tempo of rearranged bars. Uses binary search, so that many tempo changes stay fast. */
class TempoOfBars {
  private readonly written: TempoChange[];

  constructor(
    private readonly tempo: readonly TempoChange[],
    origin: Ticks,
  ) {
    this.written = tempo.filter((t) => t.tick < origin || t.tick === 0);
  }

  /** Writes a bar's tempo at its new place: what holds at its start, and its changes as far as the bar reaches. */
  add(bar: Bar, start: number, length: number): void {
    const { tempo } = this;
    const from = byTick.right(tempo, bar.start);
    this.put(start, (tempo[Math.max(0, from - 1)] ?? tempo[0])?.microsecondsPerQuarter ?? 500_000);
    for (const t of tempo.slice(from, byTick.right(tempo, bar.start + bar.length - 1e-6)))
      if (t.tick - bar.start < length) this.put(start + t.tick - bar.start, t.microsecondsPerQuarter);
  }

  /** The collected changes without repeats of the same tempo. */
  changes(): TempoChange[] {
    return this.written.filter((t, i) => i === 0 || t.microsecondsPerQuarter !== this.written[i - 1]?.microsecondsPerQuarter);
  }

  private put(tick: number, microsecondsPerQuarter: number): void {
    const { written } = this;
    const at = ticks(Math.max(0, tick));
    if (written.at(-1)?.tick === at) written[written.length - 1] = { tick: at, microsecondsPerQuarter };
    else written.push({ tick: at, microsecondsPerQuarter });
  }
}

/** Copies all bars behind themselves. */
export const doublePart = (part: Part, newId: () => HitId): Part =>
  arrangeBars(part, [...rangeOf(0, part.bars), ...rangeOf(0, part.bars)], newId);

/** Copies bars `from` to `to` (0-based, `to` not included) right behind themselves. */
export const repeatBars = (part: Part, from: number, to: number, newId: () => HitId): Part =>
  arrangeBars(part, [...rangeOf(0, to), ...rangeOf(from, to), ...rangeOf(to, part.bars)], newId);

/** Puts empty bars before bar `at`, in the meter of the bar they push away (of the last one at the end). */
export const insertBars = (part: Part, at: number, count: number, newId: () => HitId): Part =>
  arrangeBars(
    part,
    [
      ...rangeOf(0, at),
      ...Array.from({ length: count }, () => ({ bar: Math.min(at, part.bars - 1), empty: true })),
      ...rangeOf(at, part.bars),
    ],
    newId,
  );

/** Takes bars out, with their hits. */
export const deleteBars = (part: Part, from: number, to: number, newId: () => HitId): Part =>
  arrangeBars(part, [...rangeOf(0, from), ...rangeOf(to, part.bars)], newId);

/** Moves bars so that they start at bar `at` of the rest. */
export function moveBars(part: Part, from: number, to: number, at: number, newId: () => HitId): Part {
  const rest = [...rangeOf(0, from), ...rangeOf(to, part.bars)];
  return arrangeBars(part, [...rest.slice(0, at), ...rangeOf(from, to), ...rest.slice(at)], newId);
}

/** The hits that a part of only so many bars would lose: those whose home or place lies behind its end. */
export function hitsBehind(part: Part, bars: number): Set<HitId> {
  const homes = homesOf(part);
  const end: Ticks = meterMapOf(part).barOf(bars).start;
  const ids = new Set<HitId>();
  part.hits.forEach((hit, i) => {
    if (hit.tick >= end || (homes.ticks[i] as number) > end) ids.add(hit.id);
  });
  return ids;
}

/** Sets the length in bars; hits behind the new end are taken out, see {@link hitsBehind}. */
export function setLength(part: Part, bars: number): Part {
  const count = Math.max(1, Math.round(bars));
  if (count === part.bars) return part;
  const lost = hitsBehind(part, count);
  const cut: Part = { ...part, bars: count, hits: lost.size > 0 ? part.hits.filter((h) => !lost.has(h.id)) : part.hits };
  return part.sections ? withSections(cut, part.sections) : cut;
}
