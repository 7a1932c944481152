/** Where each row sits, how tight it is, and what lies between rows and bars: what the page Placement tells. */
import { learnGroove } from '../learn/learn';
import type { Groove } from '../model/groove';
import type { Hit, Part } from '../model/part';
import { barOfHome } from '../homes/homes';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf } from '../part/part-time';
import { leanOf, performPart, writtenPerformance, type Performance } from '../perform/perform';
import { deviation, mean } from '../statistics';
import { ticks, TICKS_PER_QUARTER } from '../units';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { alikeBars } from './alike';
import { answeringIn, competingIn, togetherOf, type Answering, type Competing, type Together } from './between';
import { foundSwings, type Swing, type Swings } from '../homes/swings';
import { linesRead, type LinesRead } from './lines-read';
import { isOffStraight } from './off-straight';

export interface RowPlacement {
  voice: VoiceName;
  n: number;
  /** Mean lean in ms; negative is early. */
  leanMs: number;
  /** Of the population. */
  spreadMs: number;
  /** How much its second strokes stand back, over the whole part. */
  swing: (Swing & Pick<Swings, 'division'>) | null;
  /** Some of its hits stand off the straight lines, on swung ones or between. */
  isOffStraight: boolean;
  velocity: { min: number; mean: number; max: number; sd: number };
  ghosts: number;
}

export interface Placement {
  rows: RowPlacement[];
  together: Together[];
  /** The first of them in time, and how many there are. */
  competing: Competing[];
  competingCount: number;
  answering: Answering[];
  /** Bars from 0, in groups that are alike. */
  alike: number[][];
  /** By hit: its lean in ms, and its place in the bar in quarter notes. */
  leans: Float64Array;
  places: Float64Array;
  velocities: Uint8Array;
  /** Which lines its hits belong to, as they stand in the part. */
  lines: LinesRead;
  /** Its own groove, all rows together; null under eight hits. */
  groove: Groove | null;
}

const FEWEST_OF_A_GROOVE = 8;
/** So many competing pairs are listed. */
const MOST_COMPETING = 1000;

/** Measures a part, as performed or as written. */
export function placementOf(part: Part, version: 'performed' | 'written' = 'performed'): Placement {
  const performance = version === 'performed' ? performPart(part) : writtenPerformance(part);
  const map = meterMapOf(part);
  const leans = Float64Array.from(part.hits, (_, i) => leanOf(part, performance, i));
  const places = Float64Array.from(part.hits, (_, i) => {
    const home = ticks(performance.homes.ticks[i] as number);
    return (home - map.barAt(home).start) / TICKS_PER_QUARTER;
  });
  const struckBars = new Set(Array.from(performance.homes.ticks, (home) => Math.max(0, barOfHome(part, home))));
  const swings = foundSwings(part, performance.ticks);
  const rows = [...indicesByVoice(part.hits)]
    .map(([voice, indices]) => rowOf(part, performance, leans, swings, voice, indices))
    .sort((a, b) => compareVoices(a.voice, b.voice));
  const { list: competing, count: competingCount } = competingIn(part, performance.ticks, MOST_COMPETING);
  return {
    rows,
    together: togetherOf(part, performance.ticks),
    competing,
    competingCount,
    answering: answeringIn(part),
    alike: alikeBars(part, { ticks: performance.ticks, velocities: performance.velocities }).filter((bars) =>
      struckBars.has(bars[0] as number),
    ),
    leans,
    places,
    velocities: Uint8Array.from(performance.velocities),
    lines: linesRead(part),
    groove: part.hits.filter((h) => !h.choke).length < FEWEST_OF_A_GROOVE ? null : learnGroove(part, {}, performance),
  };
}

function rowOf(
  part: Part,
  performance: Performance,
  leans: Float64Array,
  swings: Swings | null,
  voice: VoiceName,
  indices: readonly number[],
): RowPlacement {
  const own = indices.map((i) => leans[i] as number);
  const map = meterMapOf(part);
  const at = indices.map((i) => ticks(performance.ticks[i] as number));
  const swing = swings?.rows.get(voice);
  const velocities = indices.map((i) => performance.velocities[i] as number);
  return {
    voice,
    n: indices.length,
    leanMs: mean(own),
    spreadMs: deviation(own),
    swing: swing && swings ? { ...swing, division: swings.division } : null,
    isOffStraight: isOffStraight(map, at),
    velocity: {
      min: velocities.reduce((a, b) => Math.min(a, b), 127),
      mean: mean(velocities),
      max: velocities.reduce((a, b) => Math.max(a, b), 1),
      sd: deviation(velocities),
    },
    ghosts: indices.filter((i) => (part.hits[i] as Hit).ghost).length,
  };
}

/** One velocity throughout, or nearly: under this deviation a row of some strokes is flat. */
const FLAT = 1.5;
export const SOME = 4;
/**
 * Less than this is not heard as early or late (A. Friberg and J. Sundberg, JASA 98, 1995: about 6 ms for short intervals; half of it is
 * left out).
 */
export const HEARD_MS = 3;

export const isFlat = ({ n, velocity }: Pick<RowPlacement, 'n' | 'velocity'>): boolean => n >= SOME && velocity.sd < FLAT;

/**
 * How tight a row is, by its spread: under what is heard, as skilled drummers play, loosely (published spreads:
 * docs/decisions/23-placement-and-hands.md).
 */
export function looseness(spreadMs: number): 'exact' | 'tight' | 'human' | 'loose' {
  if (spreadMs < 1) return 'exact';
  if (spreadMs < 6) return 'tight';
  return spreadMs < 15 ? 'human' : 'loose';
}
