import type { VoiceName } from '../../row-names';
import type { Layer, ModesLayer, Pair, PlateLayer, Recipe } from '../recipe';

/** What makes one set of drums another. */
export interface Character {
  /** Factor on the pitch of heads. */
  pitch: number;
  /** On how long heads ring. */
  ring: number;
  /** On how long cymbals ring. */
  wash: number;
  /** On the contact of sticks and beaters: above 1 they are softer. */
  soft: number;
  /** On the corner of the low-pass. */
  tone: number;
  /** On the level of the wires. */
  wires: number;
  /** Sticks' click. */
  click: number;
}

/** Modes of a round head against its first (Rayleigh, The Theory of Sound, vol. 1, chapter 9). */
const HEAD: readonly (readonly [number, number])[] = [
  [1, 1],
  [1.59, 0.5],
  [2.14, 0.3],
  [2.3, 0.22],
  [2.65, 0.2],
  [2.92, 0.16],
  [3.16, 0.12],
  [3.5, 0.1],
];
/** Of a free bar (ibid., chapter 8). */
const BAR: readonly (readonly [number, number])[] = [
  [1, 1],
  [2.76, 0.5],
  [5.4, 0.25],
];

const scaled = ([a, b]: Pair, factor: number): Pair => [a * factor, b * factor];

