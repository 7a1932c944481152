import { seconds } from '../units';
import { gainsOfPan, Mixer, oneTake, PLAIN, type Colour } from './mixer';

const RATE = 44_100;
const FRAMES = 8192;

/** A sound of one steady tone, and noise-like one of alternating samples. */
const tone = Float32Array.from({ length: FRAMES }, (_, i) => Math.sin((2 * Math.PI * 441 * i) / RATE));

function rendered(
  colour: Partial<Colour>,
  then?: (mixer: Mixer) => void,
  velocity = 127,
  samples = tone,
): { left: Float32Array; right: Float32Array } {
  const mixer = new Mixer(RATE, [oneTake(samples)], { limited: false });
  mixer.volume = 0.5;
  mixer.start(0, velocity, 0, { ...PLAIN, ...colour });
  then?.(mixer);
  const left = new Float32Array(FRAMES);
  const right = new Float32Array(FRAMES);
  mixer.render(left, right);
  return { left, right };
}

const power = (s: Float32Array): number => s.reduce((sum, v) => sum + v * v, 0) / s.length;
const crossings = (s: Float32Array): number => s.reduce((n, v, i) => n + (i > 0 && v >= 0 !== (s[i - 1] as number) >= 0 ? 1 : 0), 0);

test('pan moves the power from side to side and keeps its sum', () => {
  expect(gainsOfPan(0).left).toBeCloseTo(1, 12);
  for (const pan of [-100, -40, 0, 25, 100]) {
    const { left, right } = gainsOfPan(pan);
    expect(left ** 2 + right ** 2).toBeCloseTo(2, 12);
  }
  const { left, right } = rendered({ pan: 100 }, undefined, 60);
  expect(power(left)).toBeLessThan(1e-12);
  expect(power(right)).toBeGreaterThan(1e-4);
});

test('a sound that lasts so long fades then, and a choke ends it before', () => {
  const held = rendered({ lasts: seconds(0.05) });
  const end = Math.round(0.05 * RATE);
  expect(power(held.left.subarray(0, end))).toBeCloseTo(power(rendered({}).left.subarray(0, end)), 9);
  expect(power(held.left.subarray(end + Math.ceil(0.006 * RATE)))).toBe(0);
  const choked = rendered({ lasts: seconds(0.05) }, (mixer) => mixer.start(0, 100, 441, { ...PLAIN, choke: true }));
  expect(power(choked.left.subarray(441 + Math.ceil(0.006 * RATE)))).toBe(0);
});

test('a stroke ends the ring of the voices it closes, on all of their rows', () => {
  const mixer = new Mixer(
    RATE,
    [
      { ...oneTake(tone), voice: 'hat-open' },
      { ...oneTake(tone), voice: 'hat-open' },
      { ...oneTake(tone), voice: 'ride' },
      { ...oneTake(Float32Array.of(0)), voice: 'hat-closed', ends: ['hat-open'] },
    ],
    { limited: false },
  );
  const [left, right] = [new Float32Array(2048), new Float32Array(2048)];
  for (const [sound, pan] of [
    [0, -100],
    [1, -100],
    [2, 100],
  ] as const)
    mixer.start(sound, 127, 0, { ...PLAIN, pan });
  mixer.start(3, 127, 0);
  mixer.render(left, right);
  expect(power(left.subarray(600))).toBeLessThan(1e-12);
  expect(power(right.subarray(600))).toBeGreaterThan(0.01);
});

test('an octave up is twice the crossings, a plain hit is untouched', () => {
  const plain = rendered({});
  expect(Math.abs(crossings(plain.left) - (2 * 441 * FRAMES) / RATE)).toBeLessThanOrEqual(2);
  const up = rendered({ pitch: 12 });
  // Read twice as fast it is over halfway.
  expect(Math.abs(crossings(up.left.subarray(0, FRAMES / 2)) - (4 * 441 * (FRAMES / 2)) / RATE)).toBeLessThanOrEqual(2);
  expect(power(up.left.subarray(FRAMES / 2 + 4))).toBe(0);
  const exact = new Mixer(RATE, [oneTake(tone)], { limited: false });
  exact.volume = 0.5;
  exact.start(0, 127, 0);
  const l = new Float32Array(FRAMES);
  exact.render(l, new Float32Array(FRAMES));
  expect(l[100]).toBeCloseTo((tone[100] as number) * 0.5, 6);
});

test('brightness lets more or less of the high end through', () => {
  const high = Float32Array.from(tone, (_, i) => Math.sin((2 * Math.PI * 6000 * i) / RATE));
  const [bright, plain, dull] = [100, 0, -100].map((brightness) => power(rendered({ brightness }, undefined, 20, high).left)) as [
    number,
    number,
    number,
  ];
  expect(bright).toBeGreaterThan(plain);
  expect(plain).toBeGreaterThan(dull * 2);
});

test('a choke ends the ring of its own sound and sounds nothing', () => {
  const choked = rendered({}, (m) => m.start(0, 100, 1000, { ...PLAIN, choke: true }));
  expect(power(choked.left.subarray(0, 900))).toBeGreaterThan(0.05);
  // The fade lasts 6 ms, 265 frames.
  expect(power(choked.left.subarray(1000 + 266))).toBe(0);
  const alone = new Mixer(RATE, [oneTake(tone)], { limited: false });
  alone.start(0, 100, 0, { ...PLAIN, choke: true });
  expect(alone.isSilent).toBe(true);
});
