import { bisector } from 'd3-array';
import { evenOf, hitHashes, mix, SALT } from '../feel/random-values';
import { homesOf, shifted } from '../homes/homes';
import { compareHits, type Hit, type Part, type Row } from '../model/part';
import type { Passes } from '../model/song';
import { endOfPart } from '../part/part-time';
import { stretchOf } from '../part/sections';
import { stepOf } from '../time/grid';

/** Which hits of a part sound in a pass: rows that come round are written out, then passes are counted, then chances drawn. */

/** What of a part decides that. */
export type Soundable = Pick<Part, 'hits' | 'rows' | 'meter' | 'origin' | 'bars' | 'sections' | 'feel'>;

const plainHits = new WeakMap<readonly Hit[], boolean>();

/** Whether every hit sounds in every pass: none is muted or has a probability or passes. */
export function isPlain({ hits, rows }: Pick<Soundable, 'hits' | 'rows'>): boolean {
  if (rows.some((r) => r.cycle)) return false;
  let plain = plainHits.get(hits);
  if (plain === undefined) plainHits.set(hits, (plain = !hits.some((h) => h.chance !== undefined || h.passes || h.muted)));
  return plain;
}

/** @example soundsIn({ every: 4, at: [2] }, 6) // true */
export const soundsIn = ({ every, at }: Passes, pass: number): boolean => at.includes(((pass - 1) % every) + 1);

const cycledOf = new WeakMap<
  readonly Hit[],
  { rows: unknown; sections: unknown; meter: unknown; bars: number; origin: number; hits: readonly Hit[] }
>();

/** Mark between a hit's id and the round in which its copy sounds. */
export const ROUND = '\u0001';

/** The hit that a copy, made by a row that comes round, is a copy of. */
export function writtenId(id: string): string {
  const at = id.indexOf(ROUND);
  return at < 0 ? id : id.slice(0, at);
}

/** All hits with rows that come round written out; the list itself where none does. */
export function cycledHits(part: Soundable): readonly Hit[] {
  if (!part.rows.some((r) => r.cycle)) return part.hits;
  const known = cycledOf.get(part.hits);
  if (
    known &&
    known.rows === part.rows &&
    known.sections === part.sections &&
    known.meter === part.meter &&
    known.bars === part.bars &&
    known.origin === part.origin
  )
    return known.hits;
  const cycleAt = cycler(part);
  const homes = homesOf(part).ticks;
  const hits: Hit[] = [];
  part.hits.forEach((hit, i) => {
    const home = homes[i] as number;
    const cycle = cycleAt(hit.voice, home);
    if (!cycle) return hits.push(hit);
    const { round, start, end } = cycle;
    // Only what stands in the first round sounds.
    if (home >= start + round) return;
    hits.push(hit);
    for (let k = 1; home + k * round < end; k++) {
      hits.push({ ...shifted(hit, k * round), id: `${hit.id}${ROUND}${k}` });
    }
  });
  hits.sort(compareHits);
  cycledOf.set(part.hits, { rows: part.rows, sections: part.sections, meter: part.meter, bars: part.bars, origin: part.origin, hits });
  return hits;
}

/**
 * How many hits {@link cycledHits} would give, counted without making them: a hit and a short loop length make millions over a long part.
 */
export function countCycled(part: Soundable): number {
  if (!part.rows.some((r) => r.cycle)) return part.hits.length;
  const cycleAt = cycler(part);
  const homes = homesOf(part).ticks;
  return part.hits.reduce((sum, hit, i) => {
    const home = homes[i] as number;
    const cycle = cycleAt(hit.voice, home);
    if (!cycle) return sum + 1;
    return home >= cycle.start + cycle.round ? sum : sum + Math.ceil((cycle.end - home) / cycle.round);
  }, 0);
}

const byStart = bisector((stretch: { start: number }) => stretch.start);

/** The round of a row's loop length, and the stretch of bars that it fills; undefined where the row, or its place, has none. */
function cycler(part: Soundable): (voice: string, home: number) => { round: number; start: number; end: number } | undefined {
  const rounds = new Map(part.rows.flatMap((r): [string, number][] => (r.cycle ? [[r.voice, roundOf(r)]] : [])));
  const stretches = part.sections?.map((s) => stretchOf(part, s)) ?? [{ start: part.origin as number, end: endOfPart(part) as number }];
  return (voice, home) => {
    const round = rounds.get(voice);
    if (round === undefined) return undefined;
    // Sections stand in order.
    const stretch = stretches[byStart.right(stretches, home) - 1];
    return stretch && home < stretch.end ? { round, start: stretch.start, end: stretch.end } : undefined;
  };
}

/** How long a row takes to come round, in ticks. */
export const roundOf = ({ cycle }: Pick<Row, 'cycle'>): number => (cycle ? stepOf(cycle.grid) * cycle.steps : Infinity);

const firstPass = new WeakMap<object, unknown>();

/**
 * The part as it sounds in a pass, from 1, without hits that are muted: the part itself where all of it always does. Chances are drawn by
 * the feel's seed, the row, the written tick, the ordinal and the pass.
 */
export function soundingPart<P extends Soundable>(part: P, pass = 1): P {
  if (isPlain(part)) return part;
  if (pass === 1) {
    const known = firstPass.get(part);
    if (known) return known as P;
  }
  const cycled = cycledHits(part);
  const hashes = hitHashes(cycled);
  const seed = mix(part.feel.seed, SALT.chance);
  const hits = cycled.filter(({ muted, chance, passes }, i) => {
    if (muted) return false;
    if (passes && !soundsIn(passes, pass)) return false;
    if (chance === undefined) return true;
    const hash = mix(seed, hashes[i] as number);
    return evenOf(pass === 1 ? hash : mix(hash, pass)) < chance / 100;
  });
  const sounding: P = { ...part, hits };
  if (pass === 1) firstPass.set(part, sounding);
  return sounding;
}
