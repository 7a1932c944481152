import { NamedError } from '../errors';
import { BEAT_METERS, FEATURES, factsOf, featuresOf, type BeatMeter, type GridFacts } from './features';
import { countedIn, momentOf, phasesOf, type BeatGrid } from './grid';
import { periodsOf } from './periods';
import { smoothBeats } from './smooth';
import { tableOf, type FreeStroke, type StrokeTable } from './strokes';
import { trackBeats } from './track';
import { WEIGHTS } from './weights';

/** One way to count a take. */
export interface BeatReading {
  /** 0 to 1; those of all readings sum to at most 1. */
  likelihood: number;
  meter: readonly [numerator: number, denominator: number];
  /** Seconds of every beat; in 6/8 of the dotted ones. */
  beats: number[];
  /** Index of the first beat that begins a bar. */
  downbeat: number;
  /** Beats a minute. */
  bpm: { mean: number; min: number; max: number };
}

/** Fewer strokes tell no beat. */
export const FEWEST_STROKES = 8;
/** More are not read at once. */
export const MOST_STROKES = 20_000;
/** Longer takes are not read, in seconds: what is followed grows with the time. */
const MOST_SECONDS = 7200;
const MOST_READINGS = 3;
/** From `certain` on the first reading is used as it is; from `likely` on it is preselected. */
export const SURE_COUNT = { certain: 0.9, likely: 0.7 } as const;

/** Tracks this much worse than the best are left out. */
const LEAST_SHARE = 0.3;
const RATIOS = [1 / 3, 1 / 2, 2 / 3, 3 / 4, 1, 4 / 3, 3 / 2, 2, 3, 4] as const;
/** Lengths of a beat that are read, in seconds. */
const PLAIN = [0.29, 1.06] as const;
const DOTTED = [0.46, 1.6] as const;
/** Readings whose beats are within this share, and downbeats within this share of a beat, are one. */
const SAME = { beat: 0.06, downbeat: 0.2 } as const;
/** A tap counts for a beat within this share of it, where taps are as far apart as beats within this share. */
const TAP = 0.25;
const TAPPED_TEMPO = 0.15;

/** A reading that is weighed. */
export interface BeatCandidate {
  grid: BeatGrid;
  facts: GridFacts;
  meter: BeatMeter;
  /** The grid's beat, from 0, that is the first downbeat. */
  one: number;
  features: Float64Array;
}

/** Everything that a take may be counted as. */
export function candidatesOf(table: StrokeTable, onProgress: (done: number) => boolean = () => true): BeatCandidate[] | null {
  const periods = periodsOf(table);
  const tracks: { beats: Float64Array; score: number }[] = [];
  for (const [i, period] of periods.entries()) {
    const track = trackBeats(table, period, (done) => onProgress((0.8 * (i + done)) / periods.length));
    if (track) tracks.push(track);
    else if (!onProgress((0.8 * i) / periods.length)) return null;
  }
  const total = table.weight.reduce((a, b) => a + b, 0);
  const best = tracks.reduce((most, t) => Math.max(most, t.score), 0);
  const kept = tracks.filter(({ score }) => score >= LEAST_SHARE * best);
  const found: BeatCandidate[] = [];
  for (const [i, { beats, score }] of kept.entries()) {
    const track = smoothBeats(table, beats);
    const places = countedIn(table, track);
    const period = ((track.at(-1) as number) - (track[0] as number)) / (track.length - 1);
    for (const every of RATIOS) {
      const length = period * every;
      if (length < PLAIN[0] || length > DOTTED[1]) continue;
      for (const phase of phasesOf(table, places, every)) {
        const grid: BeatGrid = { track, every, phase, period: length };
        const facts = factsOf(table, places, grid, score / total);
        for (const meter of Object.keys(BEAT_METERS) as BeatMeter[]) {
          const { beats: bar, thirds } = BEAT_METERS[meter];
          const [least, most] = thirds ? DOTTED : PLAIN;
          if (length < least || length > most) continue;
          for (let one = 0; one < bar; one++) found.push({ grid, facts, meter, one, features: featuresOf(facts, meter, one) });
        }
      }
    }
    if (!onProgress(0.8 + (0.2 * (i + 1)) / kept.length)) return null;
  }
  return found;
}

const weights = Float64Array.from(FEATURES, (name) => WEIGHTS[name]);
const scoreOf = ({ features }: BeatCandidate): number => features.reduce((sum, f, i) => sum + f * (weights[i] as number), 0);

/** When a candidate's beat sounds, in seconds. @param beat from 0, the first stroke's */
export const beatMoment = ({ grid, facts }: BeatCandidate, beat: number): number =>
  momentOf(grid.track, (beat + facts.from + grid.phase) * grid.every);

