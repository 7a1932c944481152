import { brightnessOfVelocity, gainOfVelocity, Mixer } from '../playback/mixer';
import { VOICES } from '../voices';
import { renderVoice } from './render';
import { voicesEndedBy } from './recipes';

const RATE = 22_050;
const sounds = new Map(VOICES.map((v) => [v, renderVoice(v, RATE)]));

/** Power in six octave bands (by differences of one-pole low-passes) and decay: enough to tell sounds apart. */
function features(samples: Float32Array): number[] {
  const corners = [120, 300, 700, 1600, 3600, 8000];
  const states = corners.map(() => 0);
  const power = [...corners, 0].map(() => 0);
  let half = 0;
  let total = 0;
  samples.forEach((s, i) => {
    let above = s;
    corners.forEach((hz, b) => {
      states[b]! += (s - states[b]!) * (1 - Math.exp((-2 * Math.PI * hz) / RATE));
      const band = states[b]! - (b > 0 ? states[b - 1]! : 0);
      power[b]! += band * band;
      above = s - states[b]!;
    });
    power[corners.length]! += above * above;
    total += s * s;
    half += s * s * (i / RATE);
  });
  return [...power.map((p) => Math.log10(p / total + 1e-6)), 2 * Math.log10(half / total + 1e-4)];
}

test('every voice sounds, starts at once, ends in silence and does not clip', () => {
  for (const [voice, samples] of sounds) {
    let peak = 0;
    for (const s of samples) peak = Math.max(peak, Math.abs(s));
    expect([voice, peak > 0.2 && peak <= 1]).toEqual([voice, true]);
    expect(Math.abs(samples[0]!)).toBeGreaterThan(0);
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.02);
    expect(samples.every(Number.isFinite)).toBe(true);
  }
});

test('all voices are distinct', () => {
  const list = [...sounds].map(([voice, s]) => [voice, features(s)] as const);
  const alike: string[] = [];
  list.forEach(([a, fa], i) =>
    list.slice(i + 1).forEach(([b, fb]) => {
      if (Math.hypot(...fa.map((x, k) => x - fb[k]!)) < 0.12) alike.push(`${a} ~ ${b}`);
    }),
  );
  expect(alike).toEqual([]);
});

test('a voice is the same at each rendering; unmapped keys have a sound of their own', () => {
  const same = (a: Float32Array, b: Float32Array): boolean => a.length === b.length && a.every((x, i) => x === b[i]);
  expect(same(renderVoice('snare', RATE), sounds.get('snare')!)).toBe(true);
  expect(same(renderVoice('key-20', RATE), renderVoice('key-21', RATE))).toBe(false);
});

/** Renders one stroke. */
function stroke(voice: string, velocity: number): Float32Array {
  const mixer = new Mixer(RATE, [{ samples: sounds.get(voice)!, ends: [] }]);
  mixer.volume = 1;
  mixer.start(0, velocity, 0);
  const left = new Float32Array(4096);
  mixer.render(left, new Float32Array(4096));
  return left;
}
const energy = (s: Float32Array): number => s.reduce((sum, x) => sum + x * x, 0);
/** Share of energy in differences of neighbours: rises with brightness. */
const brightness = (s: Float32Array): number => s.reduce((sum, x, i) => sum + (i > 0 ? (x - s[i - 1]!) ** 2 : 0), 0) / energy(s);

test('a harder stroke is louder and brighter, at every step', () => {
  for (const voice of ['snare', 'hat-closed', 'kick', 'crash']) {
    const steps = [20, 50, 80, 110, 127].map((v) => stroke(voice, v));
    for (let i = 1; i < steps.length; i++) {
      expect(energy(steps[i]!)).toBeGreaterThan(energy(steps[i - 1]!));
      expect(brightness(steps[i]!)).toBeGreaterThan(brightness(steps[i - 1]!));
    }
  }
  expect(gainOfVelocity(127)).toBe(1);
  expect(brightnessOfVelocity(0)).toBe(900);
});

test('closed and pedal hats end the open one within ten milliseconds', () => {
  expect(voicesEndedBy('hat-closed')).toContain('hat-open');
  expect(voicesEndedBy('hat-pedal')).toContain('hat-open');
  const tail = (choked: boolean): number => {
    const mixer = new Mixer(RATE, [{ samples: sounds.get('hat-open')!, voice: 'hat-open', ends: [] }, { samples: Float32Array.of(0, 0), ends: ['hat-open'] }]);
    mixer.start(0, 120, 0);
    const left = new Float32Array(RATE / 50);
    mixer.render(left, new Float32Array(left.length));
    if (choked) mixer.start(1, 100, 0);
    mixer.render(left, new Float32Array(left.length));
    return energy(left.slice(RATE / 100));
  };
  expect(tail(false)).toBeGreaterThan(0.01);
  expect(tail(true)).toBe(0);
});

test('a full orchestra stays within full scale', () => {
  const mixer = new Mixer(RATE, [...sounds.values()].map((samples) => ({ samples, ends: [] })));
  VOICES.forEach((_, i) => mixer.start(i, 127, 0));
  const left = new Float32Array(2048);
  mixer.render(left, new Float32Array(2048));
  expect(Math.max(...left.map(Math.abs))).toBeLessThanOrEqual(1);
});
