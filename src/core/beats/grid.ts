import { beatBefore } from './smooth';
import { HAT, TOM, type StrokeTable } from './strokes';

/** Strokes of a take counted in the beats of a track: 0 is its first beat, fractions lie between. */
export function countedIn({ count, at }: StrokeTable, beats: Float64Array): Float64Array {
  const places = new Float64Array(count);
  let hint = 0;
  for (let s = 0; s < count; s++) {
    const i = (hint = beatBefore(beats, at[s] as number, hint));
    places[s] = i + ((at[s] as number) - (beats[i] as number)) / ((beats[i + 1] as number) - (beats[i] as number));
  }
  return places;
}

/** The moment of a place, in seconds; outside the first or last beat goes on. */
export function momentOf(beats: Float64Array, place: number): number {
  const i = Math.min(Math.max(0, Math.floor(place)), beats.length - 2);
  return (beats[i] as number) + (place - i) * ((beats[i + 1] as number) - (beats[i] as number));
}

/** Beats every `every` beats of a track, one of them at `phase` (0 to 1, in its own beats). */
export interface BeatGrid {
  track: Float64Array;
  every: number;
  phase: number;
  /** Seconds, on average. */
  period: number;
}

const BINS = 24;
/** Toms and hats say less of where the beat is. */
const shareOf = (group: number): number => (group === TOM ? 0.4 : group === HAT ? 0.25 : 1);

/** Strokes this near to a phase say where exactly it is, in beats. */
const NEAR = 0.08;

/** The middle of the strokes around a phase. */
function centred({ count, group, weight }: StrokeTable, places: Float64Array, every: number, phase: number): number {
  let here = phase;
  for (let round = 0; round < 3; round++) {
    let [sum, total] = [0, 0];
    for (let s = 0; s < count; s++) {
      const away = (places[s] as number) / every - here;
      const off = away - Math.round(away);
      if (Math.abs(off) > NEAR) continue;
      const w = (weight[s] as number) * shareOf(group[s] as number);
      sum += w * off;
      total += w;
    }
    if (total > 0) here += sum / total;
  }
  return here - Math.floor(here);
}

/** Where beats of a length may stand: the three places of the beat with the most weight. */
export function phasesOf(table: StrokeTable, places: Float64Array, every: number): number[] {
  const { count, group, weight } = table;
  const raw = new Float64Array(BINS);
  for (let s = 0; s < count; s++) {
    const place = (places[s] as number) / every;
    raw[Math.floor((place - Math.floor(place)) * BINS) % BINS]! += (weight[s] as number) * shareOf(group[s] as number);
  }
  const smooth = raw.map((v, b) => v + ((raw[(b + 1) % BINS] as number) + (raw[(b + BINS - 1) % BINS] as number)) / 2);
  const around = (b: number): [number, number, number] => [
    smooth[(b + BINS - 1) % BINS] as number,
    smooth[b] as number,
    smooth[(b + 1) % BINS] as number,
  ];
  return [...smooth.keys()]
    .filter((b) => {
      const [left, here, right] = around(b);
      return here > 0 && here >= left && here > right;
    })
    .sort((a, b) => (smooth[b] as number) - (smooth[a] as number))
    .slice(0, 3)
    .map((b) => {
      const [left, here, right] = around(b);
      const curve = left - 2 * here + right;
      const shift = curve === 0 ? 0 : (0.5 * (left - right)) / curve;
      return centred(table, places, every, (b + 0.5 + Math.max(-0.5, Math.min(0.5, shift))) / BINS);
    });
}
