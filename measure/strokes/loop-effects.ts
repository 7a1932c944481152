/** What happens to loops between the drums and the file: rooms, compression, noise, dull copies and lossy coding. */

type Random = () => number;
type Effect = (sound: Float32Array, random: Random) => Float32Array;

const RATE = 44_100;
const between = (random: Random, low: number, high: number): number => low + random() * (high - low);
const timesBetween = (random: Random, low: number, high: number): number => low * (high / low) ** random();

/** A plain reverberator: four combs, two all-passes (M. Schroeder, 1962). */
const room: Effect = (sound, random) => {
  const seconds = timesBetween(random, 0.15, 1.2);
  const amount = timesBetween(random, 0.03, 0.3);
  const damp = between(random, 0.2, 0.7);
  const wet = new Float32Array(sound.length);
  for (let c = 0; c < 4; c++) {
    const length = Math.round(between(random, 0.011, 0.045) * RATE);
    const line = new Float32Array(length);
    const feedback = 10 ** ((-3 * length) / RATE / seconds);
    let low = 0;
    for (let i = 0, p = 0; i < sound.length; i++, p = p + 1 === length ? 0 : p + 1) {
      const y = line[p] as number;
      low += (1 - damp) * (y - low);
      line[p] = (sound[i] as number) + feedback * low;
      wet[i]! += y / 2;
    }
  }
  for (const ms of [5, 1.7]) {
    const length = Math.round((ms / 1000) * RATE);
    const line = new Float32Array(length);
    for (let i = 0, p = 0; i < wet.length; i++, p = p + 1 === length ? 0 : p + 1) {
      const [x, y] = [wet[i] as number, line[p] as number];
      line[p] = x + 0.7 * y;
      wet[i] = y - 0.7 * (line[p] as number);
    }
  }
  return sound.map((x, i) => x + amount * (wet[i] as number));
};

/** A compressor that follows peaks. */
const compression: Effect = (sound, random) => {
  const peak = sound.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-6);
  const threshold = peak * 10 ** (between(random, -24, -6) / 20);
  const slope = 1 - 1 / timesBetween(random, 2, 10);
  const [attack, release] = [timesBetween(random, 0.0003, 0.02), timesBetween(random, 0.03, 0.3)].map(
    (t) => 1 - Math.exp(-1 / (t * RATE)),
  ) as [number, number];
  let level = 0;
  return sound.map((x) => {
    const size = Math.abs(x);
    level += (size > level ? attack : release) * (size - level);
    return level > threshold ? x * (threshold / level) ** slope : x;
  });
};

const noise: Effect = (sound, random) => {
  const level = timesBetween(random, 0.0002, 0.01);
  return sound.map((x) => x + level * (random() * 2 - 1));
};

const dull: Effect = (sound, random) => {
  const pole = 1 - Math.exp((-2 * Math.PI * timesBetween(random, 4000, 16_000)) / RATE);
  let [a, b] = [0, 0];
  return sound.map((x) => {
    a += pole * (x - a);
    b += pole * (a - b);
    return b;
  });
};

/** Half a block of the lapped transform. */
const LAP = 256;
let cosines: Float32Array | null = null;
const windowAt = (i: number): number => Math.sin((Math.PI * (i + 0.5)) / (2 * LAP));

/** A lossy coder: a lapped cosine transform whose coefficients are rounded coarsely, and dropped on top. */
const lossy: Effect = (sound, random) => {
  cosines ??= Float32Array.from({ length: 2 * LAP * LAP }, (_, n) => {
    const [i, k] = [n % (2 * LAP), Math.floor(n / (2 * LAP))];
    return Math.cos((Math.PI / LAP) * (i + 0.5 + LAP / 2) * (k + 0.5)) * windowAt(i);
  });
  const table = cosines;
  const kept = Math.floor(LAP * between(random, 0.45, 0.85));
  const steps = between(random, 1.5, 6);
  const out = new Float32Array(sound.length);
  const line = new Float32Array(LAP);
  for (let from = -LAP; from < sound.length; from += LAP) {
    for (let k = 0; k < kept; k++) {
      let sum = 0;
      for (let i = 0, row = k * 2 * LAP; i < 2 * LAP; i++) sum += (sound[from + i] ?? 0) * (table[row + i] as number);
      line[k] = sum;
    }
    // Sixteen lines at a time share a step.
    for (let first = 0; first < kept; first += 16) {
      let most = 0;
      for (let k = first; k < Math.min(kept, first + 16); k++) most = Math.max(most, Math.abs(line[k] as number));
      const step = most / steps;
      if (step > 0) for (let k = first; k < Math.min(kept, first + 16); k++) line[k] = Math.round((line[k] as number) / step) * step;
    }
    for (let k = 0; k < kept; k++) {
      const x = (line[k] as number) / LAP;
      if (x === 0) continue;
      for (let i = Math.max(0, -from), row = k * 2 * LAP, last = Math.min(2 * LAP, sound.length - from); i < last; i++)
        out[from + i]! += x * (table[row + i] as number);
    }
  }
  return out;
};

/** Effects in their order, each with the share of loops that get it. */
const EFFECTS: readonly (readonly [share: number, effect: Effect])[] = [
  [0.45, room],
  [0.4, compression],
  [0.2, dull],
  [0.35, noise],
  [0.15, lossy],
];

export const throughEffects = (sound: Float32Array, random: Random): Float32Array =>
  EFFECTS.reduce((now, [share, effect]) => (random() < share ? effect(now, random) : now), sound);
