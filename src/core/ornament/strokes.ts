import type { Performance } from '../feel/perform';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import { stepOf } from '../time/grid';
import { clampVelocity, milliseconds, roundHalfUp, ticks, type Ticks } from '../units';
import { keyOfVoice, type VoiceName } from '../voices';
import { MOST_STROKES, type Echo, type Flam, type Roll } from './ornament';

/** What expanding needs to know of a part. */
export type Ornamented = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'kitMap'>;

/** One stroke of a hit that carries an ornament. */
export interface Stroke {
  /** Performed ticks, may be fractional or negative. */
  tick: number;
  /** 1 to 127. */
  velocity: number;
  /** Ticks. */
  length: number;
  voice: VoiceName;
  key: number;
}

/**
 * All strokes that sound: one for each plain hit, several for one with an ornament. Columns run parallel; a hit's own stroke
 * (number 0) comes first, then the others, hits in the part's order.
 */
export interface Strokes {
  /** Index of each stroke's hit. */
  hits: Uint32Array;
  /** 0 for the hit itself, counting up for the others. */
  numbers: Uint16Array;
  ticks: Float64Array;
  velocities: Uint8Array;
  lengths: Float64Array;
  keys: Uint8Array;
  /** Strokes that another voice plays, by their place in the columns. */
  voices: ReadonlyMap<number, VoiceName>;
}

const cache = new WeakMap<Performance, Strokes>();

/** The strokes of what is performed; made once. @example strokesOf(part, performPart(part)).ticks.length // hits and all their strokes */
export function strokesOf(part: Ornamented, performance: Performance): Strokes {
  let strokes = cache.get(performance);
  if (!strokes) cache.set(performance, (strokes = expand(part, performance)));
  return strokes;
}

/** A stroke of an ornament at or behind the end of what is played or exported: it is left out. A hit's own stroke stays. */
export const isSpilled = ({ numbers, ticks: at }: Pick<Strokes, 'numbers' | 'ticks'>, stroke: number, end: number): boolean => numbers[stroke] !== 0 && (at[stroke] as number) >= end;

function expand(part: Ornamented, performance: Performance): Strokes {
  const { hits } = part;
  const groups = new Map<number, Stroke[]>();
  let count = hits.length;
  for (let i = 0; i < hits.length; i++) {
    if (!(hits[i] as Hit).ornament) continue;
    const group = strokesOfHit(part, performance, i);
    groups.set(i, group);
    count += group.length - 1;
  }
  const out = { hits: new Uint32Array(count), numbers: new Uint16Array(count), ticks: new Float64Array(count), velocities: new Uint8Array(count), lengths: new Float64Array(count), keys: new Uint8Array(count) };
  const voices = new Map<number, VoiceName>();
  let at = 0;
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Hit;
    const group = groups.get(i);
    if (!group) {
      out.hits[at] = i;
      out.ticks[at] = performance.ticks[i] as number;
      out.velocities[at] = performance.velocities[i] as number;
      out.lengths[at] = performance.lengths[i] as number;
      out.keys[at++] = hit.key;
      continue;
    }
    group.forEach((stroke, k) => {
      out.hits[at] = i;
      out.numbers[at] = k;
      out.ticks[at] = stroke.tick;
      out.velocities[at] = stroke.velocity;
      out.lengths[at] = stroke.length;
      if (stroke.voice !== hit.voice) voices.set(at, stroke.voice);
      out.keys[at++] = stroke.key;
    });
  }
  return { ...out, voices };
}

/**
 * The strokes of one hit, its own first: a roll's go on from it, grace strokes lie before it, echoes behind it.
 * @example a flam of one grace stroke, 25 ms, level 0.5, on a hit of velocity 100: [100 at the hit, 50 at 25 ms before it]
 */
export function strokesOfHit(part: Ornamented, performance: Performance, index: number): Stroke[] {
  const hit = part.hits[index] as Hit;
  const main: Stroke = { tick: performance.ticks[index] as number, velocity: performance.velocities[index] as number, length: performance.lengths[index] as number, voice: hit.voice, key: hit.key };
  const { ornament } = hit;
  // A choke sounds nothing, whatever it carries.
  if (!ornament || hit.choke) return [main];
  switch (ornament.kind) {
    case 'roll':
      return rollStrokes(ornament, rollLength(part, index), main);
    case 'flam':
      return flamStrokes(part, ornament, main);
    case 'echo':
      return echoStrokes(part, ornament, main);
  }
}

