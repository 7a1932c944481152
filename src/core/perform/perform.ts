import { homesOf, type Homes } from '../homes/homes';
import { voiceNumbers } from '../part/by-voice';
import { columnsOfHits, MARKS } from '../part/columns';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Nudge, Part } from '../model/part';
import { hashText, mix } from '../random';
import { clampVelocity, ticks, type Milliseconds } from '../units';
import type { Feel, Move } from '../model/feel';
import { isIdle, specOf, type MoveSpec } from '../feel/move-spec';
import { MOVES } from '../moves/all';
import { scopeTest, type ScopeTest } from '../feel/scope';
import { swingOf } from '../moves/swing';
import { blendTimbre, ownTimbre, type TimbreColumns } from '../feel/timbre-columns';
import type { HitRange, Performable, Pass, MoveContext } from '../feel/work';

export type { HitRange, Performable } from '../feel/work';

/**
 * The performed hits of a part: what is seen, heard and exported. Columns run parallel to `part.hits`.
 * Ticks may be fractional, and negative until exported.
 */
export interface Performance {
  ticks: Float64Array;
  /** 1 to 127. */
  velocities: Uint8Array;
  /** In ticks, at least 1; cut at the next hit of the same key. */
  lengths: Float64Array;
  homes: Homes;
  /**
   * The lines that hits are on, their homes or those that a quantize move pulled them to, as the swing moves in scope place them; blended
   * by the sway as the hits are. A perfectly swung hit has lean 0.
   */
  placedHomes: Float64Array;
  /** Pan, pitch and brightness as performed; null where they are the hits' own. */
  timbre: TimbreColumns | null;
}

/** The performed tick of what is written so many ticks after a hit. */
export type Swung = (offset: number) => number;

const followers = new WeakMap<Performance, (index: number) => Swung | null>();

/** Where strokes sound that follow the swing of a hit; null where nothing swings it. */
export const swungFrom = (performance: Performance, index: number): Swung | null => followers.get(performance)?.(index) ?? null;

/** Says where strokes of a performance sound that follow the swing. */
export function followSwing(performance: Performance, follow: (index: number) => Swung | null): Performance {
  followers.set(performance, follow);
  return performance;
}

/**
 * Turns written hits into performed ones: the moves in their order, the sway, the written order of each row, the nudges (which may cross),
 * then limits and lengths.
 * The ONE place where this happens: screen, sound, export and API all call it.
 * @param range only these hits are performed, the others stay as written: what a screen needs while an amount is swept. Should
 *   start and end at least a bar away from what is looked at, since order and lengths depend on neighbours.
 * @param specs the kinds of moves that there are
 * @example performPart({ ...part, feel: EMPTY_FEEL }).ticks // the written ticks, plus nudges
 */
export function performPart(
  part: Performable,
  range: HitRange = { from: 0, to: part.hits.length },
  specs: readonly MoveSpec[] = MOVES,
): Performance {
  const { hits, feel } = part;
  const homes = homesOf(part);
  const written = columnsOfHits(hits);
  const times = written.ticks.slice();
  const loudness = new Float64Array(written.velocities);
  const placedHomes = homes.ticks.slice();
  let timbre: TimbreColumns | null = null;

  if (!isIdle(feel)) {
    const work: MoveContext = { ...workOf(part, range, times, loudness, placedHomes), timbre: () => (timbre ??= ownTimbre(hits)) };
    runMoves(work, feel.moves.length, specs);
    if (feel.sway !== 1) {
      if (timbre) blendTimbre(timbre, hits, feel.sway);
      for (let i = range.from; i < range.to; i++) {
        const tick = written.ticks[i] as number;
        const velocity = written.velocities[i] as number;
        times[i] = tick + feel.sway * ((times[i] as number) - tick);
        loudness[i] = velocity + feel.sway * ((loudness[i] as number) - velocity);
        const home = homes.ticks[i] as number;
        placedHomes[i] = home + feel.sway * ((placedHomes[i] as number) - home);
      }
    }
  }

  keepOrder(hits, range, times);
  addNudges(part, range, times, loudness);
  const velocities = new Uint8Array(hits.length);
  for (let i = range.from; i < range.to; i++) velocities[i] = clampVelocity(loudness[i] as number);
  return followSwing(
    { ticks: times, velocities, lengths: performedLengths(hits, range, times), homes, placedHomes, timbre },
    swungBy(part, times),
  );
}

