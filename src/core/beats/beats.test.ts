import fc from 'fast-check';
import { freeTake, rightness } from '@tests/support/free-takes';
import { solveBanded } from './banded';
import { findBeats, FEWEST_STROKES, MOST_STROKES } from './find-beats';
import { periodsOf } from './periods';
import { smoothBeats } from './smooth';
import { CRASH, HAT, KICK, SNARE, tableOf, TOM, type FreeStroke } from './strokes';
import { trackBeats } from './track';

/** Kicks on 1 and 3, snares on 2 and 4, hats on eighths, a crash on the first; beats at these moments. */
function rock(beats: readonly number[]): FreeStroke[] {
  return beats.slice(0, -1).flatMap((at, i) => {
    const half = (at + (beats[i + 1] as number)) / 2;
    return [
      { at, key: i % 2 === 0 ? 36 : 38, velocity: 110 },
      { at, key: 42, velocity: 90 },
      { at: half, key: 42, velocity: 66 },
      ...(i === 0 ? [{ at, key: 49, velocity: 110 }] : []),
    ];
  });
}
const steady = (bpm: number, count: number, from = 1): number[] => Array.from({ length: count + 1 }, (_, i) => from + (i * 60) / bpm);
/** A beat that slows down by 20 % over the take, far beyond what one tempo could say. */
const slowing = (count: number): number[] => {
  const beats = [0.7];
  for (let i = 0; i < count; i++) beats.push((beats[i] as number) + 0.5 * (1 + (0.2 * i) / count));
  return beats;
};

test('strokes have their group and weight; soft snares are ghosts', () => {
  const table = tableOf([36, 38, 49, 45, 42, 60].map((key, i) => ({ at: i, key, velocity: 100 })));
  expect([...table.group]).toEqual([KICK, SNARE, CRASH, TOM, HAT, HAT]);
  expect([...table.weight]).toEqual([1, 1, 0.8, 0.7, 0.6, 0.6].map((w) => expect.closeTo(w, 9)));
  const [soft, edge] = [49, 50].map((velocity) => tableOf([{ at: 0, key: 38, velocity }]));
  expect([soft!.ghost[0], edge!.ghost[0]]).toEqual([1, 0]);
  // 0.35 of a ghost, times 0.35 + 0.65 x 0.49.
  expect(soft!.weight[0]).toBeCloseTo(0.35 * (0.35 + 0.65 * 0.49), 9);
});

test('a band of five is solved as by elimination', () => {
  // [4 1 1; 1 5 2; 1 2 6] x = [1 2 3].
  const right = Float64Array.of(1, 2, 3);
  solveBanded(Float64Array.of(4, 5, 6), Float64Array.of(1, 2, 0), Float64Array.of(1, 0, 0), right);
  const [x, y, z] = right as unknown as [number, number, number];
  expect([4 * x + y + z, x + 5 * y + 2 * z, x + 2 * y + 6 * z]).toEqual([1, 2, 3].map((v) => expect.closeTo(v, 9)));
});

test('the length of a beat is among the periods, which lie apart', () => {
  for (const bpm of [90, 118, 150]) {
    const periods = periodsOf(tableOf(rock(steady(bpm, 32))));
    expect(Math.min(...periods.map((p) => Math.abs(Math.log2((p * bpm) / 60) % 1)))).toBeLessThan(0.03);
    for (const [i, p] of periods.entries()) for (const q of periods.slice(i + 1)) expect(Math.max(p / q, q / p)).toBeGreaterThan(1.07);
  }
});

test('a track follows a beat that slows down, and smoothing brings it to the strokes', () => {
  const truth = slowing(64);
  const table = tableOf(rock(truth));
  const track = trackBeats(table, 0.55)!;
  const smooth = smoothBeats(table, track.beats);
  const off = (beats: Float64Array) =>
    truth
      .slice(1, -2)
      .map((t) => Math.min(...Array.from(beats, (b) => Math.abs(b - t))))
      .reduce((a, b) => a + b, 0) /
    (truth.length - 3);
  expect(off(track.beats)).toBeLessThan(0.012);
  expect(off(smooth)).toBeLessThan(0.002);
});

test('read as it was played: 4/4, each beat within 5 ms, the downbeat on the first', () => {
  for (const beats of [steady(96, 32), steady(131, 48, 3.2), slowing(64)]) {
    const [first] = findBeats(rock(beats))!;
    expect(first!.meter).toEqual([4, 4]);
    expect(first!.beats[first!.downbeat]).toBeCloseTo(beats[0]!, 2);
    for (const beat of beats.slice(0, -1)) expect(Math.min(...first!.beats.map((b) => Math.abs(b - beat)))).toBeLessThan(0.005);
    expect(first!.likelihood).toBeGreaterThan(0.7);
  }
  const [slow] = findBeats(rock(slowing(64)))!;
  expect([slow!.bpm.max, slow!.bpm.min]).toEqual([expect.closeTo(119.5, -0.3), expect.closeTo(100.5, -0.3)]);
});

