import { compareHits, type Hit, type Part } from '@/core/model/part';
import { normalStream, randomStream } from '@/core/random';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from './arbitraries';

/** Takes as people play them, with the line that each stroke was meant for: what the reading of homes is measured by. */

const Q = TICKS_PER_QUARTER;

export const SLOPPINESS = { tight: 3.5, usual: 7, sloppy: 12, 'very sloppy': 18 } as const;
export type Sloppiness = keyof typeof SLOPPINESS;

interface Style {
  name: string;
  meter: readonly [number, number];
  bpm: readonly [number, number];
  /** Strokes of a bar by row: quarters from the bar line. */
  bar(n: number, random: () => number): Record<string, number[]>;
  /** Swing of eighths or sixteenths in percent, drawn between these. */
  swing?: { division: '1/8' | '1/16'; percent: readonly [number, number] };
}

const every = (step: number, to = 4, from = 0): number[] =>
  Array.from({ length: Math.round((to - from) / step) }, (_, i) => from + i * step);
const some = (random: () => number, list: readonly number[], share: number): number[] => list.filter(() => random() < share);
const backbeat = [1, 3];
const ghosts = [0.75, 1.75, 2.25, 3.75];

export const STYLES: readonly Style[] = [
  {
    name: 'straight eighths',
    meter: [4, 4],
    bpm: [84, 150],
    bar: (_n, r) => ({ 'hat-closed': every(0.5), snare: backbeat, kick: [0, 2, ...some(r, [1.5, 2.5, 3.5], 0.4)] }),
  },
  {
    name: 'sixteenth hats',
    meter: [4, 4],
    bpm: [70, 112],
    bar: (_n, r) => ({
      'hat-closed': every(0.25),
      snare: [...backbeat, ...some(r, ghosts, 0.5)],
      kick: [0, ...some(r, [0.75, 1.5, 1.75, 2.5, 3.25], 0.4)],
    }),
  },
  {
    name: 'syncopated',
    meter: [4, 4],
    bpm: [88, 116],
    bar: (_n, r) => ({
      'hat-closed': every(0.5),
      snare: [...backbeat, ...some(r, [...ghosts, 2.75], 0.6)],
      kick: [0, 0.75, ...some(r, [1.75, 2.25, 2.5, 3.5], 0.5)],
    }),
  },
  {
    name: 'three three two',
    meter: [4, 4],
    bpm: [90, 130],
    bar: (_n, r) => ({ kick: [0, 0.75, 1.5, 2, 2.75, 3.5], snare: some(r, [1, 3, 3.75], 0.7), shaker: every(0.25) }),
  },
  {
    name: 'shuffle',
    meter: [4, 4],
    bpm: [84, 140],
    swing: { division: '1/8', percent: [58, 68] },
    bar: (_n, r) => ({
      'hat-closed': every(0.5),
      snare: [...backbeat, ...some(r, [1.5, 3.5], 0.2)],
      kick: [0, 2, ...some(r, [1.5, 2.5, 3.5], 0.4)],
    }),
  },
  {
    name: 'swung sixteenths',
    meter: [4, 4],
    bpm: [76, 104],
    swing: { division: '1/16', percent: [55, 64] },
    bar: (_n, r) => ({
      'hat-closed': every(0.25),
      snare: [...backbeat, ...some(r, ghosts, 0.4)],
      kick: [0, ...some(r, [0.75, 1.75, 2.5, 2.75], 0.5)],
    }),
  },
  {
    name: 'compound',
    meter: [6, 8],
    bpm: [56, 96],
    bar: (_n, r) => ({ 'hat-closed': every(0.5, 3), snare: [1.5], kick: [0, ...some(r, [1, 2, 2.5], 0.4)] }),
  },
  {
    name: 'seven',
    meter: [7, 8],
    bpm: [96, 140],
    bar: (_n, r) => ({ 'hat-closed': every(0.5, 3.5), snare: [1, ...some(r, [2.5], 0.6)], kick: [0, 2, ...some(r, [1.5, 3], 0.3)] }),
  },
  {
    name: 'triplet fills',
    meter: [4, 4],
    bpm: [80, 126],
    bar: (n, r) => ({
      'hat-closed': n % 4 === 3 ? every(0.5, 3) : every(0.5),
      snare: n % 4 === 3 ? [1, ...every(1 / 3, 4, 3)] : backbeat,
      kick: [0, 2, ...some(r, [2.5], 0.5)],
    }),
  },
  {
    name: 'triplets throughout',
    meter: [4, 4],
    bpm: [60, 100],
    bar: (_n, r) => ({
      'hat-closed': every(1 / 3),
      snare: [...backbeat, ...some(r, [5 / 3, 11 / 3], 0.3)],
      kick: [0, 2, ...some(r, [2 / 3, 8 / 3], 0.4)],
    }),
  },
  {
    name: '32nd fills',
    meter: [4, 4],
    bpm: [70, 110],
    bar: (n, r) => ({
      'hat-closed': n % 4 === 3 ? every(0.5, 3) : every(0.5),
      snare: n % 4 === 3 ? [1, ...every(0.125, 3.5, 3), 3.5, 3.75] : backbeat,
      kick: [0, 2, ...some(r, [2.5, 2.75], 0.5)],
    }),
  },
];