function workOf(part: Performable, range: HitRange, times: Float64Array, loudness: Float64Array, placedHomes: Float64Array): MoveContext {
  const homes = homesOf(part);
  return {
    part,
    hits: part.hits,
    written: columnsOfHits(part.hits),
    range,
    map: meterMapOf(part),
    tempo: tempoMapOf(part),
    homes,
    lines: homes.ticks,
    times,
    loudness,
    placedHomes,
    timbre: () => ownTimbre(part.hits),
  };
}

/**
 * What follows a hit's swing: S of its written place, and the distance in ms that the hit itself was performed from its own. S is the swing
 * moves alone, blended by the sway.
 */
function swungBy(part: Performable, times: Float64Array): (index: number) => Swung | null {
  let swings: { swung: ReturnType<typeof swingOf>; inScope: ScopeTest }[] | undefined;
  return (index) => {
    if (isIdle(part.feel)) return null;
    const map = meterMapOf(part);
    const homes = homesOf(part);
    swings ??= part.feel.moves.flatMap((m) =>
      m.kind === 'swing' && m.on !== false ? [{ swung: swingOf(m, part, homes.ticks, map), inScope: scopeTest(m.scope, part, homes) }] : [],
    );
    const own = swings.filter(({ inScope }) => inScope(index));
    if (own.length === 0) return null;
    const hit = part.hits[index] as Hit;
    const tempo = tempoMapOf(part);
    const placed = (offset: number): number => {
      const tick = hit.tick + offset;
      const swung = own.reduce((t, s) => s.swung(index, t, hit.home + offset), tick);
      return tick + part.feel.sway * (swung - tick);
    };
    const off = tempo.between(ticks(placed(0)), ticks(times[index] as number));
    return (offset) => tempo.shift(ticks(placed(offset)), off);
  };
}

const FIRST_ROUND: Pass = { pass: 1, shift: 0 };

/** Runs the moves before `until` that are on. */
function runMoves(work: MoveContext, until: number, specs: readonly MoveSpec[]) {
  const { feel, round: { pass, shift } = FIRST_ROUND } = work.part;
  for (let i = 0; i < until; i++) {
    const move = feel.moves[i] as Move;
    if (move.on === false) continue;
    const spec = specOf(specs, move.kind);
    const seed = seedOfMove(feel, i, spec);
    spec.apply(move, work, scopeTest(move.scope, work.part, work.homes), pass === 1 ? seed : mix(seed, pass), { seed, shift });
  }
}

/** Where hits are, in ticks, as they reach the move of an index: after the moves before it, without sway, order and nudges. */
export function timesBefore(part: Performable, index: number): Float64Array {
  const { ticks: written, velocities } = columnsOfHits(part.hits);
  const times = written.slice();
  runMoves(workOf(part, { from: 0, to: part.hits.length }, times, new Float64Array(velocities), homesOf(part).ticks.slice()), index, MOVES);
  return times;
}

/** The part as written, in the same shape: no feel, no nudges. @param range see {@link performPart} */
export function writtenPerformance(part: Performable, range: HitRange = { from: 0, to: part.hits.length }): Performance {
  const homes = homesOf(part);
  const { ticks: times, velocities } = columnsOfHits(part.hits);
  return {
    ticks: times,
    velocities,
    lengths: performedLengths(part.hits, range, times),
    homes,
    placedHomes: homes.ticks,
    timbre: null,
  };
}

