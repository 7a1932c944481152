import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { placeLines } from '../perform/line-places';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '../units';
import { strokesHeld } from './held-strokes';

const loop = { start: ticks(0), end: ticks(4 * TICKS_PER_QUARTER) };
const straight = smallPart([], { bars: 1 });
const swung = { ...straight, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing' as const, division: '1/16' as const, percent: 60 }] } };
const lines = (part: typeof straight) => (row: string, at: readonly Ticks[]) => placeLines(part, row, at);

test('held from a moment on, it strikes on each line to come, round the loop', () => {
  // At 120 an eighth is 250 ms.
  expect(strokesHeld(straight, loop, '1/8', 'snare', 0.1, 1, lines(straight))).toEqual([0.25, 0.5, 0.75, 1]);
  expect(strokesHeld(straight, loop, '1/4', 'snare', 1.6, 3.1, lines(straight))).toEqual([2, 2.5, 3]);
});

test('as swung, to the sample: a second sixteenth at 60 % stands 60 % into its pair', () => {
  const rate = 44_100;
  const at = strokesHeld(swung, loop, '1/16', 'hat-closed', -0.01, 0.9, lines(swung)).map((s) => Math.round(s * rate));
  // Pairs of 250 ms: 0 and 150 ms.
  expect(at).toEqual([0, 0.15, 0.25, 0.4, 0.5, 0.65, 0.75, 0.9].map((s) => Math.round(s * rate)));
});

test('asked piece by piece it strikes as asked at once, each line once', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.001, max: 0.7, noNaN: true }), { minLength: 1, maxLength: 20 }),
      fc.constantFrom('1/8' as const, '1/16' as const, '1/8T' as const),
      fc.boolean(),
      (steps, grid, isSwung) => {
        const part = isSwung ? swung : straight;
        let from = 0.03;
        const pieces: number[] = [];
        for (const step of steps) {
          pieces.push(...strokesHeld(part, loop, grid, 'snare', from, from + step, lines(part)));
          from += step;
        }
        const whole = strokesHeld(part, loop, grid, 'snare', 0.03, from, lines(part));
        expect(pieces.map((s) => Math.round(s * 1e6))).toEqual(whole.map((s) => Math.round(s * 1e6)));
      },
    ),
  );
});
