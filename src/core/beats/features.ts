import type { BeatGrid } from './grid';
import { CRASH, HAT, KICK, SNARE, TOM, type StrokeTable } from './strokes';

/** Meters that are told apart: beats of a bar, and into how many each is divided. */
export const BEAT_METERS = {
  '4/4': { numerator: 4, denominator: 4, beats: 4, thirds: false },
  '3/4': { numerator: 3, denominator: 4, beats: 3, thirds: false },
  '6/8': { numerator: 6, denominator: 8, beats: 2, thirds: true },
} as const;
export type BeatMeter = keyof typeof BEAT_METERS;

/** What is seen of a reading; each has a weight (`weights.ts`). */
export const FEATURES = [
  'tempo',
  'tempoFar',
  'tempo68',
  'tempo68Far',
  'is34',
  'is68',
  'track',
  'off',
  'off68',
  'beat',
  'half',
  'third',
  'twoThirds',
  'quarter',
  'beat68',
  'thirds68',
  'half68',
  'hats',
  'hats68',
  'hatAccent',
  'kick44on1',
  'kick44on24',
  'kick44on3',
  'snare44on1',
  'snare44on24',
  'snare44on3',
  'kick34on1',
  'kick34on23',
  'snare34on1',
  'snare34on23',
  'kick68on1',
  'kick68on2',
  'snare68on1',
  'snare68on2',
  'crash',
  'toms',
  'first',
  'firstInSecondHalf',
  'last',
  'bar',
  'barAll',
  'twoBars',
  'barRather',
  'barAllRather',
] as const;
export type FeatureName = (typeof FEATURES)[number];
const AT = Object.fromEntries(FEATURES.map((name, i) => [name, i])) as Readonly<Record<FeatureName, number>>;

/** Strokes lie so far around their line, in seconds. */
const SPREAD = 0.024;
/** Bins of a beat in which beats are compared. */
const BINS = 12;
/** Beats are compared over so many at most: two bars and one. */
const FURTHEST = 9;
const DUPLE = [0, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4, 1] as const;
const COMPOUND = [0, 1 / 6, 1 / 3, 1 / 2, 2 / 3, 5 / 6, 1] as const;

/** Places of a beat that are told apart when its nearest line is looked up. */
const PLACES = 960;

/** The line that each place of a beat is nearest to. */
const nearestOf = (lines: readonly number[]): Uint8Array =>
  Uint8Array.from({ length: PLACES + 1 }, (_, p) =>
    lines.reduce((best, line, n) => (Math.abs(p / PLACES - line) < Math.abs(p / PLACES - (lines[best] as number)) ? n : best), 0),
  );
const NEAREST_DUPLE = nearestOf(DUPLE);
const NEAREST_COMPOUND = nearestOf(COMPOUND);

/** What the strokes of a take look like on a grid, whatever its meter. */
export interface GridFacts {
  /** Beats from the first stroke's to the last's. */
  beats: number;
  /** The first beat's number in the grid's own counting. */
  from: number;
  period: number;
  track: number;
  duple: LineShares;
  compound: LineShares;
  hatsPerBeat: number;
  hatAccent: number;
  /** Strokes on the line of each beat. */
  kicks: Float64Array;
  snares: Float64Array;
  crashes: Float64Array;
  /** Toms in each beat. */
  toms: Float64Array;
  kickCount: number;
  snareCount: number;
  crashCount: number;
  tomCount: number;
  /** The beats, from 0, that the first and last stroke stand on; -1 where they stand between. */
  first: number;
  last: number;
  /** How alike beats so far apart are: kicks and snares, and all. */
  alike: Float64Array;
  alikeAll: Float64Array;
}

interface LineShares {
  off: number;
  /** Share of the weight on each line. */
  shares: Float64Array;
}

/** A stroke counts as on the beat within this share of it. */
const ON_BEAT = 0.12;

