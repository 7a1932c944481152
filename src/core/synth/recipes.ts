import { hashText } from '../random';
import type { VoiceName } from '../voices';
import type { Layer, Recipe } from './recipe';

/** The built-in kit "Wheelhouse": every voice from a few layers, tuned by ear of numbers, no recording anywhere. */

const stick = (frequency: number, level: number): Layer => ({ kind: 'noise', filter: 'bandpass', frequency, q: 1.2, decay: 0.006, level });

const tom = (frequency: number, decay: number): Recipe => ({
  seconds: decay * 3.2,
  peak: 0.85,
  layers: [
    { kind: 'skin', from: frequency * 1.55, to: frequency, fall: 0.035, decay, level: 1, partials: [[1, 1], [1.59, 0.32], [2.14, 0.16]] },
    stick(2600, 0.5),
    { kind: 'noise', filter: 'lowpass', frequency: 900, q: 0.7, decay: 0.05, level: 0.25 },
  ],
});

const handDrum = (frequency: number, decay: number, slap: number): Recipe => ({
  seconds: Math.max(0.15, decay * 3),
  peak: 0.75,
  layers: [
    { kind: 'skin', from: frequency * 1.18, to: frequency, fall: 0.02, decay, level: 1, partials: [[1, 1], [1.52, 0.28], [2.31, 0.12]] },
    stick(slap, 0.6),
  ],
});

const shellDrum = (frequency: number): Recipe => ({
  seconds: 0.9,
  peak: 0.75,
  layers: [
    { kind: 'skin', from: frequency * 1.12, to: frequency, fall: 0.015, decay: 0.2, level: 0.9, partials: [[1, 1], [1.83, 0.6], [2.74, 0.42], [3.9, 0.2]] },
    { kind: 'metal', base: frequency * 3.3, spread: 1.37, partials: 4, highpass: 1400, decay: 0.09, level: 0.25 },
    stick(4200, 0.6),
  ],
});

const bar = (frequency: number, decay: number, second: number): Recipe => ({
  seconds: Math.max(0.12, decay * 4),
  peak: 0.6,
  layers: [{ kind: 'skin', from: frequency * 1.02, to: frequency, fall: 0.01, decay, level: 1, partials: [[1, 1], [second, 0.35]] }, stick(frequency * 2.2, 0.35)],
});

const hat = (decay: number, highpass: number, level: number): Recipe => ({
  seconds: Math.max(0.1, decay * 4),
  peak: level,
  layers: [
    { kind: 'metal', base: 517, spread: 1.311, partials: 9, highpass, decay, level: 0.7 },
    { kind: 'noise', filter: 'highpass', frequency: highpass, q: 0.8, decay: decay * 0.8, level: 0.6 },
    stick(5200, 0.4),
  ],
});

const cymbal = (base: number, decay: number, wash: number, highpass: number): Recipe => ({
  seconds: Math.min(3.5, decay * 3.5),
  peak: 0.7,
  layers: [
    { kind: 'metal', base, spread: 1.233, partials: 14, highpass, decay, level: 0.6 },
    { kind: 'noise', filter: 'highpass', frequency: highpass * 1.3, q: 0.7, decay: decay * 0.7, level: wash, attack: 0.004 },
    stick(3800, 0.35),
  ],
});

const shaken = (frequency: number, q: number, decay: number, attack: number, bursts?: readonly number[]): Recipe => ({
  seconds: Math.max(0.14, decay * 4 + (bursts?.at(-1) ?? 0)),
  peak: 0.5,
  layers: [{ kind: 'noise', filter: 'bandpass', frequency, q, decay, level: 1, attack, ...(bursts ? { bursts } : {}) }],
});

const scrape = (length: number, teeth: number): Recipe => ({
  seconds: length + 0.12,
  peak: 0.5,
  layers: [{ kind: 'noise', filter: 'bandpass', frequency: 3400, q: 2.4, decay: 0.008, level: 1, bursts: Array.from({ length: teeth }, (_, i) => (i / teeth) * length) }],
});

const whistle = (length: number): Recipe => ({
  seconds: length + 0.08,
  peak: 0.45,
  layers: [
    { kind: 'waver', from: 2350, to: 2300, rate: 31, depth: 0.035, decay: length, level: 1, attack: 0.008 },
    { kind: 'noise', filter: 'bandpass', frequency: 2400, q: 4, decay: length * 0.5, level: 0.2, attack: 0.004 },
  ],
});

