import type { FreeStroke } from '@/core/beats/strokes';
import { normalStream, randomStream } from '@/core/random';

/** A take that was played without a click, and what was meant. */
export interface FreeTake {
  style: string;
  strokes: FreeStroke[];
  meter: readonly [number, number];
  /** Seconds of every beat, in 6/8 of the dotted ones. */
  beats: number[];
  /** Index of the first downbeat. */
  downbeat: number;
}

/** What is struck in a bar: keys at places in beats, with how hard and how often. */
type Pattern = readonly (readonly [key: number, place: number, velocity: number, chance?: number])[];

interface Style {
  name: string;
  meter: readonly [number, number];
  /** Of beats; in 6/8 of the dotted ones. */
  bpm: readonly [number, number];
  /** Some ways to play it; one a take. */
  patterns: readonly Pattern[];
  /** Where fills are struck, as parts of a beat. */
  fill: number;
}

const [K, S, RIM, HAT, OPEN, PEDAL, RIDE, CRASH, LOW, MID, FLOOR] = [36, 38, 37, 42, 46, 44, 51, 49, 45, 47, 41] as const;
const every = (key: number, step: number, length: number, levels: readonly number[], chance = 1): Pattern =>
  Array.from({ length: Math.round(length / step) }, (_, i) => [key, i * step, levels[i % levels.length] as number, chance] as const);