export interface Take {
  part: Part;
  /** The line that each hit was meant for, by index. */
  truth: number[];
  style: string;
  sloppiness: Sloppiness;
  /** Lean of each row, ms. */
  leans: Record<string, number>;
  swing: { division: '1/8' | '1/16'; percent: number } | null;
}

const isSecond = (place: number, pair: number): boolean => Math.abs((place % pair) - pair / 2) < 1e-6;

/** A take of some bars by a person: rows that lean, hands that scatter, a kit that wanders, ghosts that are soft, flams now and then. */
export function playTake(style: Style, sloppiness: Sloppiness, seed: number, bars = 8): Take {
  const random = randomStream(seed * 7919 + 17);
  const normal = normalStream(random);
  const scatter = SLOPPINESS[sloppiness];
  const bpm = style.bpm[0] + random() * (style.bpm[1] - style.bpm[0]);
  const swing = style.swing
    ? { division: style.swing.division, percent: style.swing.percent[0] + random() * (style.swing.percent[1] - style.swing.percent[0]) }
    : null;
  const barLength = (style.meter[0] * 4) / style.meter[1];
  const ppq = random() < 0.5 ? 480 : 960;
  const raster = Q / ppq;
  const msToTicks = (ms: number): number => (((ms / 1000) * bpm) / 60) * Q;
  const leans: Record<string, number> = {};
  const meant: { voice: string; at: number; home: number; velocity: number }[] = [];
  let wander = 0;
  for (let n = 0; n < bars; n++) {
    for (const [voice, places] of Object.entries(style.bar(n, random))) {
      leans[voice] ??= normal() * scatter * 0.6;
      for (const place of [...new Set(places)].sort((a, b) => a - b)) {
        const home = (n * barLength + place) * Q;
        let at = home;
        const pair = swing?.division === '1/8' ? 1 : 0.5;
        if (swing && isSecond(place, pair)) at += (swing.percent / 100 - 0.5) * pair * Q;
        // Between swung eighths the sixteenths are bent half as far.
        else if (swing?.division === '1/8' && Math.abs((place % 0.5) - 0.25) < 1e-6) at += (swing.percent / 100 - 0.5) * 0.5 * Q;
        const isGhost = voice === 'snare' && !Number.isInteger(place);
        meant.push({ voice, at, home, velocity: isGhost ? 28 + random() * 16 : 84 + random() * 30 });
      }
    }
  }
  meant.sort((a, b) => a.at - b.at);
  const played = meant.flatMap((m) => {
    wander = 0.9 * wander + normal() * scatter * 0.2;
    const ms = (leans[m.voice] as number) + wander + normal() * scatter * (m.velocity < 50 ? 1.3 : 1);
    const tick = Math.max(0, Math.round((m.at + msToTicks(ms)) / raster) * raster);
    const flam =
      m.voice === 'snare' && m.velocity > 80 && random() < 0.04
        ? [{ ...m, tick: Math.max(0, Math.round((tick - msToTicks(22 + random() * 12)) / raster) * raster), velocity: 40 }]
        : [];
    return [...flam, { ...m, tick }];
  });
  const base = smallPart([['kick', 0, 1]], { bars });
  const rows = [...new Set(played.map((p) => p.voice))].map((voice) => ({ voice }));
  const hits = played
    .map((p, i) => ({
      hit: {
        ...(base.hits[0] as Hit),
        id: `t${i}`,
        voice: p.voice,
        tick: ticks(p.tick),
        home: ticks(p.tick),
        velocity: Math.round(Math.max(1, Math.min(127, p.velocity))) as Hit['velocity'],
      },
      home: p.home,
    }))
    .sort((a, b) => compareHits(a.hit, b.hit));
  const meter = [{ tick: ticks(0), numerator: style.meter[0], denominator: style.meter[1] }];
  const tempo = [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }];
  const part: Part = { ...base, rows, hits: hits.map((h) => h.hit), meter, tempo, bars, source: { fileName: 'take.mid', ppq, lanes: [] } };
  return { part, truth: hits.map((h) => h.home), style: style.name, sloppiness, leans, swing };
}
