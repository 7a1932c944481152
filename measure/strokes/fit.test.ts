import { LOOK_SIZE } from '@/core/onsets/look';
import { SOUNDS } from '@/core/onsets/stroke-net';
import { randomStream } from '@/core/random';
import { beatOf } from './beats';
import type { Example } from './examples';
import { fitNet, scoreNet } from './fit';
import { plainDrums } from './plain-drums';

const random = randomStream(3);
/** A sound is struck where its number is over 0; how loud and how late it is, is said by the numbers behind. */
const examples = Array.from({ length: 600 }, (): Example => {
  const values = Float32Array.from({ length: LOOK_SIZE }, () => random() * 2 - 1);
  return {
    seed: 1,
    kit: 'plain',
    values,
    truth: SOUNDS.map((_, k) => (values[k]! > 0 ? { loud: values[10 + k]!, late: values[20 + k]! } : null)),
  };
});

test('what examples say is learnt, and the same twice', () => {
  const net = fitNet(examples, 400);
  for (const { f, loud, late } of scoreNet(net, examples)) expect([f > 0.95, loud[0] < 0.2, late[0] < 0.3]).toEqual([true, true, true]);
  expect(fitNet(examples.slice(0, 50), 20)).toEqual(fitNet(examples.slice(0, 50), 20));
});

test('a beat and its drums are decided by their seed', () => {
  expect(beatOf(7)).toEqual(beatOf(7));
  expect(beatOf(7)).not.toEqual(beatOf(8));
  const sound = (seed: number) => plainDrums(seed)('snare')(0.8);
  expect(sound(3)).toEqual(sound(3));
  expect(sound(3)).not.toEqual(sound(4));
  for (const voice of ['kick', 'snare', 'hat-open', 'tom-low', 'ride', 'clap', 'cowbell'])
    expect(plainDrums(5)(voice)(1).every(Number.isFinite)).toBe(true);
});
