import { randomStream } from '@/core/random';
import { runNet } from '@/core/onsets/stroke-net';
import { beatOf } from './beats';
import { fitNet, UNIT, type Lesson } from './fit';
import { throughEffects } from './loop-effects';
import { plainDrums } from './plain-drums';
import { namedOf, sureOf } from './score';

const random = randomStream(3);
const examples = Array.from({ length: 600 }, () => Float32Array.from({ length: 12 }, () => random() * 2 - 1));
/** Whether the first number is over the second, and twice the third. */
const lesson: Lesson<Float32Array> = {
  examples,
  valuesOf: (e) => e,
  slope: (e, k, said) => (k === 0 ? 1 / (1 + Math.exp(-said)) - Number(e[0]! > e[1]!) : said - 2 * e[2]!),
};

test('what examples say is learnt, and the same twice', () => {
  const shape = { sizes: [12, 16, 8, 2], steps: 2500, noise: 0 };
  const net = fitNet(lesson, shape);
  const said = examples.map((e) => runNet(net, UNIT, e));
  expect(said.filter((s, i) => s[0]! > 0 === examples[i]![0]! > examples[i]![1]!).length).toBeGreaterThan(570);
  expect(said.filter((s, i) => Math.abs(s[1]! - 2 * examples[i]![2]!) < 0.2).length).toBeGreaterThan(570);
  expect(fitNet(lesson, { ...shape, steps: 20 })).toEqual(fitNet(lesson, { ...shape, steps: 20 }));
});

test('what is named, and how sure, by hand', () => {
  // The likeliest is named even where it is not likely, others over one half.
  expect(namedOf([0.4, 0.1, 0.3, 0, 0])).toEqual([true, false, false, false, false]);
  expect(namedOf([0.9, 0.1, 0.6, 0, 0])).toEqual([true, false, true, false, false]);
  expect(sureOf([0.9, 0.1, 0.6, 0, 0])).toBeCloseTo(0.9 * 0.9 * 0.6, 12);
});

test('a beat, its drums and what happens to it are decided by their seed', () => {
  expect(beatOf(7)).toEqual(beatOf(7));
  expect(beatOf(7)).not.toEqual(beatOf(8));
  const sound = (seed: number) => plainDrums(seed)('snare')(0.8);
  expect(sound(3)).toEqual(sound(3));
  expect(sound(3)).not.toEqual(sound(4));
  for (const voice of ['kick', 'snare', 'hat-open', 'tom-low', 'ride', 'clap', 'cowbell'])
    expect(plainDrums(5)(voice)(1).every(Number.isFinite)).toBe(true);
  for (let seed = 1; seed <= 12; seed++) {
    const heard = throughEffects(sound(3), randomStream(seed));
    expect(heard).toHaveLength(sound(3).length);
    expect(heard.every((x) => Number.isFinite(x) && Math.abs(x) < 10)).toBe(true);
  }
});
