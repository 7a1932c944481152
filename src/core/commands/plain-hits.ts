import { NamedError } from '../errors';
import { MOST_HITS } from '../limits';
import { performPart, type Performance } from '../perform/perform';
import { isIdle } from '../feel/move-spec';
import { compareHits, type Hit, type HitId, type Nudge, type Part, type Row } from '../model/part';
import { shapedHit } from '../model/hit-shape';
import { isSpilled, strokesAtMost, strokesOf } from '../ornament/strokes';
import { lockTest } from '../part/locks';
import { withoutReading } from '../homes/homes';
import { endOfPart, meterMapOf, tempoMapOf } from '../part/part-time';
import { countCycled, cycledHits, soundingPart, soundsIn, writtenId } from '../song/sounding';
import { variationText } from '../song/variation';
import { clamp, milliseconds, roundHalfUp, ticks, velocity } from '../units';
import { MAX_NUDGE_MS } from './hits';
import { writtenOut } from './moves';
import { expandOrnaments, homeInPart } from './ornaments';

/** Everything about a part that is not a plain hit, in the order in which it is converted. */
export const NOT_PLAIN = ['loops', 'passes', 'probability', 'ornaments', 'feel'] as const;
export type NotPlain = (typeof NOT_PLAIN)[number];

/** How many rows (`loops`), hits or moves (`feel`) there are of each kind. */
export type NotPlainCounts = Readonly<Record<NotPlain, number>>;

/** @param ids the hits that are meant, with the loop lengths of their rows; all without it. The feel belongs to the whole part */
export function countNotPlain(part: Part, ids?: ReadonlySet<HitId>): NotPlainCounts {
  const hits = ids ? part.hits.filter((h) => ids.has(h.id)) : part.hits;
  const rows = new Set(hits.map((h) => h.voice));
  return {
    loops: part.rows.filter((r) => r.cycle && rows.has(r.voice)).length,
    passes: hits.filter((h) => h.passes).length,
    probability: hits.filter((h) => h.chance !== undefined).length,
    ornaments: hits.filter((h) => h.ornament && !h.choke).length,
    feel: ids || isIdle(part.feel) ? 0 : part.feel.moves.length,
  };
}

/**
 * The kinds that are converted when some are chosen. The feel takes all others along: it acts on each round of a loop and on strokes that
 * follow its swing, and probability is drawn by the place of a hit.
 */
export const kindsWith = (kinds: ReadonlySet<NotPlain>): ReadonlySet<NotPlain> => (kinds.has('feel') ? new Set(NOT_PLAIN) : kinds);

export interface PlainHits {
  part: Part;
  /** The hits that were converted and the hits they became. */
  ids: HitId[];
  /** How many hits were deleted: they do not sound in the first pass, or stand beyond their row's loop length. */
  removed: number;
}

/**
 * Converts to plain hits what sounds in the first pass: loop lengths of rows, passes, probability, ornaments and the feel. It sounds the
 * same: nudges keep what a whole tick, or the feel on a new hit, would change. Locked hits stay as they are, and so do looped rows that
 * hold one.
 * @param ids the hits that are meant; all without it. The feel is converted only where all are, and none is locked
 * @throws NamedError too-many-hits
 */
