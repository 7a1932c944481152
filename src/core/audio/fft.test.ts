import { randomStream } from '../random';
import { Fft } from './fft';

test.each([2, 4, 8, 64, 256])('two real frames of %i at once have the magnitudes of a plain sum', (size) => {
  const random = randomStream(size);
  const frames = [0, 1].map(() => Float64Array.from({ length: size }, () => random() * 2 - 1)) as [Float64Array, Float64Array];
  const out = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)] as const;
  new Fft(size).magnitudesOfTwo(frames[0], frames[1], out[0], out[1]);
  frames.forEach((frame, n) => {
    for (let k = 0; k <= size / 2; k++) {
      let [re, im] = [0, 0];
      frame.forEach((x, i) => {
        re += x * Math.cos((2 * Math.PI * k * i) / size);
        im -= x * Math.sin((2 * Math.PI * k * i) / size);
      });
      expect(out[n]![k]).toBeCloseTo(Math.hypot(re, im), 9);
    }
  });
});

test('a size that is no power of two is refused', () => {
  expect(() => new Fft(12)).toThrow(RangeError);
});
