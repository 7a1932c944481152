import type { VoiceName } from '../../row-names';
import type { Layer, ModesLayer, NoiseLayer, Pair, Recipe } from '../recipe';

/** Beacon: a small electronic set: falling tones, noise, clusters of squares. */

const sine = (hz: number, t60: number, semitones: number, seconds: number, level = 1): ModesLayer => ({
  kind: 'modes',
  hz,
  modes: [
    [1, 1],
    [2, 0.06],
    [3, 0.05],
  ],
  t60,
  damping: 0.6,
  contact: [0.9, 0.3],
  glide: { semitones, seconds },
  level,
});
const noise = (
  filter: NoiseLayer['filter'],
  hz: number,
  q: number,
  t60: number,
  level: number,
  more: Partial<NoiseLayer> = {},
): NoiseLayer => ({ kind: 'noise', filter, hz, q, t60, level, ...more });
const click = (hz: number, level: number, force = 0.8): Layer => noise('bandpass', hz, 0.8, 0.02, 0.65 * level, { force });
const recipe = (level: number, tone: Pair, ...layers: Layer[]): Recipe => ({ layers, tone, level });
const blip = (
  hz: number,
  t60: number,
  level: number,
  ratios: readonly (readonly [number, number])[] = [
    [1, 1],
    [1.48, 0.7],
  ],
): Recipe =>
  recipe(
    level,
    [hz * 0.7, 15_000],
    { kind: 'modes', hz, modes: ratios, t60, damping: 0.4, contact: [0.8, 0.2], level: 1 },
    click(Math.min(9000, hz * 4), 0.25),
  );
const metal = (hz: number, highpass: number, t60: number, level: number, more: { attack?: number; air?: number } = {}): Recipe =>
  recipe(
    level,
    [Math.max(1300, highpass * 0.4), 18_000],
    { kind: 'cluster', hz, highpass, t60, level: 1, ...(more.attack ? { attack: more.attack } : {}) },
    noise('highpass', Math.max(highpass, 6000), 0.7, t60 * 0.8, more.air ?? 0.12, {
      force: 0.6,
      ...(more.attack ? { attack: more.attack } : {}),
    }),
  );
const plateOf = (from: number, t60: number, late: number, air: number): Layer => ({
  kind: 'plate',
  from,
  to: 15_500,
  spacing: 33,
  jitter: 0.6,
  t60,
  fall: 0.5,
  contact: [0.55, 0.16],
  slope: 0.1,
  late,
  rise: 0.035,
  air,
  level: 0.1,
});
const tom = (hz: number, t60: number, level: number): Recipe =>
  recipe(level, [hz * 5, 9500], sine(hz, t60, 8, 0.022), click(1800, 3, 0.45), noise('bandpass', hz * 5, 1, 0.09, 0.1, { force: 0.5 }));
const hand = (hz: number, t60: number, level: number, slap: number): Recipe =>
  recipe(level, [hz * 1.4, 9500], sine(hz, t60, 3, 0.02), click(slap, 2.8, 0.9));
const teeth = (length: number, count: number): number[] => Array.from({ length: count }, (_, i) => (i / count) * length);
const CLAPS = [0, 0.011, 0.021, 0.03];
const snare = (hz: number, level: number, change: { noise?: number; t60?: number; click?: number; body?: number } = {}): Recipe =>
  recipe(
    level,
    [3900, 16_000],
    {
      ...sine(hz, 0.2, 4, 0.02, change.body ?? 1),
      modes: [
        [1, 1],
        [1.83, 0.6],
      ],
      contact: [0.6, 0.5],
    },
    { kind: 'wires', t60: [change.t60 ?? 0.26, 0.12], head: 0.9, open: -5, level: 0.5 * (change.noise ?? 1) },
    click(4200, 0.45 * (change.click ?? 1), 0.4),
  );