/** Drums, cymbals and hand percussion in the manner of a character: no recording, only its numbers. */
export function acousticKit(c: Character): Readonly<Record<VoiceName, Recipe>> {
  const tone = (soft: number, hard: number): Pair => scaled([soft, hard], c.tone);
  const head = (hz: number, t60: number, contact: Pair, more: Partial<ModesLayer> = {}): ModesLayer => ({
    kind: 'modes',
    hz: hz * c.pitch,
    modes: HEAD,
    t60: t60 * c.ring,
    damping: 0.75,
    contact: scaled(contact, c.soft),
    level: 1,
    ...more,
  });
  const stick = (hz: number, level: number, force = 0.5): Layer => ({
    kind: 'noise',
    filter: 'bandpass',
    hz,
    q: 0.8,
    t60: 0.042,
    force,
    level: 0.7 * level * c.click,
  });
  const body = (hz: number, t60: number, level: number): Layer => ({ kind: 'noise', filter: 'lowpass', hz, q: 0.7, t60, level });

  const tom = (hz: number, t60: number, level: number): Recipe => ({
    layers: [
      head(hz, t60, [7, 1.9], { glide: { semitones: 2.2, seconds: 0.06 }, tail: { share: 0.25, times: 1.8 } }),
      stick(2400, 1.9, 0.75),
      body(900, 0.06, 0.12),
    ],
    tone: tone(520, 9500),
    level,
  });
  const snare = (
    hz: number,
    change: {
      wires?: number;
      modes?: readonly (readonly [number, number])[];
      t60?: number;
      click?: number;
      soft?: number;
      open?: number;
      level?: number;
    } = {},
  ): Recipe => ({
    layers: [
      head(hz, change.t60 ?? 0.22, [4, 1.4], { modes: change.modes ?? HEAD, glide: { semitones: 1.1, seconds: 0.03 } }),
      { kind: 'wires', t60: [0.3 * Math.sqrt(c.ring), 0.1], head: 0.5 * c.ring, open: 7, level: 0.55 * c.wires * (change.wires ?? 1) },
      stick(3600, 0.6 * (change.click ?? 1), 0.35),
    ],
    tone: tone((change.soft ?? 1) * 2600, (change.soft ?? 1) * 15_000),
    level: change.level ?? -18.5,
  });
  const plate = (from: number, t60: number, contact: Pair, change: Partial<PlateLayer> = {}): PlateLayer => ({
    kind: 'plate',
    from,
    to: 15_500,
    spacing: 34,
    jitter: 0.65,
    t60: t60 * c.wash,
    fall: 0.55,
    contact: scaled(contact, c.soft),
    slope: 0,
    late: 1.2,
    rise: 0.035,
    air: 0.5,
    level: 0.1,
    ...change,
  });
  const hat = (
    t60: number,
    from: number,
    contact: Pair,
    level: number,
    change: Partial<PlateLayer> = {},
    corner: Pair = [4200, 17_000],
  ): Recipe => ({
    layers: [
      plate(from, t60, contact, { spacing: 52, jitter: 0.45, late: 0.35, rise: 0.012, slope: 0.35, air: 0.8, ...change }),
      stick(4800, 0.25),
    ],
    tone: tone(...corner),
    level,
  });
  const cymbal = (
    from: number,
    t60: number,
    contact: Pair,
    level: number,
    change: Partial<PlateLayer> = {},
    ping = 0,
    corner: Pair = [3000, 17_000],
  ): Recipe => ({
    layers: [plate(from, t60, contact, change), ...(ping > 0 ? [stick(5200, ping, 0.2)] : [])],
    tone: tone(...corner),
    level,
  });
  const hand = (hz: number, t60: number, slap: number, level: number, damping = 0.9, click = 2.2): Recipe => ({
    layers: [head(hz, t60, [5.5, 1.7], { damping, glide: { semitones: 0.7, seconds: 0.03 } }), stick(slap, click, 0.9)],
    tone: tone(520, 9500),
    level,
  });
  const shell = (hz: number, level: number): Recipe => ({
    layers: [
      head(hz, 0.55, [3, 0.9], { glide: { semitones: 0.9, seconds: 0.03 } }),
      { ...plate(hz * 4.6, 0.35, [1.2, 0.4]), spacing: 190, air: 0, late: 0, level: 0.12 },
      stick(4200, 1.3, 0.8),
    ],
    tone: tone(700, 13_000),
    level,
  });
  const bar = (hz: number, t60: number, contact: Pair, level: number, modes = BAR, click = 0.3): Recipe => ({
    layers: [
      { kind: 'modes', hz, modes, t60, damping: 0.8, contact: scaled(contact, c.soft), level: 1 },
      stick(Math.min(9000, hz * 3.1), click, 0.5),
    ],
    tone: tone(Math.min(7000, hz * 0.9), 16_000),
    level,
  });
  const shaken = (hz: number, q: number, t60: number, attack: number, level: number, bursts?: readonly number[]): Recipe => ({
    layers: [
      { kind: 'noise', filter: 'bandpass', hz, q, t60, attack, level: 1, ...(bursts ? { bursts } : {}) },
      {
        kind: 'noise',
        filter: 'highpass',
        hz: hz * 1.4,
        q: 0.7,
        t60: t60 * 0.7,
        attack,
        force: 0.8,
        level: 0.35,
        ...(bursts ? { bursts } : {}),
      },
    ],
    tone: tone(hz * 0.55, 17_000),
    level,
  });
  const teeth = (length: number, count: number): number[] => Array.from({ length: count }, (_, i) => (i / count) * length);
  const whistle = (hz: number, seconds: number, level: number): Recipe => ({
    layers: [
      { kind: 'waver', from: hz, to: hz * 0.985, rate: 31, depth: 0.03, seconds, attack: 0.012, level: 1 },
      { kind: 'noise', filter: 'bandpass', hz: hz * 1.2, q: 2.5, t60: seconds * 1.5, attack: 0.01, force: 0.6, level: 0.35 },
    ],
    tone: [hz * 1.1, 14_000],
    level,
  });

  return {
    kick: {
      layers: [
        head(54, 0.5, [8.5, 3.2], {
          modes: [
            [1, 1],
            [1.59, 0.3],
            [2.3, 0.14],
            [3.5, 0.08],
          ],
          glide: { semitones: 7, seconds: 0.028 },
          damping: 1,
        }),
        stick(2900, 1.4, 1.3),
        body(420, 0.05, 0.25),
      ],
      tone: tone(300, 9500),
      level: -14,
    },
    snare: snare(186),
    'snare-rimshot': snare(214, {
      modes: [
        [1, 0.7],
        [1.59, 1],
        [2.14, 0.7],
        [2.65, 0.8],
        [3.5, 0.6],
        [5.1, 0.5],
      ],
      click: 1.7,
      wires: 0.8,
      t60: 0.26,
      level: -20,
    }),
    'snare-edge': snare(232, {
      modes: [
        [1, 0.35],
        [1.59, 1],
        [2.14, 0.8],
        [2.3, 0.5],
        [2.92, 0.5],
        [4.06, 0.3],
      ],
      wires: 0.55,
      t60: 0.34,
      soft: 0.6,
      click: 2.8,
      level: -21,
    }),
    'snare-sweep': {
      layers: [
        { kind: 'noise', filter: 'bandpass', hz: 3300, q: 0.55, t60: 0.5, attack: 0.09, level: 1 },
        { kind: 'noise', filter: 'highpass', hz: 7000, q: 0.7, t60: 0.3, attack: 0.07, force: 0.7, level: 0.4 },
      ],
      tone: tone(2200, 14_000),
      level: -24,
    },
    rim: bar(
      455,
      0.09,
      [1.2, 0.4],
      -23,
      [
        [1, 0.6],
        [2.31, 0.5],
        [3.74, 1],
        [5.6, 0.7],
        [8.1, 0.45],
      ],
      1,
    ),
    clap: {
      layers: [
        { kind: 'noise', filter: 'bandpass', hz: 1250, q: 1.1, t60: 0.035, bursts: [0, 0.0095, 0.0185, 0.0275], level: 1 },
        { kind: 'noise', filter: 'bandpass', hz: 1500, q: 0.7, t60: 0.3, attack: 0.028, level: 0.35 },
        { kind: 'noise', filter: 'highpass', hz: 3800, q: 0.7, t60: 0.06, bursts: [0, 0.0095, 0.0185, 0.0275], force: 0.7, level: 0.35 },
      ],
      tone: tone(1500, 15_000),
      level: -19,
    },
    'hat-closed': hat(0.2, 900, [0.42, 0.12], -23),
    'hat-shoulder': hat(0.26, 430, [0.7, 0.18], -21, { slope: -0.05, late: 0.2, spacing: 47, jitter: 0.3 }, [2000, 13_500]),
    'hat-half': hat(0.75, 480, [0.5, 0.14], -20, { late: 0.8, rise: 0.02, slope: 0.1 }),
    'hat-open': hat(2.2, 420, [0.42, 0.12], -19, { late: 1, rise: 0.03, slope: 0.2 }),
    'hat-pedal': {
      layers: [plate(640, 0.24, [0.9, 0.3], { spacing: 47, jitter: 0.25, slope: 0.2, late: 0.6, rise: 0.008, air: 0.3 })],
      tone: tone(1900, 11_000),
      level: -25,
    },
    'hat-splash': hat(1.1, 380, [1, 0.32], -22, { late: 1.2, rise: 0.05, slope: 0, air: 0.4, spacing: 42 }, [2400, 12_500]),
    ride: cymbal(230, 5.2, [0.6, 0.22], -22, { slope: 0, late: 2.2 }, 0.08),
    'ride-edge': cymbal(170, 4.4, [0.95, 0.34], -19, { slope: -0.35, late: 3, rise: 0.05, fall: 0.48 }, 0),
    'ride-bell': {
      layers: [
        plate(400, 4.2, [0.5, 0.2], { level: 0.035, late: 0.8 }),
        {
          kind: 'modes',
          hz: 845,
          modes: [
            [1, 1],
            [1.49, 0.8],
            [2.57, 0.7],
            [4.1, 0.45],
            [5.3, 0.3],
          ],
          t60: 2.4 * c.wash,
          damping: 0.4,
          contact: [0.8, 0.2],
          level: 1,
        },
        stick(5600, 0.4, 0.4),
      ],
      tone: tone(1150, 16_000),
      level: -20,
    },
    crash: cymbal(170, 4.8, [0.7, 0.2], -16, { slope: -0.1, late: 2.6, rise: 0.04, air: 1 }),
    splash: cymbal(480, 1.5, [0.5, 0.16], -20, { slope: 0.1, late: 1.6, rise: 0.02, air: 0.8, spacing: 60 }),
    china: cymbal(210, 2.4, [0.9, 0.25], -17, { slope: -0.55, late: 3, rise: 0.022, spacing: 41 }, 0, [2000, 12_000]),
    'tom-high': tom(172, 0.75, -17),
    'tom-mid': tom(134, 0.85, -16.5),
    'tom-low': tom(104, 1, -16),
    'tom-floor': tom(79, 1.2, -15.5),
    'tom-rim': {
      layers: [
        head(150, 0.5, [2, 0.6], { level: 0.5 }),
        {
          kind: 'modes',
          hz: 610,
          modes: [
            [1, 0.7],
            [2.7, 0.8],
            [4.4, 0.5],
          ],
          t60: 0.09,
          damping: 0.8,
          contact: [1.2, 0.4],
          level: 1,
        },
        stick(2900, 0.7),
      ],
      tone: tone(1400, 12_000),
      level: -20,
    },
    tambourine: {
      layers: [
        { ...plate(3300, 0.6, [0.3, 0.1]), spacing: 170, air: 0.5, late: 0, rise: 0.01, level: 0.3 },
        { kind: 'noise', filter: 'bandpass', hz: 8200, q: 1.2, t60: 0.22, bursts: [0, 0.021, 0.038], force: 0.3, level: 0.5 },
      ],
      tone: tone(4200, 17_000),
      level: -23,
    },
    shaker: shaken(6300, 1.1, 0.11, 0.03, -26),
    cabasa: shaken(7600, 2.2, 0.06, 0.008, -25, [0, 0.014, 0.027, 0.04]),
    maracas: shaken(4100, 1.2, 0.085, 0.004, -25),
    cowbell: {
      layers: [
        {
          kind: 'modes',
          hz: 562,
          modes: [
            [1, 1],
            [1.504, 0.9],
            [2.26, 0.35],
            [3.8, 0.4],
            [5.9, 0.2],
          ],
          t60: 0.45,
          damping: 0.3,
          contact: [1.1, 0.35],
          tail: { share: 0.3, times: 1.7 },
          level: 1,
        },
        stick(3300, 0.4),
      ],
      tone: tone(1500, 12_000),
      level: -21,
    },
    'agogo-high': bar(917, 0.6, [0.9, 0.3], -21, [
      [1, 1],
      [2.1, 0.4],
      [3.9, 0.3],
      [6.3, 0.2],
    ]),
    'agogo-low': bar(672, 0.7, [1, 0.32], -21, [
      [1, 1],
      [2.1, 0.4],
      [3.9, 0.3],
      [6.3, 0.2],
    ]),
    triangle: bar(
      1890,
      3.2,
      [0.5, 0.14],
      -24,
      [
        [1, 0.35],
        [1.44, 1],
        [2.13, 0.8],
        [3.05, 0.7],
        [4.37, 0.5],
        [6.1, 0.3],
      ],
      0.15,
    ),
    'triangle-mute': bar(
      1890,
      0.22,
      [0.6, 0.18],
      -26,
      [
        [1, 0.5],
        [1.44, 1],
        [2.13, 0.7],
        [3.05, 0.4],
      ],
      0.3,
    ),
    claves: bar(
      2510,
      0.16,
      [0.4, 0.14],
      -24,
      [
        [1, 1],
        [2.98, 0.25],
      ],
      0.15,
    ),
    'block-high': bar(
      1065,
      0.13,
      [0.9, 0.3],
      -23,
      [
        [1, 1],
        [2.41, 0.35],
        [4.2, 0.2],
      ],
      0.35,
    ),
    'block-low': bar(
      748,
      0.15,
      [1, 0.35],
      -23,
      [
        [1, 1],
        [2.41, 0.35],
        [4.2, 0.2],
      ],
      0.35,
    ),
    'guiro-short': {
      layers: [
        { kind: 'noise', filter: 'bandpass', hz: 2300, q: 2, t60: 0.02, bursts: teeth(0.075, 8), level: 1 },
        { kind: 'noise', filter: 'highpass', hz: 5000, q: 0.7, t60: 0.012, bursts: teeth(0.075, 8), force: 0.7, level: 0.5 },
      ],
      tone: tone(1700, 14_000),
      level: -25,
    },
    'guiro-long': {
      layers: [
        { kind: 'noise', filter: 'bandpass', hz: 1750, q: 2, t60: 0.02, bursts: teeth(0.34, 30), level: 1 },
        { kind: 'noise', filter: 'highpass', hz: 3900, q: 0.7, t60: 0.012, bursts: teeth(0.34, 30), force: 0.7, level: 0.4 },
      ],
      tone: tone(1300, 12_000),
      level: -22,
    },
    vibraslap: {
      layers: [
        {
          kind: 'noise',
          filter: 'bandpass',
          hz: 2600,
          q: 4,
          t60: 0.045,
          bursts: Array.from({ length: 26 }, (_, i) => i * 0.027 * (1 - i * 0.006)),
          level: 1,
        },
        {
          kind: 'modes',
          hz: 2430,
          modes: [
            [1, 1],
            [2.2, 0.5],
          ],
          t60: 0.5,
          damping: 0.5,
          contact: [0.6, 0.2],
          level: 0.05,
        },
      ],
      tone: tone(1700, 13_000),
      level: -22,
    },
    'whistle-short': whistle(2650, 0.13, -22),
    'whistle-long': whistle(2250, 0.42, -19),
    'cuica-mute': {
      layers: [
        { kind: 'waver', from: 515, to: 590, rate: 44, depth: 0.06, seconds: 0.09, attack: 0.012, level: 1 },
        { kind: 'noise', filter: 'bandpass', hz: 1700, q: 1, t60: 0.08, force: 0.6, level: 0.1 },
      ],
      tone: [620, 6000],
      level: -23,
    },
    'cuica-open': {
      layers: [
        { kind: 'waver', from: 760, to: 430, rate: 38, depth: 0.05, seconds: 0.26, attack: 0.022, level: 1 },
        { kind: 'noise', filter: 'bandpass', hz: 2100, q: 1, t60: 0.2, force: 0.6, level: 0.1 },
      ],
      tone: [700, 7000],
      level: -20,
    },
    'bongo-high': hand(415, 0.2, 3300, -20.5, 0.9, 1.5),
    'bongo-low': hand(296, 0.26, 2700, -20, 0.9, 1.5),
    'conga-mute': hand(262, 0.075, 2100, -22.5, 0.5, 1.9),
    'conga-high': hand(218, 0.42, 1700, -18.5),
    'conga-low': hand(164, 0.55, 1300, -18),
    'timbale-high': shell(352, -18),
    'timbale-low': shell(238, -18),
  };
}
