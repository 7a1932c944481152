import { bpm } from '@/core/units';
import { leanWords, meetingWords, stepName, verdictWords } from './words';

test('steps are counted in quarters, in eighths where the meter has them, bars in front from the second on', () => {
  const names = (meter: readonly [number, number], stepsPerBeat: number, indices: number[]) =>
    indices.map((i) => stepName({ meter, stepsPerBeat }, i));
  expect(names([4, 4], 4, [0, 1, 6, 15, 16, 19])).toEqual(['1', '1 e', '2 &', '4 a', '2.1', '2.1 a']);
  expect(names([4, 4], 2, [1, 2])).toEqual(['1 &', '2']);
  expect(names([4, 4], 3, [1, 5])).toEqual(['1 2nd', '2 3rd']);
  expect(names([7, 8], 4, [0, 1, 2, 13])).toEqual(['1', '1 &', '2', '7 &']);
  expect(names([6, 8], 2, [0, 3, 6])).toEqual(['1', '4', '2.1']);
  expect(names([4, 4], 6, [7])).toEqual(['2 +1/6']);
});

test('leans in percent and ms', () => {
  // 12 % of a sixteenth at 100 BPM: 0.12 x 150 ms.
  expect(leanWords(0.12, 4, bpm(100))).toBe('12 % late, 18.0 ms');
  expect(leanWords(-0.05, 2, bpm(120))).toBe('5 % early, 12.5 ms');
  expect(leanWords(0, 4, bpm(100))).toBe('on the grid');
});

test('meetings and verdicts say what happens', () => {
  expect(meetingWords({ kind: 'same', groove: 4, bar: 4, bars: 1 })).toBe('');
  expect(meetingWords({ kind: 'restarts', groove: 3, bar: 4, bars: 1 })).toBe(
    'The groove lasts 3 quarters, a bar of this part 4 quarters: each bar starts it again, and its beginning fills up the bar.',
  );
  expect(meetingWords({ kind: 'divides', groove: 1, bar: 4, bars: 1 })).toContain(
    '1 quarter, a bar of this part 4 quarters: it repeats 4 times',
  );
  expect(verdictWords('none', 'none')).toMatch(/^Nothing to extract: every hit is/);
  expect(verdictWords('scatter', 'scatter')).toMatch(/^Nothing to extract: the hits vary/);
  expect(verdictWords('none', 'habit')).toMatch(/levels can be extracted/);
  expect(verdictWords('few', 'none')).toMatch(/^Too few/);
});
