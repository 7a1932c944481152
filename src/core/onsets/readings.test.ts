import { normalStream, randomStream } from '../random';
import { seconds } from '../units';
import type { DetectedOnset } from './onsets';
import { readingFor } from './part-of-strokes';
import { readingsOf, type LoopReading } from './readings';

/** Strokes at places of a bar, in quarters, for some bars; nobody plays to the millisecond. */
function played(
  places: readonly number[],
  {
    bpm,
    bars,
    bar,
    beat = 1,
    wavering = 0,
    seed = 1,
  }: { bpm: number; bars: number; bar: number; beat?: number; wavering?: number; seed?: number },
): DetectedOnset[] {
  const normal = normalStream(randomStream(seed));
  const at = Array.from({ length: bars }, (_, b) => places.map((p) => ((b * bar + p) * 60) / bpm)).flat();
  return at.map((t, i): DetectedOnset => ({
    seconds: seconds(i === 0 ? 0 : t + wavering * normal()),
    strength: places[i % places.length]! % beat === 0 ? 1 : 0.6,
  }));
}

const eighths = Array.from({ length: 8 }, (_, i) => i / 2);

test.each([72, 92, 96, 104, 113, 128])('two bars at %d, played by hand, are read at this very tempo', (bpm) => {
  const readings = [1, 2, 3, 4, 5].map((seed) => readingsOf(played(eighths, { bpm, bars: 2, bar: 4, wavering: 0.004, seed }), 9));
  expect(readings.filter((all) => all.some((r) => r.bpm === bpm && r.bars === 2)).length).toBeGreaterThanOrEqual(4);
});

test('a tempo that is not whole stays what it is, where its strokes tell it from whole ones', () => {
  // 96.4 for eight bars parts from 96 by 80 ms, 108.6 from 109 by 64.
  for (const bpm of [96.4, 108.6])
    expect(readingsOf(played(eighths, { bpm, bars: 8, bar: 4, wavering: 0.002 }), 30)[0]!.bpm).toBeCloseTo(bpm, 1);
});

test('eighths in threes, cut after three bars, are bars of three quarters', () => {
  // A dotted quarter, at 80 a minute, is what is counted; 120 quarters a minute are what is meant.
  const readings = readingsOf(played([0, 0.5, 1, 1.5, 2, 2.5], { bpm: 120, bars: 3, bar: 3, beat: 1.5 }), 4.5);
  for (const {
    bars,
    meter: [numerator, denominator],
    bpm,
  } of readings.filter((r) => r.meter[1] === 8))
    expect((bars * numerator * 4 * 60) / denominator / bpm).toBeCloseTo(4.5, 6);
  expect(readings.some((r) => r.meter[1] === 8)).toBe(true);
});

describe('a reading for bars that are known', () => {
  const reading = (bars: number, bpm: number, meter: LoopReading['meter'] = [4, 4]): LoopReading => ({
    bars,
    meter,
    bpm,
    firstDownbeat: seconds(0),
  });
  const asked = (readings: LoopReading[], length: number, bars: number, meter: LoopReading['meter'] = [4, 4]) =>
    readingFor(readings, length, { bars, meter, firstDownbeat: 0 }).bpm;

  test('a sound that was cut at its bars has the tempo of its length, to the last digit', () => {
    // Two bars of 7/8 at 132: 7 quarters, 3.1818 s. Strokes alone said 131.87.
    expect(asked([reading(2, 131.87)], (7 * 60) / 132, 2, [7, 8])).toBeCloseTo(132, 9);
    expect(asked([], 4, 2)).toBe(120);
  });

  test('where it rings on, strokes tell it: also as half, double, or by dotted quarters', () => {
    expect(asked([reading(2, 120)], 5.5, 2)).toBe(120);
    expect(asked([reading(1, 60)], 5.5, 2)).toBe(120);
    expect(asked([reading(4, 240)], 5.5, 2)).toBe(120);
    // Four bars of 12/8, 24 quarters at 150, were heard as 16 at 100.
    expect(asked([reading(4, 100)], 11.5, 4, [12, 8])).toBe(150);
  });
});

test('sixteenths all through are not taken for triplets of a faster beat', () => {
  const sixteenths = Array.from({ length: 16 }, (_, i) => i / 4);
  for (const bpm of [76, 80, 84, 92]) {
    const [first] = readingsOf(played(sixteenths, { bpm, bars: 2, bar: 4, wavering: 0.004 }), 30);
    expect([bpm, 2 * bpm]).toContain(first!.bpm);
  }
});

test('a pattern that comes again tells half a bar from a third of it', () => {
  // Eighths in threes, with the backbeat of four: 100 a minute, not 150.
  const shuffle = [0, 2 / 3, 1, 5 / 3, 2, 8 / 3, 3, 11 / 3];
  for (const bpm of [88, 100, 116])
    expect([bpm, bpm / 2]).toContain(readingsOf(played(shuffle, { bpm, bars: 2, bar: 4, wavering: 0.004 }), 12)[0]!.bpm);
});