const STYLES: readonly Style[] = [
  {
    name: 'rock',
    meter: [4, 4],
    bpm: [70, 180],
    fill: 4,
    patterns: [
      [...every(HAT, 0.5, 4, [90, 68]), [K, 0, 110], [K, 2, 104], [K, 2.5, 88, 0.6], [S, 1, 108], [S, 3, 112]],
      [...every(HAT, 0.5, 4, [84, 74]), [K, 0, 110], [K, 1.5, 90, 0.7], [K, 2.5, 96], [S, 1, 108], [S, 3, 112], [S, 3.75, 30, 0.2]],
      [...every(RIDE, 0.5, 4, [88, 72]), [K, 0, 112], [K, 0.5, 84, 0.5], [K, 2, 100, 0.8], [S, 1, 110], [S, 3, 114]],
      [...every(HAT, 1, 4, [88]), [K, 0, 110], [K, 2, 104], [S, 1, 108], [S, 3, 112]],
    ],
  },
  {
    name: 'sixteenths',
    meter: [4, 4],
    bpm: [66, 122],
    fill: 4,
    patterns: [
      [
        ...every(HAT, 0.25, 4, [92, 48, 72, 46], 0.95),
        [K, 0, 112],
        [K, 0.75, 84, 0.6],
        [K, 2.5, 96],
        [S, 1, 108],
        [S, 3, 110],
        [S, 1.75, 32, 0.7],
        [S, 2.25, 28, 0.6],
        [S, 3.75, 30, 0.5],
      ],
      [
        ...every(HAT, 0.25, 4, [86, 52, 78, 54], 0.9),
        [K, 0, 110],
        [K, 1.25, 82, 0.4],
        [K, 2.75, 90, 0.7],
        [K, 2, 96, 0.4],
        [S, 1, 106],
        [S, 3, 110],
        [S, 0.75, 26, 0.4],
        [S, 2.25, 30, 0.5],
      ],
      [...every(HAT, 0.5, 4, [88, 66]), [K, 0, 112], [K, 0.75, 92], [K, 2.25, 86, 0.7], [S, 1, 110], [S, 3, 112], [S, 1.25, 28, 0.6]],
    ],
  },
  {
    name: 'half time',
    meter: [4, 4],
    bpm: [110, 172],
    fill: 4,
    patterns: [
      [...every(HAT, 0.5, 4, [88, 64]), [K, 0, 112], [K, 1.5, 90, 0.5], [K, 3.5, 84, 0.4], [S, 2, 114]],
      [...every(RIDE, 1, 4, [90, 78]), [K, 0, 112], [K, 0.5, 88, 0.5], [S, 2, 114], [K, 3, 92, 0.5]],
    ],
  },
  {
    name: 'four on the floor',
    meter: [4, 4],
    bpm: [96, 138],
    fill: 4,
    patterns: [
      [...every(K, 1, 4, [112, 106]), ...every(OPEN, 1, 4, [84]).map(([k, p, v]) => [k, p + 0.5, v] as const), [S, 1, 100], [S, 3, 102]],
      [...every(K, 1, 4, [110]), ...every(HAT, 0.5, 4, [60, 88]), [39, 1, 100], [39, 3, 102]],
      [...every(K, 1, 4, [110]), ...every(HAT, 0.25, 4, [70, 44, 88, 46], 0.95), [S, 1, 104], [S, 3, 104]],
    ],
  },
  {
    name: 'shuffle',
    meter: [4, 4],
    bpm: [80, 150],
    fill: 3,
    patterns: [
      [
        ...every(HAT, 1, 4, [92, 84]),
        ...every(HAT, 1, 4, [62]).map(([k, p, v]) => [k, p + 2 / 3, v] as const),
        [K, 0, 110],
        [K, 2, 102],
        [K, 2 + 2 / 3, 84, 0.5],
        [S, 1, 108],
        [S, 3, 110],
      ],
      [...every(HAT, 1 / 3, 4, [90, 50, 66]), [K, 0, 110], [K, 1 + 2 / 3, 86, 0.5], [K, 2, 98], [S, 1, 108], [S, 3, 110]],
    ],
  },
  {
    name: 'swing',
    meter: [4, 4],
    bpm: [104, 180],
    fill: 3,
    patterns: [
      [
        ...every(RIDE, 1, 4, [80, 92]),
        [RIDE, 1 + 2 / 3, 66],
        [RIDE, 3 + 2 / 3, 66],
        [PEDAL, 1, 80],
        [PEDAL, 3, 82],
        [K, 0, 60, 0.6],
        [K, 2, 56, 0.5],
        [S, 1 + 2 / 3, 54, 0.25],
        [S, 3, 60, 0.3],
        [S, 2 + 2 / 3, 50, 0.2],
      ],
      [
        ...every(RIDE, 1, 4, [82, 90]),
        [RIDE, 1 + 2 / 3, 64],
        [RIDE, 3 + 2 / 3, 64],
        [PEDAL, 1, 84],
        [PEDAL, 3, 84],
        ...every(K, 1, 4, [40], 0.7),
        [S, 3, 70, 0.5],
      ],
    ],
  },
  {
    name: 'bossa',
    meter: [4, 4],
    bpm: [100, 160],
    fill: 4,
    patterns: [
      [...every(HAT, 0.5, 4, [82, 66]), [K, 0, 100], [K, 1.5, 84], [K, 2, 98], [K, 3.5, 84], [RIM, 0, 90], [RIM, 1.5, 86], [RIM, 3, 92]],
    ],
  },
  {
    name: 'toms',
    meter: [4, 4],
    bpm: [84, 140],
    fill: 4,
    patterns: [
      [...every(FLOOR, 0.5, 4, [92, 74]), [K, 0, 110], [K, 2, 104], [S, 1, 100], [S, 3, 106], [MID, 3.5, 88, 0.6]],
      [...every(FLOOR, 0.5, 4, [96, 70], 0.95), [K, 0, 112], [K, 1.5, 90], [K, 2, 100], [LOW, 3, 96], [LOW, 3.5, 90], [S, 1, 96, 0.6]],
    ],
  },
  {
    name: 'waltz',
    meter: [3, 4],
    bpm: [78, 178],
    fill: 4,
    patterns: [
      [
        [K, 0, 108],
        [HAT, 1, 76],
        [HAT, 2, 78],
        [S, 1, 64, 0.4],
        [S, 2, 70, 0.5],
        [RIDE, 0, 84],
        [RIDE, 1, 72],
        [RIDE, 2, 74],
      ],
      [...every(HAT, 0.5, 3, [88, 62]), [K, 0, 110], [S, 1, 92], [S, 2, 96], [K, 2.5, 80, 0.3]],
      [...every(RIDE, 1, 3, [88, 78, 80]), [K, 0, 106], [PEDAL, 1, 80], [PEDAL, 2, 82], [S, 2, 84, 0.6], [RIDE, 1 + 2 / 3, 60, 0.6]],
      [...every(HAT, 0.5, 3, [86, 66]), [K, 0, 110], [S, 2, 104], [K, 1.5, 84, 0.4]],
    ],
  },
  {
    name: 'six eight',
    meter: [6, 8],
    bpm: [44, 92],
    fill: 6,
    patterns: [
      [...every(HAT, 1 / 3, 2, [90, 62, 66]), [K, 0, 110], [S, 1, 108], [K, 2 / 3, 82, 0.4], [K, 1 + 2 / 3, 84, 0.4]],
      [...every(RIDE, 1 / 3, 2, [88, 64, 70]), [K, 0, 108], [S, 1, 106], [S, 1 + 1 / 2, 28, 0.3], [K, 5 / 6 + 1, 80, 0.3]],
      [...every(HAT, 1 / 6, 2, [88, 46, 62, 44, 66, 46], 0.95), [K, 0, 110], [S, 1, 108], [K, 1 / 2, 80, 0.3]],
    ],
  },
];

