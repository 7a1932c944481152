// Fits how much each thing that is seen of a reading says for it, on takes that are made up, and writes the weights.
import { writeFileSync } from 'node:fs';
import { BEAT_METERS, FEATURES } from '@/core/beats/features';
import { beatMoment, candidatesOf, type BeatCandidate } from '@/core/beats/find-beats';
import { tableOf } from '@/core/beats/strokes';
import { WEIGHTS } from '@/core/beats/weights';
import { freeTake, rightness, type FreeTake } from '@tests/support/free-takes';

/** Seeds of the tests and of the figures lie below. */
const FIRST_SEED = 1_000_000;
const ROUNDS = 400;
const RATE = 0.02;
/** Pulls weights towards zero, so that none grows on a handful of takes. */
const PULL = 0.002;

interface Example {
  features: Float64Array[];
  right: boolean[];
}

function isRight(take: FreeTake, candidate: BeatCandidate): boolean {
  const { numerator, denominator } = BEAT_METERS[candidate.meter];
  if (take.meter[0] !== numerator || take.meter[1] !== denominator) return false;
  const beats: number[] = [];
  const end = (take.strokes.at(-1) as { at: number }).at + candidate.facts.period / 2;
  for (let b = 0; beatMoment(candidate, b) <= end; b++) beats.push(beatMoment(candidate, b));
  if (beats.length < 3) return false;
  const r = rightness(take, { meter: take.meter, beats, downbeat: Math.min(candidate.one, beats.length - 1) });
  return r.octave && r.downbeat && r.f > 0.9;
}

export function fitBeats(path: string, count: number): void {
  const examples: Example[] = [];
  for (let seed = FIRST_SEED; examples.length < count && seed < FIRST_SEED + 3 * count; seed++) {
    const take = freeTake(seed, { bars: 8 + (seed % 17) });
    const candidates = candidatesOf(tableOf(take.strokes)) ?? [];
    const right = candidates.map((c) => isRight(take, c));
    if (right.some(Boolean)) examples.push({ features: candidates.map((c) => c.features), right });
  }
  const weights = Float64Array.from(FEATURES, (name) => WEIGHTS[name]);
  const [mean, square] = [new Float64Array(weights.length), new Float64Array(weights.length)];
  for (let round = 1; round <= ROUNDS; round++) {
    const slope = new Float64Array(weights.length);
    let loss = 0;
    for (const { features, right } of examples) {
      const scores = features.map((f) => f.reduce((sum, x, i) => sum + x * (weights[i] as number), 0));
      const top = Math.max(...scores);
      const shares = scores.map((s) => Math.exp(s - top));
      const all = shares.reduce((a, b) => a + b, 0);
      const good = shares.reduce((sum, s, i) => sum + (right[i] ? s : 0), 0);
      loss -= Math.log(Math.max(1e-300, good / all));
      features.forEach((f, i) => {
        const push = (shares[i] as number) / all - (right[i] ? (shares[i] as number) / Math.max(1e-300, good) : 0);
        if (Math.abs(push) > 1e-9) for (let k = 0; k < f.length; k++) slope[k]! += push * (f[k] as number);
      });
    }
    // Adam (Kingma and Ba, 2015).
    for (let k = 0; k < weights.length; k++) {
      const g = (slope[k] as number) / examples.length + PULL * (weights[k] as number);
      mean[k] = 0.9 * (mean[k] as number) + 0.1 * g;
      square[k] = 0.999 * (square[k] as number) + 0.001 * g * g;
      weights[k]! -= (RATE * ((mean[k] as number) / (1 - 0.9 ** round))) / (Math.sqrt((square[k] as number) / (1 - 0.999 ** round)) + 1e-8);
    }
    if (round % 50 === 0) console.log(`${round}: ${(loss / examples.length).toFixed(4)}`);
  }
  const lines = FEATURES.map((name, i) => `  ${name}: ${Number((weights[i] as number).toFixed(3)) + 0},`);
  writeFileSync(
    path,
    `import type { FeatureName } from './features';

/** How much each thing that is seen of a reading says for it, in natural logarithms of odds: fitted by \`npm run fit:beats\`. */
export const WEIGHTS: Readonly<Record<FeatureName, number>> = {
${lines.join('\n')}
};
`,
  );
}