export const BEACON: Readonly<Record<VoiceName, Recipe>> = {
  kick: recipe(-13, [420, 8500], sine(46, 0.75, 26, 0.022), click(2300, 1.6, 0.45)),
  snare: snare(178, -18),
  'snare-rimshot': snare(262, -18.5, { click: 1.8, noise: 0.7, t60: 0.18 }),
  'snare-edge': snare(331, -20, { noise: 0.5, t60: 0.34, click: 2 }),
  'snare-sweep': recipe(
    -24,
    [1900, 14_000],
    noise('bandpass', 4600, 0.8, 0.4, 1, { attack: 0.1 }),
    noise('highpass', 8500, 0.7, 0.25, 0.4, { attack: 0.08, force: 0.8 }),
  ),
  rim: blip(492, 0.05, -23, [
    [1, 0.6],
    [3.42, 1],
    [5.1, 0.5],
  ]),
  clap: recipe(
    -19,
    [1700, 15_000],
    noise('bandpass', 1050, 1.6, 0.03, 1, { bursts: CLAPS }),
    noise('bandpass', 1150, 1, 0.35, 0.3, { attack: 0.03 }),
    noise('highpass', 4200, 0.7, 0.05, 0.4, { bursts: CLAPS, force: 0.7 }),
  ),
  'hat-closed': metal(540, 7400, 0.16, -24),
  'hat-shoulder': metal(430, 4300, 0.22, -22),
  'hat-half': metal(560, 6300, 0.55, -22, { air: 0.25 }),
  'hat-open': metal(590, 6900, 1.1, -20, { air: 0.06 }),
  'hat-pedal': metal(350, 3000, 0.12, -26, { attack: 0.006 }),
  'hat-splash': metal(390, 3600, 0.6, -23, { attack: 0.03, air: 0.3 }),
  ride: recipe(-22, [3200, 17_000], plateOf(240, 3.6, 2.2, 0.4), {
    kind: 'cluster',
    hz: 640,
    highpass: 3500,
    t60: 0.9,
    attack: 0.02,
    level: 0.12,
  }),
  'ride-edge': recipe(-20, [2500, 15_000], plateOf(160, 4, 2.6, 0.4), { kind: 'cluster', hz: 410, highpass: 1500, t60: 1.4, level: 0.3 }),
  'ride-bell': recipe(
    -21,
    [900, 16_000],
    {
      kind: 'modes',
      hz: 1020,
      modes: [
        [1, 0.7],
        [1.51, 0.8],
        [2.74, 0.8],
        [4.3, 0.7],
        [6.1, 0.5],
      ],
      t60: 1.5,
      damping: 0.3,
      contact: [2.1, 0.14],
      level: 1,
    },
    click(5200, 0.4),
  ),
  crash: recipe(-17, [2900, 17_000], plateOf(180, 3.4, 2.6, 0.8), noise('highpass', 3800, 0.7, 1.4, 0.15, { attack: 0.05, force: 0.4 })),
  splash: recipe(-21, [3300, 17_000], plateOf(900, 1, 1.2, 0.8), noise('bandpass', 6500, 0.8, 0.5, 0.6, { force: 0.4 })),
  china: metal(262, 1100, 1.7, -19, { air: 0.35 }),
  'tom-high': tom(196, 0.5, -17),
  'tom-mid': tom(139, 0.6, -16.5),
  'tom-low': tom(110, 0.7, -16),
  'tom-floor': tom(85, 0.85, -15.5),
  'tom-rim': blip(705, 0.09, -21, [
    [1, 1],
    [2.2, 0.8],
    [3.7, 0.4],
  ]),
  tambourine: metal(1250, 8600, 0.26, -24, { air: 0.6 }),
  shaker: recipe(
    -26,
    [3200, 16_000],
    noise('bandpass', 5600, 0.9, 0.09, 1, { attack: 0.025 }),
    noise('highpass', 9000, 0.7, 0.05, 0.3, { attack: 0.02, force: 0.8 }),
  ),
  cabasa: recipe(
    -25,
    [4600, 17_000],
    noise('bandpass', 8900, 2.4, 0.05, 1, { bursts: [0, 0.016, 0.031] }),
    noise('highpass', 10_500, 0.7, 0.04, 0.4, { bursts: [0, 0.016, 0.031], force: 0.8 }),
  ),
  maracas: recipe(-25, [2500, 15_000], noise('bandpass', 3900, 1.8, 0.04, 1), noise('highpass', 7000, 0.7, 0.03, 0.3, { force: 0.8 })),
  cowbell: recipe(
    -21,
    [1300, 12_000],
    {
      kind: 'modes',
      hz: 545,
      modes: [
        [1, 1],
        [1.476, 0.95],
        [3, 0.3],
        [4.43, 0.3],
        [5, 0.15],
      ],
      t60: 0.38,
      damping: 0.15,
      contact: [0.8, 0.25],
      level: 1,
    },
    click(2600, 0.3),
  ),
  'agogo-high': blip(1110, 0.35, -21, [
    [1, 1],
    [2, 0.4],
    [3.01, 0.3],
    [5.2, 0.2],
  ]),
  'agogo-low': blip(742, 0.4, -21, [
    [1, 1],
    [2, 0.4],
    [3.01, 0.3],
    [5.2, 0.2],
  ]),
  triangle: blip(2350, 2.2, -25, [
    [1, 0.6],
    [1.5, 1],
    [2.26, 0.9],
    [3.4, 0.7],
  ]),
  'triangle-mute': blip(2350, 0.14, -27, [
    [1, 0.8],
    [1.5, 1],
    [2.26, 0.6],
  ]),
  claves: blip(2790, 0.09, -24, [
    [1, 1],
    [2.02, 0.15],
  ]),
  'block-high': blip(1180, 0.08, -23, [
    [1, 1],
    [2.61, 0.5],
    [4.7, 0.2],
  ]),
  'block-low': blip(832, 0.1, -23, [
    [1, 1],
    [2.61, 0.5],
    [4.7, 0.2],
  ]),
  'guiro-short': recipe(
    -25,
    [1700, 15_000],
    noise('bandpass', 1950, 2.2, 0.015, 1, { bursts: teeth(0.08, 9) }),
    noise('highpass', 5000, 0.7, 0.01, 0.5, { bursts: teeth(0.08, 9), force: 0.7 }),
  ),
  'guiro-long': recipe(
    -22,
    [1200, 13_000],
    noise('bandpass', 1650, 2, 0.015, 1, { bursts: teeth(0.3, 32) }),
    noise('highpass', 3600, 0.7, 0.01, 0.3, { bursts: teeth(0.3, 32), force: 0.7 }),
  ),
  vibraslap: recipe(
    -22,
    [2000, 14_000],
    noise('bandpass', 3050, 2.5, 0.045, 1, { bursts: Array.from({ length: 22 }, (_, i) => i * 0.03) }),
    noise('highpass', 6000, 0.7, 0.02, 0.3, { bursts: Array.from({ length: 22 }, (_, i) => i * 0.03), force: 0.7 }),
  ),
  'whistle-short': recipe(
    -22,
    [3000, 14_000],
    { kind: 'waver', from: 3050, to: 3000, rate: 40, depth: 0.05, seconds: 0.12, attack: 0.008, level: 1 },
    noise('highpass', 6000, 0.7, 0.15, 0.15, { force: 0.7 }),
  ),
  'whistle-long': recipe(
    -19,
    [2600, 13_000],
    { kind: 'waver', from: 2500, to: 2300, rate: 24, depth: 0.06, seconds: 0.4, attack: 0.01, level: 1 },
    noise('highpass', 5000, 0.7, 0.5, 0.12, { force: 0.7 }),
  ),
  'cuica-mute': recipe(
    -23,
    [700, 7000],
    { kind: 'waver', from: 560, to: 680, rate: 30, depth: 0.03, seconds: 0.08, attack: 0.01, level: 1 },
    noise('bandpass', 2000, 1, 0.07, 0.1, { force: 0.6 }),
  ),
  'cuica-open': recipe(
    -20,
    [850, 8000],
    { kind: 'waver', from: 900, to: 480, rate: 26, depth: 0.03, seconds: 0.24, attack: 0.018, level: 1 },
    noise('bandpass', 2500, 1, 0.2, 0.1, { force: 0.6 }),
  ),
  'bongo-high': hand(440, 0.16, -20, 3600),
  'bongo-low': hand(311, 0.2, -19.5, 3000),
  'conga-mute': hand(285, 0.08, -21, 1500),
  'conga-high': hand(242, 0.3, -18.5, 2300),
  'conga-low': hand(171, 0.42, -18, 1300),
  'timbale-high': recipe(
    -18,
    [1500, 13_000],
    sine(372, 0.4, 3, 0.02),
    { kind: 'cluster', hz: 810, highpass: 2000, t60: 0.25, level: 0.3 },
    click(3800, 2.2, 0.9),
  ),
  'timbale-low': recipe(
    -18,
    [1100, 12_000],
    sine(270, 0.45, 3, 0.02),
    { kind: 'cluster', hz: 590, highpass: 2300, t60: 0.28, level: 0.3 },
    click(3100, 2.2, 0.9),
  ),
};
