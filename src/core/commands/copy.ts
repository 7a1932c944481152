/** Copying hits to another place: the clip that copy and paste share, duplicating, repeating into the next bar. */
import { homesOf } from '../homes/homes';
import { NamedError } from '../errors';
import { MOST_HITS } from '../limits';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { replaceHits } from '../part/diff';
import { lockTest } from '../part/locks';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { barsOfHits } from '../homes/ticks-range';
import { rowsWith } from './hits';
import { atTick, keyInPart } from './place';

/** Hits taken out of their part; ticks count from the anchor, the home of the first. */
export interface Clip {
  hits: readonly Hit[];
  voices: readonly VoiceName[];
  /** Where the anchor was in its part, and within its bar. */
  anchor: Ticks;
  inBar: Ticks;
  /** How many bars the hits lie in. */
  bars: number;
}

/**
 * What copies do on steps where their row has a hit already: take its place, or leave it and go on the free steps alone. Either way
 * no step gets two hits.
 */
export const ONTO = ['replace', 'join'] as const;
export type Onto = (typeof ONTO)[number];

/** What came of adding copies: the part, the new hits, and what became of hits that were in their way. */
export interface Copied {
  part: Part;
  ids: HitId[];
  /** Hits whose place a copy took. */
  replaced: number;
  /** Copies that were left out, since a hit stayed on their step: by choice, or because it is locked. */
  leftOut: number;
}

/** @returns null without hits */
export function copyHits(part: Part, ids: ReadonlySet<HitId>): Clip | null {
  const homes = homesOf(part);
  let anchor = Infinity;
  const chosen: Hit[] = [];
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id)) return;
    anchor = Math.min(anchor, homes.ticks[i] as number);
    chosen.push(hit);
  });
  if (chosen.length === 0) return null;
  const map = meterMapOf(part);
  const bars = barsOfHits(part, ids);
  return {
    hits: chosen.map((hit) => atTick(hit, ticks(hit.tick - anchor))),
    voices: [...new Set(chosen.map((h) => h.voice))],
    anchor: ticks(anchor),
    inBar: ticks(anchor - map.barAt(ticks(anchor)).start),
    bars: bars ? bars.to - bars.from : 1,
  };
}

/**
 * Puts a clip down with its anchor at a tick. A clip of one voice may go to another; with several each keeps its own. The part
 * grows by whole bars where the copies need them; copies that would start before the part's origin are left out.
 */
export function pasteClip(
  part: Part,
  clip: Clip,
  at: Ticks,
  newId: () => HitId,
  { row, onto }: { row?: VoiceName | undefined; onto: Onto },
): Copied {
  const added = copiesAt(part, clip, at, newId, clip.voices.length === 1 ? row : undefined);
  const fitting = added.filter((hit) => hit.tick >= Math.min(part.origin, at));
  const put = putCopies(part, fitting, onto);
  return { ...put, leftOut: put.leftOut + added.length - fitting.length };
}

const copiesAt = (part: Part, clip: Clip, at: Ticks, newId: () => HitId, row?: VoiceName): Hit[] =>
  clip.hits.map((hit): Hit => {
    const { locked: _free, lane: _lane, ...rest } = atTick(hit, ticks(hit.tick + at));
    const voice = row ?? hit.voice;
    return { ...copyOfHit(rest, newId()), voice, key: voice === hit.voice ? hit.key : keyInPart(part, voice) };
  });

/** Puts a clip down at the places that it came from, all of it on one row; of hits at one place the loudest. */
export function pasteOnRow(part: Part, clip: Clip, row: VoiceName, newId: () => HitId, onto: Onto): Copied {
  const loudest = new Map<number, Hit>();
  for (const hit of copiesAt(part, clip, clip.anchor, newId, row)) {
    const other = loudest.get(hit.tick);
    if (!other || other.velocity < hit.velocity) loudest.set(hit.tick, hit);
  }
  return putCopies(part, [...loudest.values()], onto);
}

/**
 * Puts a clip down in each bar of a range, or in every second, third ... where it lies in more than one; what would reach beyond the range
 * is left out.
 * @param bars from 0, without `to`
 * @throws NamedError too-many-hits
 */
export function pasteOverBars(
  part: Part,
  clip: Clip,
  { from, to }: { from: number; to: number },
  newId: () => HitId,
  { row, onto }: { row?: VoiceName | undefined; onto: Onto },
): Copied {
  const times = Math.ceil((to - from) / clip.bars);
  if (part.hits.length + times * clip.hits.length > MOST_HITS) throw new NamedError('too-many-hits');
  const map = meterMapOf(part);
  const copies: Hit[] = [];
  for (let bar = from; bar < to; bar += clip.bars) {
    // A bar in a shorter meter may end before the place.
    const next = map.barOf(Math.min(to, bar + clip.bars)).start;
    const at = ticks(map.barOf(bar).start + clip.inBar);
    copies.push(...copiesAt(part, clip, at, newId, clip.voices.length === 1 ? row : undefined).filter((h) => h.home < next));
  }
  return putCopies(part, copies, onto);
}