/** Where the take's time goes: seconds of each beat, from one to the next. */
function tempoOf(count: number, bpm: number, bar: number, random: () => number): number[] {
  const normal = normalStream(random);
  const range = 0.02 + 0.06 * random();
  const trend = (random() - 0.5) * range;
  const waves = Array.from({ length: 2 }, () => ({ length: 24 + 120 * random(), phase: 2 * Math.PI * random(), size: random() }));
  const size = waves.reduce((sum, w) => sum + w.size, 0.2);
  const fills = random() < 0.6;
  let [walk, step] = [0, 0];
  return Array.from({ length: count }, (_, i) => {
    walk += normal() * range * 0.02 - walk * 0.02;
    if (fills && i % (bar * 8) === 0 && i > 0) step += (random() < 0.5 ? -1 : 1) * 0.03 * random();
    const wave = waves.reduce((sum, w) => sum + (w.size / size) * Math.sin(w.phase + (2 * Math.PI * i) / w.length), 0);
    return (60 / bpm) * (1 + trend * (i / count - 0.5) + (wave * range) / 2 + walk + step);
  });
}

/** A take of a seed: a style, a tempo that drifts by 2 to 8 %, a hand that is not even, fills, ghosts, hits that are missed. */
export function freeTake(seed: number, { bars: wanted }: { bars?: number } = {}): FreeTake {
  const random = randomStream(seed * 7919 + 13);
  for (let i = 0; i < 5; i++) random();
  const normal = normalStream(random);
  const style = STYLES[Math.floor(random() * STYLES.length)] as Style;
  const pattern = style.patterns[Math.floor(random() * style.patterns.length)] as Pattern;
  const bar = style.meter[1] === 8 ? style.meter[0] / 3 : style.meter[0];
  const bars = wanted ?? 8 + Math.floor(random() ** 2 * 57);
  const bpm = style.bpm[0] + random() * (style.bpm[1] - style.bpm[0]);
  const lengths = tempoOf(bars * bar + 1, bpm, bar, random);
  const beats = [0.5 + 2 * random()];
  for (const length of lengths) beats.push((beats.at(-1) as number) + length);
  const spread = 0.004 + 0.011 * random();
  const leans = new Map<number, number>();
  const leanOf = (key: number): number => {
    if (!leans.has(key)) leans.set(key, normal() * 0.006);
    return leans.get(key) as number;
  };
  const every8 = random() < 0.5 ? 4 : 8;
  const swung = style.fill === 4 && random() < 0.4 ? 0.06 * random() : 0;
  const strokes: FreeStroke[] = [];
  const strike = (beat: number, key: number, velocity: number) => {
    const whole = Math.floor(beat + 1e-6);
    let part = beat - whole;
    // A player's sixteenths may swing a little.
    if (Math.abs(part - 0.25) < 0.01 || Math.abs(part - 0.75) < 0.01) part += swung;
    const [from, to] = [beats[whole] as number, beats[whole + 1] ?? (beats[whole] as number) + 60 / bpm];
    strokes.push({
      at: from + part * (to - from) + leanOf(key) + normal() * spread,
      key,
      velocity: Math.max(1, Math.min(127, Math.round(velocity * (1 + 0.08 * normal())))),
    });
  };
  for (let b = 0; b < bars; b++) {
    const start = b * bar;
    const isFill = (b + 1) % every8 === 0 && random() < 0.8;
    const length = isFill ? Math.min(bar, 1 + Math.floor(random() * bar)) : 0;
    const fillFrom = bar - length;
    for (const [key, place, velocity, chance = 1] of pattern)
      if (place < fillFrom - 1e-6 && random() < chance && random() > 0.01) strike(start + place, key, velocity);
    if (isFill) {
      const steps = length * style.fill;
      const drums = random() < 0.5 ? [S, S, MID, LOW, FLOOR] : [S, MID, MID, FLOOR, FLOOR];
      for (let i = 0; i < steps; i++)
        if (random() < 0.85)
          strike(start + fillFrom + i / style.fill, drums[Math.floor((i / steps) * drums.length)] as number, 80 + 30 * (i / steps));
      if (random() < 0.5) strike(start + fillFrom, K, 96);
    }
    if ((b % every8 === 0 && b > 0 && random() < 0.7) || (b === 0 && random() < 0.4)) strike(start, CRASH, 108);
  }
  if (random() < 0.4) {
    strike(bars * bar, CRASH, 110);
    strike(bars * bar, K, 110);
  }
  return {
    style: style.name,
    strokes: strokes.sort((a, b) => a.at - b.at),
    meter: style.meter,
    beats: beats.slice(0, bars * bar + 1),
    downbeat: 0,
  };
}