const RECIPES: Readonly<Record<VoiceName, Recipe>> = {
  kick: {
    seconds: 0.7,
    peak: 0.95,
    layers: [
      { kind: 'skin', from: 168, to: 51, fall: 0.032, decay: 0.17, level: 1, partials: [[1, 1], [1.6, 0.07]] },
      { kind: 'noise', filter: 'bandpass', frequency: 3100, q: 0.9, decay: 0.006, level: 0.75 },
      { kind: 'noise', filter: 'lowpass', frequency: 420, q: 0.7, decay: 0.03, level: 0.35 },
    ],
  },
  snare: {
    seconds: 0.55,
    peak: 0.9,
    layers: [
      { kind: 'skin', from: 262, to: 187, fall: 0.014, decay: 0.085, level: 0.75, partials: [[1, 1], [1.61, 0.5], [2.29, 0.24]] },
      { kind: 'noise', filter: 'highpass', frequency: 1900, q: 0.7, decay: 0.11, level: 0.6 },
      { kind: 'noise', filter: 'bandpass', frequency: 5400, q: 0.8, decay: 0.016, level: 0.7 },
    ],
  },
  'snare-rimshot': {
    seconds: 0.5,
    peak: 0.95,
    layers: [
      { kind: 'skin', from: 320, to: 214, fall: 0.012, decay: 0.07, level: 0.8, partials: [[1, 1], [1.61, 0.7], [2.29, 0.5], [3.5, 0.35]] },
      { kind: 'noise', filter: 'highpass', frequency: 2400, q: 0.7, decay: 0.09, level: 0.55 },
      { kind: 'noise', filter: 'bandpass', frequency: 3100, q: 0.9, decay: 0.012, level: 1 },
    ],
  },
  'snare-edge': {
    seconds: 0.5,
    peak: 0.8,
    layers: [
      { kind: 'skin', from: 300, to: 236, fall: 0.014, decay: 0.11, level: 0.6, partials: [[1, 0.5], [1.61, 1], [2.29, 0.7], [2.92, 0.4]] },
      { kind: 'noise', filter: 'highpass', frequency: 2300, q: 0.7, decay: 0.08, level: 0.45 },
    ],
  },
  'snare-sweep': { seconds: 0.6, peak: 0.5, layers: [{ kind: 'noise', filter: 'bandpass', frequency: 3600, q: 0.6, decay: 0.13, level: 1, attack: 0.07 }] },
  'tom-rim': {
    seconds: 0.25,
    peak: 0.7,
    layers: [{ kind: 'skin', from: 335, to: 322, fall: 0.01, decay: 0.026, level: 0.7, partials: [[1, 1], [2.9, 0.8], [4.4, 0.3]] }, stick(1900, 0.7)],
  },
  rim: {
    seconds: 0.2,
    peak: 0.7,
    layers: [{ kind: 'skin', from: 470, to: 455, fall: 0.01, decay: 0.018, level: 0.7, partials: [[1, 1], [3.74, 0.9], [5.6, 0.3]] }, stick(2500, 0.8)],
  },
  clap: {
    seconds: 0.45,
    peak: 0.75,
    layers: [
      { kind: 'noise', filter: 'bandpass', frequency: 1250, q: 1.3, decay: 0.009, level: 1, bursts: [0, 0.0095, 0.0185, 0.0265] },
      { kind: 'noise', filter: 'bandpass', frequency: 1500, q: 0.8, decay: 0.085, level: 0.4 },
    ],
  },
  'hat-closed': hat(0.035, 7200, 0.55),
  'hat-pedal': hat(0.055, 4300, 0.42),
  'hat-open': hat(0.36, 6600, 0.6),
  'hat-half': hat(0.16, 6100, 0.58),
  'hat-shoulder': hat(0.06, 5200, 0.62),
  'hat-splash': hat(0.22, 4700, 0.48),
  ride: cymbal(443, 0.8, 0.12, 3900),
  'ride-edge': cymbal(470, 1.15, 0.3, 4600),
  'ride-bell': {
    seconds: 2,
    peak: 0.6,
    layers: [
      { kind: 'skin', from: 845, to: 845, fall: 0.01, decay: 0.42, level: 0.7, partials: [[1, 1], [1.49, 0.8], [2.57, 0.55], [4.1, 0.2]] },
      { kind: 'metal', base: 700, spread: 1.29, partials: 8, highpass: 4200, decay: 0.5, level: 0.25 },
      stick(4600, 0.4),
    ],
  },
  crash: cymbal(331, 0.9, 0.75, 2400),
  splash: cymbal(587, 0.22, 0.85, 4200),
  china: cymbal(247, 0.55, 0.95, 1250),
  'tom-high': tom(196, 0.2),
  'tom-mid': tom(147, 0.24),
  'tom-low': tom(112, 0.28),
  'tom-floor': tom(82, 0.34),
  tambourine: shaken(8200, 1.4, 0.055, 0.003, [0, 0.021, 0.038]),
  shaker: shaken(6100, 0.9, 0.04, 0.022),
  cabasa: shaken(7400, 1.8, 0.028, 0.01, [0, 0.012, 0.024]),
  maracas: shaken(5000, 1.1, 0.018, 0.004),
  cowbell: {
    seconds: 0.5,
    peak: 0.6,
    layers: [{ kind: 'metal', base: 562, spread: 1.504, partials: 3, highpass: 350, decay: 0.11, level: 1 }, stick(2900, 0.25)],
  },
  vibraslap: {
    seconds: 1,
    peak: 0.5,
    layers: [{ kind: 'noise', filter: 'bandpass', frequency: 2750, q: 5, decay: 0.014, level: 1, bursts: Array.from({ length: 26 }, (_, i) => i * 0.027 * (1 - i * 0.006)) }],
  },
  'bongo-high': handDrum(415, 0.07, 3300),
  'bongo-low': handDrum(311, 0.09, 2900),
  'conga-mute': handDrum(238, 0.03, 2300),
  'conga-high': handDrum(232, 0.14, 1900),
  'conga-low': handDrum(174, 0.19, 1500),
  'timbale-high': shellDrum(352),
  'timbale-low': shellDrum(241),
  'agogo-high': bar(917, 0.14, 1.49),
  'agogo-low': bar(672, 0.17, 1.53),
  'whistle-short': whistle(0.13),
  'whistle-long': whistle(0.42),
  'guiro-short': scrape(0.075, 8),
  'guiro-long': scrape(0.34, 30),
  claves: bar(2510, 0.028, 2.98),
  'block-high': bar(1065, 0.03, 2.41),
  'block-low': bar(778, 0.036, 2.37),
  'cuica-mute': { seconds: 0.3, peak: 0.5, layers: [{ kind: 'waver', from: 515, to: 590, rate: 44, depth: 0.06, decay: 0.09, level: 1, attack: 0.01 }] },
  'cuica-open': { seconds: 0.6, peak: 0.5, layers: [{ kind: 'waver', from: 720, to: 450, rate: 38, depth: 0.05, decay: 0.24, level: 1, attack: 0.02 }] },
  triangle: { seconds: 2.2, peak: 0.4, layers: [{ kind: 'skin', from: 2730, to: 2730, fall: 0.01, decay: 0.7, level: 1, partials: [[1, 0.7], [1.87, 1], [2.76, 0.6], [3.62, 0.3]] }] },
  'triangle-mute': { seconds: 0.25, peak: 0.4, layers: [{ kind: 'skin', from: 2730, to: 2730, fall: 0.01, decay: 0.04, level: 1, partials: [[1, 0.7], [1.87, 1], [2.76, 0.6]] }] },
};