/** The length of a hit's roll: its own, or up to the voice's next written hit, at most the beat that the hit lies in. */
export function rollLength(part: Ornamented, index: number): Ticks {
  const hit = part.hits[index] as Hit;
  if (hit.ornament?.kind === 'roll' && hit.ornament.length !== undefined) return hit.ornament.length;
  const map = meterMapOf(part);
  const beat = map.beatAt(map.barAt(hit.tick), hit.tick).length;
  const own = indicesByVoice(part.hits).get(hit.voice) ?? [];
  for (let k = placeIn(own, index) + 1; k < own.length; k++) {
    const gap = (part.hits[own[k] as number] as Hit).tick - hit.tick;
    if (gap > 0) return ticks(Math.min(gap, beat));
  }
  return ticks(beat);
}

/** Where a number stands in a rising list that has it. */
function placeIn(list: readonly number[], wanted: number): number {
  let low = 0;
  let high = list.length - 1;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((list[mid] as number) < wanted) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** How many strokes a roll of this length has, itself included. @example rollCount({ strokes: '1/32', ... }, TICKS_PER_QUARTER) // 8 */
export function rollCount(roll: Pick<Roll, 'strokes'>, length: number): number {
  if (typeof roll.strokes === 'number') return roll.strokes;
  return Math.max(1, Math.min(MOST_STROKES, Math.ceil(length / stepOf(roll.strokes) - 1e-6)));
}

/** How strongly a roll can accelerate: at speed 1 its first gap is nine times its last, in the limit of many strokes. */
const MOST_SPEED = 0.8;

/** Where stroke k of n stands, as a part of the roll's length. Even at speed 0. */
export const rollPlace = (x: number, speed: number): number => x + MOST_SPEED * speed * x * (1 - x);

/** The ramp's factor at a part x of its way, 0 at the first stroke and 1 at the last. */
export const rollLevel = ({ to, bend }: Pick<Roll, 'to' | 'bend'>, x: number): number => 1 + (to - 1) * x ** (4 ** bend);

/** A stroke like the hit's own, at another place; it ends where the next one starts. */
const strokeOf = (main: Stroke, tick: number, velocity: number, room: number, voice = main.voice, key = main.key): Stroke => ({ tick, velocity: clampVelocity(velocity), length: Math.max(1, Math.min(main.length, room)), voice, key });

function rollStrokes(roll: Roll, length: number, main: Stroke): Stroke[] {
  const n = rollCount(roll, length);
  // On a grid the last stroke need not be a whole step from the end.
  const span = typeof roll.strokes === 'number' ? length : n * stepOf(roll.strokes);
  const place = (k: number): number => main.tick + span * rollPlace(k / n, roll.speed);
  const strokes: Stroke[] = [];
  let tick = main.tick;
  for (let k = 0; k < n; k++) {
    const next = place(k + 1);
    strokes.push(strokeOf(main, tick, main.velocity * rollLevel(roll, n === 1 ? 0 : k / (n - 1)), next - tick));
    tick = next;
  }
  return strokes;
}

/** The factor on the hit's velocity of grace stroke j (0 the first) of n. */
export const graceLevel = ({ level, slope }: Pick<Flam, 'level' | 'slope'>, j: number, n: number): number => level * (n === 1 ? 1 : 1 + slope * (j / (n - 1) - 0.5));

function flamStrokes(part: Ornamented, flam: Flam, main: Stroke): Stroke[] {
  const tempo = tempoMapOf(part);
  const n = flam.strokes;
  const before = (strokes: number): number => tempo.shift(ticks(main.tick), milliseconds(-strokes * flam.spacingMs));
  const strokes = [main];
  let tick = before(n);
  for (let j = 0; j < n; j++) {
    const next = j === n - 1 ? main.tick : before(n - j - 1);
    strokes.push(strokeOf(main, tick, main.velocity * graceLevel(flam, j, n), next - tick));
    tick = next;
  }
  return strokes;
}

function echoStrokes(part: Ornamented, echo: Echo, main: Stroke): Stroke[] {
  const distance = echo.steps * stepOf(echo.grid);
  const voice = echo.voice ?? main.voice;
  const key = voice === main.voice ? main.key : keyOfVoice(part.kitMap, voice);
  const strokes = [main];
  for (let k = 1; k <= echo.repeats; k++) {
    const velocity = main.velocity * echo.decay ** k;
    // What would be softer than the softest stroke is not played.
    if (roundHalfUp(velocity) < 1) break;
    strokes.push(strokeOf(main, main.tick + k * distance, velocity, distance, voice, key));
  }
  return strokes;
}