/** How right a reading is of a take. */
export interface Rightness {
  /** F of beats within 70 ms. */
  f: number;
  octave: boolean;
  meter: boolean;
  downbeat: boolean;
  /** How far the tempo of each beat is off, on average, as a share; of readings with the right octave. */
  curve: number;
}

export function rightness(take: FreeTake, reading: { meter: readonly number[]; beats: readonly number[]; downbeat: number }): Rightness {
  const [from, to] = [take.strokes[0]!.at - 0.1, take.strokes.at(-1)!.at + 0.1];
  const inside = (list: readonly number[]) => list.filter((b) => b >= from && b <= to);
  const [truth, found] = [inside(take.beats), inside(reading.beats)];
  const near = (at: number, list: readonly number[]): number =>
    list.reduce((best, b) => (Math.abs(b - at) < Math.abs(best - at) ? b : best), Infinity) - at;
  const hits = truth.filter((b) => Math.abs(near(b, found)) <= 0.07).length;
  const f = (2 * hits) / Math.max(1, truth.length + found.length);
  const meanOf = (list: readonly number[]) => (list.at(-1)! - list[0]!) / (list.length - 1);
  const octave = found.length > 1 && Math.abs(Math.log2(meanOf(found) / meanOf(truth))) < 0.08;
  const meter = reading.meter[0] === take.meter[0] && reading.meter[1] === take.meter[1];
  const barOf = ([n, d]: readonly number[]) => (d === 8 ? n! / 3 : n!);
  const ones = (list: readonly number[], first: number, bar: number) => list.filter((_, i) => i >= first && (i - first) % bar === 0);
  const [trueOnes, foundOnes] = [
    inside(ones(take.beats, take.downbeat, barOf(take.meter))),
    inside(ones(reading.beats, reading.downbeat, barOf(reading.meter))),
  ];
  const oneHits = trueOnes.filter((b) => Math.abs(near(b, foundOnes)) <= 0.07).length;
  const downbeat = (2 * oneHits) / Math.max(1, trueOnes.length + foundOnes.length) >= 0.8;
  let [off, n] = [0, 0];
  if (octave)
    for (let i = 1; i < truth.length; i++) {
      const j = found.findIndex((b) => Math.abs(b - truth[i - 1]!) < 0.07);
      if (j < 0 || j + 1 >= found.length) continue;
      // Over four beats: a single beat says more of its two strokes than of the tempo.
      if (i + 3 >= truth.length || j + 4 >= found.length) continue;
      off += Math.abs((found[j + 4]! - found[j]!) / (truth[i + 3]! - truth[i - 1]!) - 1);
      n++;
    }
  return { f, octave, meter, downbeat, curve: n > 0 ? off / n : 0 };
}