/** Every voice has a sound; a key without a name gets a wooden tick, tuned by its number. */
export function recipeOf(voice: VoiceName): Recipe {
  return (Object.hasOwn(RECIPES, voice) ? RECIPES[voice] : undefined) ?? bar(300 * 2 ** (((hashText(voice) % 24) - 4) / 12), 0.05, 2.1);
}

/** Voices whose start ends the ring of others: a pedal or closed stroke ends the open one. */
const ENDS: Readonly<Record<VoiceName, readonly VoiceName[]>> = {
  'hat-closed': ['hat-open', 'hat-half', 'hat-splash'],
  'hat-shoulder': ['hat-open', 'hat-half', 'hat-splash'],
  'hat-pedal': ['hat-open', 'hat-half', 'hat-splash'],
  'hat-half': ['hat-open'],
  'hat-open': ['hat-pedal', 'hat-half'],
  'hat-splash': ['hat-open', 'hat-half'],
  'triangle-mute': ['triangle'],
  'cuica-mute': ['cuica-open'],
  'whistle-short': ['whistle-long'],
  'guiro-short': ['guiro-long'],
  'conga-mute': ['conga-high'],
};

export const voicesEndedBy = (voice: VoiceName): readonly VoiceName[] => (Object.hasOwn(ENDS, voice) ? (ENDS[voice] as readonly VoiceName[]) : []);
