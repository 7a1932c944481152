import { bisectRight } from 'd3-array';
import { evenOf, mix, mixLong } from '../feel/random-values';
import { homesOf } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { linesOf } from '../commands/place';
import { meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { hashText } from '../random';
import { stepOf, type GridName } from '../time/grid';
import { roundHalfUp, type Ticks } from '../units';
import type { VoiceName } from '../row-names';

/** Around: soft strokes between the main ones. Lead-in: a softer double right before a strong one. */
export const GHOST_PLACINGS = ['around', 'lead-in'] as const;
export type GhostPlacing = (typeof GHOST_PLACINGS)[number];

export interface GhostRequest {
  voice: VoiceName;
  placing: GhostPlacing;
  /** Bars, 0-based and without `to`. */
  from: number;
  to: number;
  grid: GridName;
  /** How many of the places that would do: 0 to 1. */
  density: number;
  /** Velocities, 1 to 127. */
  low: number;
  high: number;
  seed: number;
}

/** A ghost that is suggested. */
export interface SuggestedGhost {
  voice: VoiceName;
  tick: Ticks;
  velocity: number;
}

/** Hits of at least this part of their voice's loudest are its strong ones. */
const STRONG = 0.8;

/**
 * Places for ghosts on the lines of a grid, from what sounds already: next to the voice's main hits rather than far from them, off the
 * beat rather than on it, and rather where no other drum (but a hat or cymbal) plays. Lines within half a step of a hit of the voice are
 * never taken. The same seed gives the same places, and a higher density only adds to them.
 * @example suggestGhosts(part, { voice: 'snare', placing: 'around', from: 0, to: 1, grid: '1/16', density: 0.4, low: 14, high: 34, seed:
 *   1 })
 */
export function suggestGhosts(part: Part, request: GhostRequest): SuggestedGhost[] {
  const { voice, from, to, grid, density, low, high, seed } = request;
  const map = meterMapOf(part);
  const range = { start: map.barOf(from).start, end: map.barOf(to).start };
  const step = stepOf(grid);
  const places = placesOf(part, voice);
  const salt = mix(mix(seed, hashText(voice)), hashText(request.placing));
  const found = linesOf(part, grid, range)
    .filter((tick) => !isNear(places.own, tick, Math.min(step, stepOf('1/16')) / 2))
    .map((tick) => ({
      tick,
      dice: mixLong(salt, tick),
      weight: request.placing === 'around' ? weightAround(part, places, tick, step) : weightBefore(places, tick, step),
    }))
    .filter((c) => c.weight > 0)
    .map((c) => ({ ...c, rank: c.weight + 0.5 * evenOf(c.dice) }));
  found.sort((a, b) => b.rank - a.rank || a.tick - b.tick);
  return found
    .slice(0, roundHalfUp(density * found.length))
    .sort((a, b) => a.tick - b.tick)
    .map(({ tick, dice }) => ({ voice, tick, velocity: roundHalfUp(low + (high - low) * evenOf(mix(dice, 1))) }));
}

interface Places {
  /** Written places and homes of the voice's hits, sorted. */
  own: number[];
  /** Its main hits; the strong ones among them. */
  main: number[];
  strong: number[];
  /** Drums of other voices, without hats and cymbals. */
  drums: number[];
}

const RINGING = /^(hat|ride|crash|splash|china|shaker|tambourine)/;

function placesOf(part: Part, voice: VoiceName): Places {
  const homes = homesOf(part);
  const hits = (indicesByVoice(part.hits).get(voice) ?? []).filter((i) => !(part.hits[i] as Hit).choke);
  const homeOf = (i: number): number => homes.ticks[i] as number;
  const velocityOf = (i: number): number => (part.hits[i] as Hit).velocity;
  const main = hits.filter((i) => !(part.hits[i] as Hit).ghost);
  const loudest = main.reduce((most, i) => Math.max(most, velocityOf(i)), 0);
  const sorted = (list: number[]): number[] => list.sort((a, b) => a - b);
  const others = part.hits.flatMap((h, i) => (h.voice !== voice && !RINGING.test(h.voice) && !h.choke && !h.ghost ? [homeOf(i)] : []));
  return {
    own: sorted(hits.flatMap((i) => [homeOf(i), (part.hits[i] as Hit).tick])),
    main: sorted(main.map(homeOf)),
    strong: sorted(main.filter((i) => velocityOf(i) >= STRONG * loudest).map(homeOf)),
    drums: sorted(others),
  };
}

/** Whether a sorted list has a number nearer than `reach`. */
function isNear(list: readonly number[], place: number, reach: number): boolean {
  const next = list[bisectRight(list, place - reach)];
  return next !== undefined && next < place + reach;
}

const isAt = (list: readonly number[], place: number, step: number): boolean => isNear(list, place, step / 2);

/** How well a ghost would do here; nothing where it would not. */
function weightAround({ meter, origin }: Pick<Part, 'meter' | 'origin'>, { main, drums }: Places, tick: Ticks, step: number): number {
  const map = meterMapOf({ meter, origin });
  const onBeat = map.beatAt(map.barAt(tick), tick).start === tick;
  let weight = 0.4;
  if (isAt(main, tick - step, step)) weight += 0.5;
  if (isAt(main, tick + step, step)) weight += 0.4;
  else if (isAt(main, tick + 2 * step, step)) weight += 0.2;
  if (onBeat) weight -= 0.7;
  if (isAt(drums, tick, step)) weight -= 0.5;
  return weight;
}

/** A double before a strong hit, with room before it. */
function weightBefore({ strong, own }: Places, tick: Ticks, step: number): number {
  if (!isAt(strong, tick + step, step)) return 0;
  return isAt(own, tick - step, step) ? 0.2 : 0.6;
}

/**
 * Which ghosts go first when they are thinned out: a share of those given, by dice that depend on the seed and each hit's place alone. A
 * higher share takes the same ones and more. Other hits are never taken.
 */
export function ghostsToThin(part: Part, ids: ReadonlySet<HitId>, share: number, seed: number): HitId[] {
  const ghosts = part.hits.filter((h) => h.ghost && !h.choke && ids.has(h.id));
  const dice = (h: Hit): number => mixLong(mix(seed, hashText(h.voice)), h.tick);
  return ghosts
    .sort((a, b) => dice(a) - dice(b) || (a.id < b.id ? -1 : 1))
    .slice(0, roundHalfUp(share * ghosts.length))
    .map((h) => h.id);
}