test('three readings at most, the likeliest first, their likelihoods together at most 1', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          at: fc.double({ min: 0, max: 20, noNaN: true }),
          key: fc.integer({ min: 30, max: 60 }),
          velocity: fc.integer({ min: 1, max: 127 }),
        }),
        { minLength: FEWEST_STROKES, maxLength: 60 },
      ),
      (strokes) => {
        const readings = findBeats(strokes)!;
        expect(readings.length).toBeLessThanOrEqual(3);
        expect(readings.reduce((sum, r) => sum + r.likelihood, 0)).toBeLessThanOrEqual(1 + 1e-9);
        for (const [i, { likelihood, beats, downbeat, bpm }] of readings.entries()) {
          expect(likelihood).toBeLessThanOrEqual(readings[i - 1]?.likelihood ?? 1);
          expect(beats.every((b, k) => k === 0 || b > (beats[k - 1] as number))).toBe(true);
          expect(downbeat >= 0 && downbeat < beats.length).toBe(true);
          expect(bpm.min <= bpm.mean && bpm.mean <= bpm.max).toBe(true);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test('moved in time a take has the same beats, so much later', () => {
  const { strokes } = freeTake(5, { bars: 8 });
  const [here] = findBeats(strokes)!;
  const [later] = findBeats(strokes.map((s) => ({ ...s, at: s.at + 1000 })))!;
  expect(later!.meter).toEqual(here!.meter);
  here!.beats.forEach((b, i) => expect(later!.beats[i]! - 1000).toBeCloseTo(b, 2));
});

test('two taps on the first two beats say where the bar begins, and how long a beat is', () => {
  const beats = steady(120, 32);
  const strokes = rock(beats).filter((s) => s.key !== 49);
  // Counted from the second beat, at half the tempo: nothing in the strokes says so.
  const [tapped] = findBeats(strokes, { taps: [beats[1]!, beats[3]!] })!;
  expect(tapped!.bpm.mean).toBeCloseTo(60, 0);
  const downbeats = tapped!.beats.filter((_, i) => i >= tapped!.downbeat && (i - tapped!.downbeat) % tapped!.meter[0]! === 0);
  expect(Math.min(...downbeats.map((b) => Math.abs(b - beats[1]!)))).toBeLessThan(0.03);
  const [shifted] = findBeats(strokes, { taps: [beats[2]! + 0.02, beats[3]! - 0.02] })!;
  expect(shifted!.bpm.mean).toBeCloseTo(120, 0);
  expect(Math.min(...[0, 4, 8].map((n) => Math.abs(shifted!.beats[shifted!.downbeat]! - beats[2]! + n * 0.5)))).toBeLessThan(0.03);
});

test('ended by its caller, it gives nothing', () => {
  const seen: number[] = [];
  expect(findBeats(freeTake(3, { bars: 16 }).strokes, { onProgress: (done) => (seen.push(done), done < 0.4) })).toBeNull();
  expect(seen.at(-1)).toBeGreaterThanOrEqual(0.4);
  expect(seen.every((d, i) => d >= 0 && d <= 1 && d >= (seen[i - 1] ?? 0))).toBe(true);
});

test('too few, too many or too long is refused by name', () => {
  const strokes = (n: number, apart: number): FreeStroke[] =>
    Array.from({ length: n }, (_, i) => ({ at: i * apart, key: 36, velocity: 90 }));
  const code = (list: readonly FreeStroke[]) => {
    try {
      findBeats(list);
      return 'none';
    } catch (e) {
      return (e as { code: string }).code;
    }
  };
  expect(code(strokes(FEWEST_STROKES - 1, 0.5))).toBe('too-few-strokes');
  expect(code(strokes(FEWEST_STROKES, 0.5))).toBe('none');
  expect(code(strokes(MOST_STROKES + 1, 0.001))).toBe('too-many-strokes');
  expect(code(strokes(16, 600))).toBe('take-too-long');
  // All at one moment, and further apart than any beat.
  expect(code(strokes(20, 0))).toBe('none');
  expect(code(strokes(20, 5))).toBe('none');
});

test('takes that drift by up to 8 %, in ten styles: beats, octave, meter and downbeat', () => {
  const takes = Array.from({ length: 40 }, (_, i) => freeTake(i + 1, { bars: 8 + (i % 9) }));
  const found = takes.map((take) => {
    const rights = findBeats(take.strokes)!.map((r) => rightness(take, r));
    return { ...rights[0]!, three: rights.some((r) => r.octave && r.meter && r.downbeat) };
  });
  const share = (of: (r: (typeof found)[number]) => boolean) => found.filter(of).length / found.length;
  const mean = found.reduce((sum, r) => sum + r.f, 0) / found.length;
  expect(mean).toBeGreaterThanOrEqual(0.97);
  expect(share((r) => r.octave)).toBeGreaterThanOrEqual(0.93);
  expect(share((r) => r.meter)).toBeGreaterThanOrEqual(0.93);
  expect(share((r) => r.downbeat)).toBeGreaterThanOrEqual(0.93);
  expect(share((r) => r.three)).toBeGreaterThanOrEqual(0.95);
});