export function convertToPlain(part: Part, chosen: ReadonlySet<NotPlain>, newId: () => HitId, ids?: ReadonlySet<HitId>): PlainHits {
  const isLocked = lockTest(part);
  const locked = new Set(part.hits.filter(isLocked).map((h) => h.voice));
  const closed = new Set(part.rows.filter((r) => r.cycle && locked.has(r.voice)).map((r) => r.voice));
  const withFeel = chosen.has('feel') && !ids && locked.size === 0;
  const kinds = kindsWith(withFeel ? chosen : new Set([...chosen].filter((kind) => kind !== 'feel')));
  const meant = new Set(part.hits.filter((h) => (!ids || ids.has(h.id)) && !isLocked(h) && !closed.has(h.voice)).map((h) => h.id));
  checkAmount(countCycled(part));
  const touched = new Set<HitId>();
  let next = part;
  let removed = 0;
  const rows = new Set(part.hits.filter((h) => meant.has(h.id) && needsRounds(h, kinds)).map((h) => h.voice));
  if (rows.size > 0) {
    const written = loopsWritten(next, rows, newId);
    next = written.part;
    removed += written.removed;
    for (const [id, of] of written.copies) {
      touched.add(id).add(of);
      if (meant.has(of)) meant.add(id);
    }
  }
  if (kinds.has('passes') || kinds.has('probability')) {
    const once = firstPassWritten(next, meant, kinds);
    removed += next.hits.length - once.part.hits.length;
    next = once.part;
    for (const id of once.touched) touched.add(id);
  }
  if (kinds.has('ornaments') && next.hits.some((h) => meant.has(h.id) && h.ornament)) {
    // Strokes sound together or not at all: as hits with a probability each would be drawn by itself.
    const together = new Set(next.hits.filter((h) => meant.has(h.id) && h.ornament && h.chance !== undefined).map((h) => h.id));
    const once = firstPassWritten(next, together, new Set(['probability']));
    removed += next.hits.length - once.part.hits.length;
    next = once.part;
    const before = next;
    checkAmount(before.hits.reduce((sum, h, i) => sum + (meant.has(h.id) ? strokesAtMost(before, i) : 1), 0));
    const expanded = ornamentsWritten(next, meant, newId);
    next = expanded.part;
    for (const id of expanded.ids) touched.add(id);
  }
  if (withFeel) {
    next = feelWritten(next);
    for (const { id } of next.hits) touched.add(id);
  }
  const there = new Set(next.hits.map((h) => h.id));
  return { part: next, ids: [...touched].filter((id) => there.has(id)), removed };
}

/** What would become too many hits is refused before it is made. */
function checkAmount(hits: number) {
  if (hits > MOST_HITS) throw new NamedError('too-many-hits');
}

/** Each round of a loop draws its own probability and lies elsewhere under the feel: where these are converted, so is the loop length. */
const needsRounds = (hit: Hit, kinds: ReadonlySet<NotPlain>): boolean =>
  kinds.has('loops') || (kinds.has('probability') && hit.chance !== undefined) || (kinds.has('ornaments') && hit.ornament !== undefined);

/** Writes the rounds of rows with a loop length, and takes the loop length away. `copies` says which hit each new one repeats. */
function loopsWritten(
  part: Part,
  rows: ReadonlySet<string>,
  newId: () => HitId,
): { part: Part; copies: Map<HitId, HitId>; removed: number } {
  const copies = new Map<HitId, HitId>();
  const looped = new Set(part.rows.filter((r) => r.cycle && rows.has(r.voice)).map((r) => r.voice));
  if (looped.size === 0) return { part, copies, removed: 0 };
  const kept = new Set<HitId>();
  const hits = cycledHits({ ...part, rows: withoutLoops(part, (voice) => !looped.has(voice)) }).map((hit): Hit => {
    const of = writtenId(hit.id);
    kept.add(of);
    if (of === hit.id) return hit;
    const id = newId();
    copies.set(id, of);
    return shapedHit(hit, { id, variation: variationText(hit), locked: undefined });
  });
  const plain = withoutLoops(part, (voice) => looped.has(voice));
  return { part: { ...part, rows: plain, hits: hits.sort(compareHits) }, copies, removed: part.hits.length - kept.size };
}

const withoutLoops = (part: Part, isMeant: (voice: string) => boolean): Row[] =>
  part.rows.map(({ cycle, ...row }) => (cycle && !isMeant(row.voice) ? { ...row, cycle } : row));