/** Adds copies; hits of their row on the same step, or at the same place, are replaced or stay. */
export function putCopies(part: Part, copies: readonly Hit[], onto: Onto): Copied {
  const isLocked = lockTest(part);
  const grown = withHits(part, copies);
  const homes = homesOf(grown.part);
  const fresh = new Set(grown.ids);
  const stepOf = (voice: VoiceName, place: number): string => `${voice}@${place}`;
  const standing = new Map<string, Hit[]>();
  grown.part.hits.forEach((hit, i) => {
    if (fresh.has(hit.id)) return;
    for (const step of new Set([stepOf(hit.voice, homes.ticks[i] as number), stepOf(hit.voice, hit.tick)])) {
      const there = standing.get(step);
      if (there) there.push(hit);
      else standing.set(step, [hit]);
    }
  });
  const replaced = new Set<HitId>();
  const leftOut = new Set<HitId>();
  grown.part.hits.forEach((hit, i) => {
    if (!fresh.has(hit.id)) return;
    const there = [
      ...(standing.get(stepOf(hit.voice, homes.ticks[i] as number)) ?? []),
      ...(standing.get(stepOf(hit.voice, hit.tick)) ?? []),
    ];
    if (there.length === 0) return;
    if (onto === 'join' || there.some(isLocked)) leftOut.add(hit.id);
    else for (const other of there) replaced.add(other.id);
  });
  const added = copies.filter((h) => !leftOut.has(h.id));
  if (added.length === 0) return { part, ids: [], replaced: 0, leftOut: leftOut.size };
  return { ...withHits({ ...part, hits: replaceHits(part.hits, replaced, []) }, added), replaced: replaced.size, leftOut: leftOut.size };
}

/** Adds whole hits, with rows and bars for them. */
export function withHits(part: Part, added: readonly Hit[]): { part: Part; ids: HitId[] } {
  if (added.length === 0) return { part, ids: [] };
  const lanes = part.source?.lanes.length ?? 1;
  const fitting = added.map((hit): Hit => (hit.lane !== undefined && hit.lane >= lanes ? { ...hit, lane: 0 } : hit));
  const next = {
    ...part,
    rows: rowsWith(part.rows, new Set(fitting.map((h) => h.voice))),
    hits: replaceHits(part.hits, new Set(), fitting),
  };
  return { part: grownToFit(next), ids: fitting.map((h) => h.id) };
}

/** The part with as many bars as its last hit needs. */
export function grownToFit(part: Part): Part {
  const last = part.hits[part.hits.length - 1];
  if (!last || last.tick < endOfPart(part)) return part;
  return { ...part, bars: meterMapOf(part).barAt(last.tick).index + 1 };
}

/** Length from the beat of the first hit to the end of the beat of the last; whole bars where it is longer than one. */
export function spanOf(part: Part, ids: ReadonlySet<HitId>): Ticks {
  const homes = homesOf(part);
  const map = meterMapOf(part);
  let first = Infinity;
  let last = -Infinity;
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id)) return;
    first = Math.min(first, homes.ticks[i] as number);
    last = Math.max(last, homes.ticks[i] as number);
  });
  if (first === Infinity) return ticks(0);
  const bars = barsOfHits(part, ids);
  const startBar = map.barAt(ticks(first));
  const endBar = map.barAt(ticks(last));
  const start = map.beatAt(startBar, ticks(first)).start;
  const lastBeat = map.beatAt(endBar, ticks(last));
  const span = lastBeat.start + lastBeat.length - start;
  if (span <= startBar.length || !bars) return ticks(span);
  return ticks(map.barOf(bars.to).start - map.barOf(bars.from).start);
}

/** Copies hits right behind themselves: by the beats or, where they are longer, the bars that they span. */
export function duplicateHits(part: Part, ids: ReadonlySet<HitId>, newId: () => HitId, onto: Onto): Copied {
  return copiedBy(part, ids, spanOf(part, ids), newId, onto);
}

/** Copies hits by as many bars as they span, into the next bar or bars. */
export function repeatIntoNextBars(part: Part, ids: ReadonlySet<HitId>, newId: () => HitId, onto: Onto): Copied {
  const bars = barsOfHits(part, ids);
  const map = meterMapOf(part);
  return copiedBy(part, ids, ticks(bars ? map.barOf(bars.to).start - map.barOf(bars.from).start : 0), newId, onto);
}

function copiedBy(part: Part, ids: ReadonlySet<HitId>, by: Ticks, newId: () => HitId, onto: Onto): Copied {
  if (by === 0) return { part, ids: [], replaced: 0, leftOut: 0 };
  const copies = part.hits
    .filter((h) => ids.has(h.id))
    .map((h): Hit => {
      const { locked: _free, ...rest } = atTick(h, ticks(h.tick + by));
      return copyOfHit(rest, newId());
    });
  return putCopies(part, copies, onto);
}
