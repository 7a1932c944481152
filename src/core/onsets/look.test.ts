import { randomStream } from '../random';
import { Looker, LOOK_SIZE } from './look';
import { runNet } from './stroke-net';

const RATE = 44_100;
const random = randomStream(4);
/** A second of faint noise with a burst in its midst. */
const sound = Float32Array.from(
  { length: RATE },
  (_, i) => (random() - 0.5) * (i < RATE / 2 ? 0.01 : 0.01 + 0.8 * Math.exp((RATE / 2 - i) / 2000)),
);
const place = { at: 0.5, previous: 0.2, next: 0.9 };
const lookAt = (mono: Float32Array, rate = RATE) => new Looker(mono, rate).look(place);

test('a look is the same at any loudness, which it tells apart', () => {
  const [loud, soft] = [lookAt(sound), lookAt(sound.map((x) => x / 10))];
  expect(loud.values).toHaveLength(LOOK_SIZE);
  expect(loud.total - soft.total).toBeCloseTo(20, 2);
  loud.values.forEach((v, i) => expect(soft.values[i]).toBeCloseTo(v, 2));
});

test('the loudness of a look is the mean power of what is struck, by a window that falls', () => {
  // A sine of amplitude 1 has half the power of 1: -3 dB.
  expect(lookAt(Float32Array.from({ length: RATE }, (_, i) => Math.sin((2 * Math.PI * 1000 * i) / RATE))).total).toBeCloseTo(-3.01, 1);
});

test('at the edges of a sound, in silence and at any rate a look has numbers', () => {
  for (const rate of [4000, 22_050, 96_000, 384_000]) {
    const mono = Float32Array.from({ length: rate }, (_, i) => Math.sin(i));
    for (const at of [0, 0.999])
      expect(new Looker(mono, rate).look({ at, previous: -1, next: 1 }).values.every((v) => Number.isFinite(v) && Math.abs(v) < 10)).toBe(
        true,
      );
  }
  const silent = lookAt(new Float32Array(RATE));
  expect([...silent.values].every(Number.isFinite)).toBe(true);
});

test('what cuts a stroke off is told', () => {
  const cut = new Looker(sound, RATE).look({ ...place, next: 0.53 });
  expect([...lookAt(sound).values.slice(-3)]).toEqual([0, 0, 0]);
  expect([...cut.values.slice(-3)]).toEqual([1, 1, 1]);
  // After 110 ms it was seen ringing, but not how it rings on.
  expect([...new Looker(sound, RATE).look({ ...place, next: 0.61 }).values.slice(-3)]).toEqual([0, 1, 0]);
});

test('a net by hand: a constant and weights, a hyperbolic tangent, a constant and weights', () => {
  const layers = [
    [
      [2, 0, 4],
      [0, 2, -2],
    ],
    [
      [2, 4, 0],
      [0, 2, 2],
    ],
  ];
  const [a, b] = [Math.tanh(1 + 2 * 0.25), Math.tanh(0.5 - 0.25)];
  const said = runNet(layers, 0.5, [0.5, 0.25]);
  expect(said[0]).toBeCloseTo(1 + 2 * a, 12);
  expect(said[1]).toBeCloseTo(a + b, 12);
});
