import { smallPart } from '@tests/support/arbitraries';
import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { deviation, mean } from '../statistics';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { EMPTY_FEEL } from '../model/feel';
import { performPart } from '../perform/perform';
import { DEFAULT_MOVES } from '../moves/all';
import { humanValues, type HumanValues } from './random-values';
import { SlowCurve } from './slow-curve';

const STEP = 0.25;
const sixteenths = (bars: number, voice = 'hat-closed'): Part =>
  smallPart(
    Array.from({ length: bars * 16 }, (_, i) => [voice, i * STEP, 90] as const),
    { bars },
  );

function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const [x, y] = [Array.from(a), Array.from(b)];
  const [mx, my] = [mean(x), mean(y)];
  return mean(x.map((v, i) => (v - mx) * ((y[i] as number) - my))) / (deviation(x) * deviation(y));
}
// 4,096 draws: three deviations of a correlation of independent ones are 0.047.
const LARGE = sixteenths(256);
const LOOSE = 0.06;

test('own draws of a seed and of its neighbours, for time and for velocity, have nothing to do with each other', () => {
  const map = meterMapOf(LARGE);
  const draws: HumanValues[] = [1, 2, 3, 4].map((seed) => humanValues(LARGE.hits, map, seed));
  const all = draws.flatMap((d) => [d.ownTiming, d.ownVelocity]);
  for (const [i, a] of all.entries()) for (const b of all.slice(i + 1)) expect(Math.abs(correlation(a, b))).toBeLessThan(LOOSE);
  for (const a of all) expect([mean([...a]), deviation([...a])]).toEqual([expect.closeTo(0, 1), expect.closeTo(1, 1)]);
});

test('re-rolled jitter of accents is another one each time', () => {
  const velocities = (seed: number) =>
    performPart({ ...LARGE, feel: { ...EMPTY_FEEL, seed, moves: [{ ...DEFAULT_MOVES.accents, jitter: 40 }] } }).velocities;
  expect(Math.abs(correlation(velocities(1), velocities(2)))).toBeLessThan(LOOSE);
});

describe('the slow curve', () => {
  const map = meterMapOf(sixteenths(1));
  const values = (seed: number, fromBar: number, bars: number): number[] => {
    const curve = new SlowCurve(seed, map);
    const n = bars * 256;
    return Array.from({ length: n }, (_, i) => curve.at(ticks((fromBar + ((i + 0.5) / n) * bars) * 4 * TICKS_PER_QUARTER)));
  };

  test('its mean over each four bars is 0, its deviation over many is 1', () => {
    for (let seed = 1; seed <= 12; seed++)
      for (const bar of [0, 4, 40]) expect(Math.abs(mean(values(seed * 99, bar, 4)))).toBeLessThan(0.02);
    const squares = Array.from({ length: 200 }, (_, seed) => mean(values(seed * 7 + 1, 0, 4).map((v) => v * v)));
    expect(Math.sqrt(mean(squares))).toBeCloseTo(1, 1);
  });

  test('it is continuous, where spans meet as well', () => {
    for (const seed of [1, 2, 3]) {
      const all = values(seed, 2, 4);
      for (let i = 1; i < all.length; i++) expect(Math.abs((all[i] as number) - (all[i - 1] as number))).toBeLessThan(0.5);
    }
  });
});

test('humanizing a loop of four bars lays it neither back nor forward', () => {
  const part = sixteenths(4);
  for (let seed = 1; seed <= 30; seed++) {
    const { ticks: at } = performPart({ ...part, feel: { ...EMPTY_FEEL, seed, moves: [{ ...DEFAULT_MOVES.humanize, anchor: 0 }] } });
    // 161.28 ticks a millisecond at 120 BPM; what is left is that of the hits' own draws, a tenth of their deviation at most, and of
    // places.
    expect(Math.abs(mean(part.hits.map((h, i) => (at[i] as number) - h.tick)) / 161.28)).toBeLessThan(1.6);
  }
});