/** Leaves of the meant hits those that sound in the first pass, without passes or probability. */
function firstPassWritten(part: Part, meant: ReadonlySet<HitId>, kinds: ReadonlySet<NotPlain>): { part: Part; touched: HitId[] } {
  // Draws go by the list with the rounds of loops in it, so they are asked there.
  const unmuted = part.hits.some((h) => h.muted)
    ? { ...part, hits: part.hits.map((h) => (h.muted ? shapedHit(h, { muted: undefined }) : h)) }
    : part;
  const drawn = new Set(soundingPart(unmuted).hits.map((h) => h.id));
  const touched: HitId[] = [];
  const hits = part.hits.flatMap((hit): Hit[] => {
    if (!meant.has(hit.id)) return [hit];
    const passes = kinds.has('passes') ? hit.passes : undefined;
    const chance = kinds.has('probability') ? hit.chance : undefined;
    if (!passes && chance === undefined) return [hit];
    if (passes && !soundsIn(passes, 1)) return [];
    // A hit that rests in the first pass has no draw there: it keeps its place.
    if (chance !== undefined && !drawn.has(hit.id) && (!hit.passes || soundsIn(hit.passes, 1))) return [];
    touched.push(hit.id);
    return [shapedHit(hit, { ...(passes ? { passes: undefined } : {}), ...(chance !== undefined ? { chance: undefined } : {}) })];
  });
  return { part: { ...part, hits }, touched };
}

/** What is heard of a hit. */
interface Heard {
  /** The hit that it belongs to. */
  of: Hit;
  tick: number;
  velocity: number;
  pan: number;
  pitch: number;
  brightness: number;
}

/** What is heard in the first pass, by variation: a stroke keeps its variation when it becomes a hit. */
function heardStrokes(part: Part): Map<string, Heard> {
  const sounding = soundingPart(part);
  const performance = performPart(sounding);
  const strokes = strokesOf(sounding, performance);
  const end = endOfPart(part);
  const heard = new Map<string, Heard>();
  strokes.hits.forEach((index, s) => {
    if (isSpilled(strokes, s, end)) return;
    const hit = sounding.hits[index] as Hit;
    heard.set(variationText(hit, strokes.numbers[s] as number), {
      of: hit,
      tick: strokes.ticks[s] as number,
      velocity: strokes.velocities[s] as number,
      ...timbreOf(hit, performance, index),
    });
  });
  return heard;
}

const timbreOf = (hit: Hit, { timbre }: Performance, i: number): Pick<Heard, 'pan' | 'pitch' | 'brightness'> => ({
  pan: timbre ? (timbre.pans[i] as number) : (hit.pan ?? 0),
  pitch: timbre ? (timbre.pitches[i] as number) : (hit.pitch ?? 0),
  brightness: timbre ? (timbre.brightness[i] as number) : (hit.brightness ?? 0),
});

/** Writes every stroke of the ornaments as a hit that is heard where the stroke was. */
function ornamentsWritten(part: Part, meant: ReadonlySet<HitId>, newId: () => HitId): { part: Part; ids: HitId[] } {
  const wanted = heardStrokes(part);
  // A roll ends at the next hit that sounds, so hits that rest or are muted are written apart from the others.
  const sounding = new Set(soundingPart(part).hits.map((h) => writtenId(h.id)));
  const heard = { ...part, hits: part.hits.filter((h) => sounding.has(h.id)) };
  const expanded = expandOrnaments(heard, meant, newId, (hit, stroke) => wanted.has(variationText(hit, stroke)));
  const silent = expandOrnaments(part, new Set([...meant].filter((id) => !sounding.has(id))), newId);
  const { rows } = silent.part;
  const whole: Part = {
    ...expanded.part,
    rows: [...expanded.part.rows, ...rows.filter((r) => !expanded.part.rows.some(({ voice }) => voice === r.voice))],
    hits: [...expanded.part.hits, ...silent.part.hits.filter((h) => !sounding.has(h.id))].sort(compareHits),
  };
  // Under a swing the last strokes of a roll may sound before the end although they are written behind it.
  const made = new Set(whole.hits.map((h) => variationText(h)));
  const map = meterMapOf(part);
  const first = Math.min(0, part.origin);
  const late = [...wanted].flatMap(([variation, { tick, velocity: level, of }]): Hit[] => {
    if (made.has(variation) || !meant.has(of.id) || !of.ornament) return [];
    const at = ticks(clamp(roundHalfUp(tick), first, endOfPart(part) - 1));
    const { ornament: _ornament, ...plain } = withoutReading(of);
    return [{ ...plain, id: newId(), variation, tick: at, home: homeInPart(part, map, at, of), velocity: velocity(level) }];
  });
  const complete = late.length === 0 ? whole : { ...whole, hits: [...whole.hits, ...late].sort(compareHits) };
  return { part: keptAsHeard(complete, wanted), ids: [...expanded.ids, ...silent.ids, ...late.map((h) => h.id)] };
}