/** @param places strokes in beats of the track @param trackScore how well the track fits, a stroke's weight */
export function factsOf(table: StrokeTable, places: Float64Array, grid: BeatGrid, trackScore: number): GridFacts {
  const { count, group, ghost, weight, velocity } = table;
  const placeOf = (s: number): number => (places[s] as number) / grid.every - grid.phase;
  const from = Math.floor(placeOf(0) + ON_BEAT);
  const beats = Math.max(1, Math.floor(placeOf(count - 1) + ON_BEAT) - from + 1);
  const [kicks, snares, crashes, toms] = [0, 1, 2, 3].map(() => new Float64Array(beats + 1)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const duple: LineShares = { off: 0, shares: new Float64Array(DUPLE.length) };
  const compound: LineShares = { off: 0, shares: new Float64Array(COMPOUND.length) };
  const hatted = new Uint8Array(beats + 1);
  const rows = [new Float64Array((beats + 1) * BINS), new Float64Array((beats + 1) * BINS)] as const;
  let [total, hats, onSum, onCount, offSum, offCount] = [0, 0, 0, 0, 0, 0];
  const counts = { kick: 0, snare: 0, crash: 0, tom: 0 };
  let [first, last] = [-1, -1];
  for (let s = 0; s < count; s++) {
    const w = weight[s] as number;
    const g = group[s] as number;
    const place = placeOf(s) - from;
    const beat = Math.floor(place);
    const within = place - beat;
    total += w;
    const looked = Math.round(within * PLACES);
    const d = NEAREST_DUPLE[looked] as number;
    const c = NEAREST_COMPOUND[looked] as number;
    duple.off += w * Math.min(4, (((within - (DUPLE[d] as number)) * grid.period) / SPREAD) ** 2);
    compound.off += w * Math.min(4, (((within - (COMPOUND[c] as number)) * grid.period) / SPREAD) ** 2);
    duple.shares[d]! += w;
    compound.shares[c]! += w;
    const near = Math.max(0, Math.min(beats, Math.round(place)));
    const isOn = Math.abs(place - near) < ON_BEAT;
    const inside = Math.max(0, Math.min(beats, Math.floor(place + ON_BEAT)));
    if (s === 0 && isOn) first = near;
    if (s === count - 1 && isOn) last = near;
    if (g === HAT) {
      hats++;
      hatted[inside] = 1;
      if (isOn) {
        onSum += velocity[s] as number;
        onCount++;
      } else {
        offSum += velocity[s] as number;
        offCount++;
      }
    }
    if (g === TOM) {
      toms[inside]!++;
      counts.tom++;
    }
    if (isOn && g === KICK) {
      kicks[near]!++;
      counts.kick++;
    }
    if (isOn && g === SNARE && !ghost[s]) {
      snares[near]!++;
      counts.snare++;
    }
    if (g === CRASH) {
      counts.crash++;
      if (isOn) crashes[near]!++;
    }
    const bin = Math.max(0, Math.min(rows[0].length - 1, Math.round(place * BINS)));
    const isMain = g === KICK || (g === SNARE && !ghost[s]);
    // Kicks and snares that change places are not alike.
    const signed = g === SNARE ? -w : w;
    if (isMain) rows[0][bin]! += signed;
    rows[1][bin]! += isMain ? signed : (g === SNARE ? 0.3 : 0.6) * w;
  }
  for (const shares of [duple, compound]) {
    shares.off /= total;
    shares.shares[0]! += shares.shares.at(-1) as number;
    for (let n = 0; n < shares.shares.length; n++) shares.shares[n]! /= total;
  }
  const [alike, alikeAll] = rows.map((row) => similarities(row)) as [Float64Array, Float64Array];
  const hattedBeats = hatted.reduce((a, b) => a + b, 0);
  return {
    beats,
    from,
    period: grid.period,
    track: trackScore,
    duple,
    compound,
    hatsPerBeat: hattedBeats > 0 ? hats / hattedBeats : 0,
    hatAccent: onCount >= 4 && offCount >= 4 ? Math.max(-1, Math.min(1, (onSum / onCount - offSum / offCount) / 20)) : 0,
    kicks,
    snares,
    crashes,
    toms,
    kickCount: counts.kick,
    snareCount: counts.snare,
    crashCount: counts.crash,
    tomCount: counts.tom,
    first,
    last,
    alike,
    alikeAll,
  };
}

function similarities(row: Float64Array): Float64Array {
  const found = new Float64Array(FURTHEST + 1);
  for (let apart = 1; apart <= FURTHEST; apart++) {
    let [both, size] = [0, 0];
    for (let b = 0; b + apart * BINS < row.length; b++) {
      const [x, y] = [row[b] as number, row[b + apart * BINS] as number];
      both += x * y;
      size += x * x + y * y;
    }
    found[apart] = both / (1 + size / 2);
  }
  return found;
}

/** What is seen of a reading: a grid counted in a meter, its first downbeat at beat `one` (from 0). */
export function featuresOf(facts: GridFacts, meter: BeatMeter, one: number): Float64Array {
  const f = new Float64Array(FEATURES.length);
  const { beats: bar, thirds } = BEAT_METERS[meter];
  const set = (name: FeatureName, value: number) => (f[AT[name]] = value);
  const bpm = 60 / facts.period;
  const x = Math.log2(bpm / (thirds ? 75 : 110));
  set(thirds ? 'tempo68' : 'tempo', x);
  set(thirds ? 'tempo68Far' : 'tempoFar', x * x);
  if (meter === '3/4') set('is34', 1);
  if (thirds) set('is68', 1);
  set('track', facts.track);
  const { off, shares } = thirds ? facts.compound : facts.duple;
  set(thirds ? 'off68' : 'off', off);
  if (thirds) {
    set('beat68', shares[0] as number);
    set('thirds68', (shares[2] as number) + (shares[4] as number));
    set('half68', shares[3] as number);
  } else {
    set('beat', shares[0] as number);
    set('quarter', (shares[1] as number) + (shares[5] as number));
    set('third', shares[2] as number);
    set('half', shares[3] as number);
    set('twoThirds', shares[4] as number);
  }
  if (facts.hatsPerBeat > 0) set(thirds ? 'hats68' : 'hats', Math.abs(Math.log2(facts.hatsPerBeat / (thirds ? 3 : 2.2))));
  set('hatAccent', facts.hatAccent);
  const on = (list: Float64Array, place: number): number => {
    let sum = 0;
    for (let b = (one + place) % bar; b < list.length; b += bar) sum += list[b] as number;
    return sum;
  };
  const kick = (place: number): number => on(facts.kicks, place) / (facts.kickCount + 0.5);
  const snare = (place: number): number => on(facts.snares, place) / (facts.snareCount + 0.5);
  if (meter === '4/4') {
    set('kick44on1', kick(0));
    set('kick44on24', (kick(1) + kick(3)) / 2);
    set('kick44on3', kick(2));
    set('snare44on1', snare(0));
    set('snare44on24', (snare(1) + snare(3)) / 2);
    set('snare44on3', snare(2));
  } else if (meter === '3/4') {
    set('kick34on1', kick(0));
    set('kick34on23', (kick(1) + kick(2)) / 2);
    set('snare34on1', snare(0));
    set('snare34on23', (snare(1) + snare(2)) / 2);
  } else {
    set('kick68on1', kick(0));
    set('kick68on2', kick(1));
    set('snare68on1', snare(0));
    set('snare68on2', snare(1));
  }
  const n = facts.crashCount;
  if (n > 0) set('crash', (on(facts.crashes, 0) / n) * (n / (n + 1)));
  let late = 0;
  for (let b = 0; b < facts.toms.length; b++) {
    const place = (((b - one) % bar) + bar) % bar;
    late += (facts.toms[b] as number) * (place >= bar / 2 ? 1 : -1);
  }
  set('toms', late / (facts.tomCount + 4));
  const placeOf = (beat: number): number => (beat < 0 ? -1 : (((beat - one) % bar) + bar) % bar);
  if (placeOf(facts.first) === 0) set('first', 1);
  else if (placeOf(facts.first) >= bar / 2) set('firstInSecondHalf', 1);
  if (placeOf(facts.last) === 0) set('last', 1);
  const at = (list: Float64Array, apart: number): number => list[apart] ?? 0;
  set('bar', at(facts.alike, bar));
  set('barAll', at(facts.alikeAll, bar));
  set('twoBars', at(facts.alikeAll, 2 * bar));
  set('barRather', at(facts.alike, bar) - (at(facts.alike, bar - 1) + at(facts.alike, bar + 1)) / 2);
  set('barAllRather', at(facts.alikeAll, bar) - (at(facts.alikeAll, bar - 1) + at(facts.alikeAll, bar + 1)) / 2);
  return f;
}