/** Whether a candidate has its first bar's beats where somebody tapped them. */
function fitsTaps(candidate: BeatCandidate, taps: readonly number[]): boolean {
  const { facts, meter, one } = candidate;
  const bar = BEAT_METERS[meter].beats;
  const [firstTap] = taps as [number];
  const reach = facts.period * TAP;
  for (let beat = one - bar; beat < facts.beats; beat += bar) {
    const at = beatMoment(candidate, beat);
    if (Math.abs(at - firstTap) < reach) {
      const last = taps.length - 1;
      const tapped = (taps[last] as number) - firstTap;
      const counted = beatMoment(candidate, beat + last) - at;
      return (
        Math.abs(counted - tapped) <= TAPPED_TEMPO * tapped &&
        taps.every((tap, i) => Math.abs(beatMoment(candidate, beat + i) - tap) < reach)
      );
    }
    if (at > firstTap + reach) return false;
  }
  return false;
}

/**
 * Finds how a take that was played without a click may be counted: its beats, meter and downbeats, the likeliest first.
 * @param taps seconds at which somebody tapped the first beats of a bar, beginning with its one
 * @param onProgress 0 to 1; false ends the search
 * @returns at most three readings; null where it was ended
 * @throws NamedError too-few-strokes, too-many-strokes, take-too-long
 */
export function findBeats(
  strokes: readonly FreeStroke[],
  { taps = [], onProgress }: { taps?: readonly number[]; onProgress?: (done: number) => boolean } = {},
): BeatReading[] | null {
  if (strokes.length < FEWEST_STROKES) throw new NamedError('too-few-strokes', { strokes: strokes.length });
  if (strokes.length > MOST_STROKES) throw new NamedError('too-many-strokes', { strokes: strokes.length });
  const table = tableOf(strokes);
  if ((table.at[table.count - 1] as number) - (table.at[0] as number) > MOST_SECONDS) throw new NamedError('take-too-long');
  const all = candidatesOf(table, onProgress);
  if (!all) return null;
  const tapped = taps.length > 0 ? all.filter((c) => fitsTaps(c, taps)) : all;
  const candidates = tapped.length > 0 ? tapped : all;
  const scored = candidates.map((candidate) => ({ candidate, score: scoreOf(candidate) })).sort((a, b) => b.score - a.score);
  const top = scored[0]?.score ?? 0;
  const groups: { candidate: BeatCandidate; likelihood: number }[] = [];
  let total = 0;
  for (const { candidate, score } of scored) {
    const share = Math.exp(score - top);
    total += share;
    // What is far less likely than the best adds nothing that can be seen.
    if (share < 1e-6) continue;
    const same = groups.find((g) => isSame(g.candidate, candidate));
    if (same) same.likelihood += share;
    else groups.push({ candidate, likelihood: share });
  }
  return groups
    .sort((a, b) => b.likelihood - a.likelihood)
    .slice(0, MOST_READINGS)
    .map(({ candidate, likelihood }) => readingOf(candidate, likelihood / total, table));
}

/** The first downbeat at or behind the first beat that is counted. */
const downbeatOf = (c: BeatCandidate): number => beatMoment(c, c.one);

function isSame(a: BeatCandidate, b: BeatCandidate): boolean {
  if (a.meter !== b.meter) return false;
  const ratio = a.facts.period / b.facts.period;
  if (Math.max(ratio, 1 / ratio) > 1 + SAME.beat) return false;
  const bar = BEAT_METERS[a.meter].beats * a.facts.period;
  const apart = Math.abs(downbeatOf(a) - downbeatOf(b)) % bar;
  return Math.min(apart, bar - apart) < SAME.downbeat * a.facts.period;
}

function readingOf(candidate: BeatCandidate, likelihood: number, { at, count }: StrokeTable): BeatReading {
  const { facts, meter, one } = candidate;
  const { numerator, denominator, beats: bar } = BEAT_METERS[meter];
  const end = (at[count - 1] as number) + facts.period / 2;
  const beats: number[] = [];
  for (let beat = 0; beat === 0 || beatMoment(candidate, beat) <= end; beat++) beats.push(beatMoment(candidate, beat));
  const tempos = beats.slice(1).map((b, i) => 60 / (b - (beats[i] as number)));
  const mean = beats.length > 1 ? (60 * (beats.length - 1)) / ((beats.at(-1) as number) - (beats[0] as number)) : 60 / facts.period;
  return {
    likelihood,
    meter: [numerator, denominator],
    beats,
    downbeat: Math.min(one % bar, beats.length - 1),
    bpm: { mean, min: Math.min(mean, ...tempos), max: Math.max(mean, ...tempos) },
  };
}