/** A velocity or pan at its limit does not tell how far the feel goes beyond it, so one correction may not be enough. */
const MOST_ROUNDS = 6;

/** Changes nudges and timbre so that each hit is heard as before. Hits that are heard so already stay. */
function keptAsHeard(part: Part, wanted: ReadonlyMap<string, Heard>): Part {
  let now = part;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = nearerTo(now, wanted);
    if (next === now) break;
    now = next;
  }
  return now;
}

function nearerTo(part: Part, wanted: ReadonlyMap<string, Heard>): Part {
  const sounding = soundingPart(part);
  const performance = performPart(sounding);
  const tempo = tempoMapOf(part);
  const changed = new Map<HitId, Hit>();
  sounding.hits.forEach((hit, i) => {
    const heard = wanted.get(variationText(hit));
    // Rounds of a loop that stays share one written hit: they cannot each be corrected.
    if (!heard || hit.ornament || writtenId(hit.id) !== hit.id) return;
    const late = tempo.between(ticks(performance.ticks[i] as number), ticks(heard.tick));
    const louder = heard.velocity - (performance.velocities[i] as number);
    const now = timbreOf(hit, performance, i);
    const nudge = nudgeOf((hit.nudge?.ms ?? 0) + late, (hit.nudge?.velocity ?? 0) + louder);
    const timbre = {
      pan: corrected(hit.pan, Math.round(heard.pan) - Math.round(now.pan), 'pan'),
      pitch: corrected(hit.pitch, heard.pitch - now.pitch, 'pitch'),
      brightness: corrected(hit.brightness, Math.round(heard.brightness) - Math.round(now.brightness), 'brightness'),
    };
    if (
      Math.abs(late) < NOTHING_MS &&
      louder === 0 &&
      Math.round(now.pan) === Math.round(heard.pan) &&
      Math.abs(now.pitch - heard.pitch) < NOTHING_SEMITONES &&
      Math.round(now.brightness) === Math.round(heard.brightness)
    )
      return;
    changed.set(hit.id, shapedHit(hit, { ...timbre, nudge }));
  });
  return changed.size === 0 ? part : { ...part, hits: part.hits.map((h) => changed.get(h.id) ?? h) };
}

/** Smaller differences are rounding errors of a sum. */
const NOTHING_MS = 1e-6;
const NOTHING_SEMITONES = 1e-9;

function nudgeOf(ms: number, velocity: number): Nudge | undefined {
  const time = Math.abs(ms) < NOTHING_MS ? 0 : clamp(ms, -MAX_NUDGE_MS, MAX_NUDGE_MS);
  return time === 0 && velocity === 0 ? undefined : { ms: milliseconds(time), velocity: clamp(velocity, -126, 126) };
}

/** The most that a hit's pan, pitch and brightness may be, either way. */
const MOST = { pan: 100, pitch: 24, brightness: 100 } as const;

function corrected(value: number | undefined, by: number, of: keyof typeof MOST): number | undefined {
  const next = clamp((value ?? 0) + by, -MOST[of], MOST[of]);
  return next === 0 ? undefined : next;
}

/** Writes what the feel and the nudges do into the hits. The fraction of a tick stays as a nudge. */
function feelWritten(part: Part): Part {
  const sounding = soundingPart(part);
  const wanted = heardHits(sounding);
  const muted = new Set(part.hits.filter((h) => h.muted).map((h) => h.id));
  const written = writtenOut(sounding, performPart(sounding));
  const silent = muted.size === 0 ? [] : writtenOut(part, performPart(part)).hits.filter((h) => muted.has(h.id));
  const whole: Part = { ...written, hits: [...written.hits, ...silent].sort(compareHits) };
  return keptAsHeard(whole, wanted);
}

/** What is heard of each hit, without the other strokes of its ornament. */
function heardHits(part: Part): Map<string, Heard> {
  const performance = performPart(part);
  return new Map(
    part.hits.map((hit, i) => [
      variationText(hit),
      { of: hit, tick: performance.ticks[i] as number, velocity: performance.velocities[i] as number, ...timbreOf(hit, performance, i) },
    ]),
  );
}