/** Performed time minus the home as swing places it, in ms; negative = early. */
export function leanOf(part: Pick<Part, 'tempo'>, performance: Performance, index: number): Milliseconds {
  return tempoMapOf(part).between(ticks(performance.placedHomes[index] as number), ticks(performance.ticks[index] as number));
}

/**
 * A move's own seed, or the feel's salted with its ordinal among its kind; moves that are off count, so that a switch changes no other
 * draw.
 */
export function seedOfMove(
  feel: Feel,
  index: number,
  { salt }: Pick<MoveSpec, 'salt'> = specOf(MOVES, (feel.moves[index] as Move).kind),
): number {
  const move = feel.moves[index] as Move;
  if (move.seed !== undefined) return move.seed;
  const ordinal = feel.moves.slice(0, index).filter((m) => m.kind === move.kind).length;
  return mix(mix(feel.seed, hashText(salt)), ordinal);
}

function addNudges(part: Performable, range: HitRange, times: Float64Array, loudness: Float64Array) {
  const tempo = tempoMapOf(part);
  const { marks } = columnsOfHits(part.hits);
  for (let i = range.from; i < range.to; i++) {
    if (((marks[i] as number) & MARKS.nudge) === 0) continue;
    const nudge = (part.hits[i] as Hit).nudge as Nudge;
    times[i] = tempo.shift(ticks(times[i] as number), nudge.ms);
    loudness[i] = (loudness[i] as number) + nudge.velocity;
  }
}

/** Strokes of one voice keep their written order: one that would come before its predecessor waits for it. */
function keepOrder(hits: readonly Hit[], range: HitRange, times: Float64Array) {
  const { numbers, count } = voiceNumbers(hits);
  const latest = new Float64Array(count).fill(-Infinity);
  for (let i = range.from; i < range.to; i++) {
    const voice = numbers[i] as number;
    const before = latest[voice] as number;
    if ((times[i] as number) < before) times[i] = before;
    else latest[voice] = times[i] as number;
  }
}

function performedLengths(hits: readonly Hit[], range: HitRange, times: Float64Array): Float64Array {
  const { keys, lengths } = columnsOfHits(hits);
  return cutLengths(keys, times, lengths, range);
}

/**
 * Cuts each length at the next hit of its key in time, at least 1; two of one key at one tick both have 1.
 * @param keys what must not overlap with its like: small whole numbers
 */
export function cutLengths(
  keys: Uint8Array | Uint32Array,
  times: ArrayLike<number>,
  lengths: Float64Array,
  range: HitRange = { from: 0, to: lengths.length },
): Float64Array {
  let highest = 0;
  for (const key of keys) if (key > highest) highest = key;
  const order = timeOrder(keys, highest, times, range);
  const next = new Int32Array(highest + 1).fill(-1);
  const cut = new Float64Array(lengths.length);
  for (let k = range.to - range.from - 1; k >= 0; k--) {
    const i = order ? (order[k] as number) : range.from + k;
    const key = keys[i] as number;
    const following = next[key] as number;
    const room = following < 0 ? Infinity : (times[following] as number) - (times[i] as number);
    cut[i] = Math.max(1, Math.min(lengths[i] as number, room));
    if (following >= 0 && room === 0) cut[following] = 1;
    next[key] = i;
  }
  return cut;
}

/** Indices in time order; null where the times of each key rise in list order anyway, as they do until nudges cross. */
function timeOrder(keys: Uint8Array | Uint32Array, highest: number, times: ArrayLike<number>, range: HitRange): Uint32Array | null {
  const latest = new Float64Array(highest + 1).fill(-Infinity);
  for (let i = range.from; i < range.to; i++) {
    const key = keys[i] as number;
    if ((times[i] as number) < (latest[key] as number)) {
      return Uint32Array.from({ length: range.to - range.from }, (_, k) => range.from + k).sort(
        (a, b) => (times[a] as number) - (times[b] as number) || a - b,
      );
    }
    latest[key] = times[i] as number;
  }
  return null;
}
