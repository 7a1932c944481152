import { breakOf, randomBeat, scored } from '@tests/support/breaks';
import { randomStream } from '../random';
import { KIT_NAMES } from '../model/sound';
import { attackNear, findOnsets, findPeaks, onsetsOf } from './onsets';
import { readingsOf } from './readings';

const RATE = 44_100;

test('clicks are found to the sample', () => {
  const mono = new Float32Array(RATE);
  for (const at of [5000, 12_345, 30_001]) for (let i = 0; i < 400; i++) mono[at + i] = 0.6 * Math.exp(-i / 60) * Math.sin(i * 0.7 + 1);
  expect(findOnsets(mono, RATE).map((o) => Math.round(o.seconds * RATE))).toEqual([5000, 12_345, 30_001]);
  expect(Math.round(attackNear(mono, RATE, 12_400 / RATE) * RATE)).toBe(12_345);
});

describe('twenty loops of all kits', () => {
  const loops = Array.from({ length: 20 }, (_, i) => breakOf(randomBeat(i + 1, KIT_NAMES[i % KIT_NAMES.length]!), RATE));
  const found = loops.map(({ mono }) => findOnsets(mono, RATE));
  const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;

  test('onsets are found: F at 25 ms at least 0.99, half of them within 0.7 ms', () => {
    const scores = loops.map(({ times }, i) => scored(found[i]!.map((o) => o.seconds), times));
    expect(mean(scores.map((s) => s.f))).toBeGreaterThanOrEqual(0.99);
    expect(mean(scores.map((s) => s.medianError))).toBeLessThan(0.0007);
  });

  test('ten times softer, at another rate, and in noise they are the same', () => {
    for (const { mono, times } of loops.slice(0, 4)) {
      const soft = mono.map((x) => x * 0.125);
      expect(findOnsets(soft, RATE)).toEqual(findOnsets(mono, RATE).map((o) => ({ seconds: expect.closeTo(o.seconds, 4) as number, strength: expect.closeTo(o.strength, 3) as number })));
      const random = randomStream(7);
      const noisy = mono.map((x) => x + 0.01 * (random() * 2 - 1));
      expect(scored(findOnsets(noisy, RATE).map((o) => o.seconds), times).f).toBeGreaterThan(0.95);
    }
  });

  test('a reading says how many bars there are, how fast, and where they begin', () => {
    const right = loops.filter((loop, i) => readingsOf(found[i]!, loop.mono.length / RATE).some((r) => Math.abs(r.bpm / loop.bpm - 1) < 0.01 && r.bars === loop.part.bars && Math.abs(r.firstDownbeat) < 0.03));
    expect(right.length).toBeGreaterThanOrEqual(19);
  });
});

test('sensitivity goes from the strongest to nearly all', () => {
  const peaks = findPeaks(breakOf(randomBeat(3, 'Wheelhouse'), RATE).mono, RATE);
  const counts = [0, 0.25, 0.5, 0.75, 1].map((s) => onsetsOf(peaks, s).length);
  expect(counts).toEqual([...counts].sort((a, b) => a - b));
  expect(counts[0]).toBeLessThan(counts[4]!);
});

test('what has no strokes has no onsets, and no reading', () => {
  expect([findOnsets(new Float32Array(RATE), RATE), findOnsets(new Float32Array(0), RATE), readingsOf([], 2)]).toEqual([[], [], []]);
  const random = randomStream(1);
  const noise = Float32Array.from({ length: 4 * RATE }, () => random() * 2 - 1);
  // It begins, and then little stands out.
  expect(findOnsets(noise, RATE).length).toBeLessThanOrEqual(12);
});
