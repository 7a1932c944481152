import { seconds } from '../units';
import { renderTones } from './tones';

const rate = 8000;
const tone = (start: number, length: number, key: number, velocity = 100) => ({
  start: seconds(start),
  length: seconds(length),
  key,
  velocity,
});
const level = (samples: Float32Array, from: number, until: number) =>
  Math.sqrt(samples.slice(from * rate, until * rate).reduce((sum, x) => sum + x * x, 0) / ((until - from) * rate));

test('a tone has its pitch, and is silent before it and once it has ended', () => {
  const made = renderTones([tone(0.5, 0.5, 57)], rate, 2);
  expect([level(made, 0, 0.49), level(made, 1.1, 2)]).toEqual([0, 0]);
  // 220 Hz rises through zero 220 times a second.
  let rises = 0;
  for (let i = 0.6 * rate; i < 0.9 * rate; i++) if (made[i]! < 0 && made[i + 1]! >= 0) rises++;
  expect(Math.abs(rises - 66)).toBeLessThanOrEqual(1);
});

test('harder is louder; several sound together; what is too high for the rate is left out', () => {
  const at = (velocity: number) => level(renderTones([tone(0, 1, 60, velocity)], rate, 1), 0.1, 0.9);
  expect(at(120)).toBeGreaterThan(at(60) * 2);
  const both = renderTones([tone(0, 1, 60), tone(0, 1, 67)], rate, 1);
  const apart = [renderTones([tone(0, 1, 60)], rate, 1), renderTones([tone(0, 1, 67)], rate, 1)];
  expect(Math.max(...both.map((x, i) => Math.abs(x - apart[0]![i]! - apart[1]![i]!)))).toBeLessThan(1e-6);
  expect(level(renderTones([tone(0, 1, 127)], rate, 1), 0, 1)).toBe(0);
});
