import type { Part } from '@/core/model/part';
import { EMPTY_FEEL } from '@/core/model/feel';
import { GENERAL_MIDI_KIT } from '@/core/key-map';
import { TICKS_PER_QUARTER } from '@/core/units';
import { noteEvents, midiFile, tempoEvent, trackChunk } from './midi-bytes';

/** Requests that are small to send and would make much: each must be answered or refused by name within two seconds of computing. */
export interface WorstRequest {
  name: string;
  call: 'report' | 'perform' | 'groove' | 'render';
  fields: () => Record<string, string | Uint8Array>;
  /** The code it is refused with; null where it is answered. */
  refused: string | null;
  /** Tried where files are damaged by the thousand alone: a smaller sibling stands beside it. */
  isSlow?: true;
}

const Q = TICKS_PER_QUARTER;
const many = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));

interface RawHit {
  voice: string;
  key?: number;
  tick: number;
  velocity?: number;
  [member: string]: unknown;
}

/** A part file with the given members, and hits told briefly. */
export function partText({ hits = [], ...members }: { hits?: readonly RawHit[] } & Record<string, unknown>): string {
  const voices = [...new Set(hits.map((h) => h.voice))];
  const part: Record<string, unknown> = {
    format: 'nod-sway/part@2',
    name: 'worst',
    tempo: [{ tick: 0, microsecondsPerQuarter: 500_000 }],
    meter: [{ tick: 0, numerator: 4, denominator: 4 }],
    origin: 0,
    bars: 1,
    kitMap: GENERAL_MIDI_KIT,
    rows: voices.map((voice) => ({ voice })),
    feel: EMPTY_FEEL,
    ...members,
    hits: hits.map(({ key = 36, velocity = 100, ...h }, i) => ({ id: `h${i}`, key, length: 100, velocity, ...h })),
  } satisfies Partial<Record<keyof Part, unknown>>;
  return JSON.stringify(part);
}

const ownRow = (i: number): string => `own:row${i}`;

/** One hit on a row whose loop length is one 1/64T step. */
const cycled = (bars: number, numerator: number, denominator: number, order?: object): string =>
  partText({
    bars,
    meter: [{ tick: 0, numerator, denominator }],
    hits: [{ voice: 'kick', tick: 0 }],
    rows: [{ voice: 'kick', cycle: { grid: '1/64T', steps: 1 } }],
    ...order,
  });

const ordered = (rounds: number, tempos: number): string =>
  partText({
    bars: 1,
    hits: [{ voice: 'kick', tick: 0 }],
    tempo: many(tempos, (i) => ({ tick: i * 60, microsecondsPerQuarter: 400_000 + i })),
    sections: [{ id: 'a', name: 'A', from: 1, bars: 1 }],
    order: many(rounds, () => ({ section: 'a', times: 64 })),
  });

/** Bars of 8 hits that all differ: each bit of a bar's number puts a hit early or late. */
const unlikeBars = (bars: number, hitsABar = 8): string =>
  partText({
    bars,
    hits: many(bars * hitsABar, (i) => ({
      voice: 'snare',
      tick:
        Math.floor(i / hitsABar) * 4 * Q +
        (i % hitsABar) * (Q / 2) +
        (((Math.floor(i / hitsABar) * 2654435761) >>> ((i % hitsABar) * 3)) % 8) * 2500,
      velocity: 1 + (((Math.floor(i / hitsABar) * 40503) >>> (i % hitsABar)) % 9) * 14,
    })),
  });

/** Bars of 12 hits that differ by less than what counts as alike. */
const nearlyAlike = (bars: number): string =>
  partText({
    bars,
    hits: many(bars * 12, (i) => ({
      voice: 'snare',
      tick: Math.floor(i / 12) * 4 * Q + (i % 12) * (Q / 4) + ((i * 7919) % 2000),
      velocity: 90 + ((i * 104_729) % 12),
    })),
  });

/** Rounds of a first bar, with all tempo changes behind it. */
const orderedBefore = (entries: number, tempos: number): string =>
  partText({
    bars: 4,
    hits: [{ voice: 'kick', tick: 0 }],
    tempo: many(tempos, (i) => ({ tick: i === 0 ? 0 : 8 * Q + i, microsecondsPerQuarter: 400_000 + i })),
    sections: [{ id: 'a', name: 'A', from: 1, bars: 1 }],
    order: many(entries, () => ({ section: 'a', times: 64 })),
  });

/** Hits at places that have nothing to do with each other, four a bar. */
const scattered = (hits: number, rows: number): string =>
  partText({ bars: hits / 4, hits: many(hits, (i) => ({ voice: ownRow(i % rows), tick: i * Q + ((i * 7919) % Q), velocity: 90 })) });

const feel = JSON.stringify(EMPTY_FEEL);
const oneMicrosecond = (hits: number): Uint8Array =>
  midiFile(0, 480, [
    trackChunk(
      [
        tempoEvent(0, 1),
        ...noteEvents(
          many(hits, (i): [number, number, number] => [i, i % 2 === 0 ? 36 : 38, 100]),
          1,
        ),
      ].sort((a, b) => a[0] - b[0]),
    ),
  ]);

export const WORST_REQUESTS: readonly WorstRequest[] = [
  {
    name: 'a loop length of one 1/64T over 100,000 bars of 64/1',
    call: 'report',
    fields: () => ({ part: cycled(100_000, 64, 1) }),
    refused: 'too-many-hits',
  },
  {
    name: 'a loop length of one 1/64T over 390 bars of 64/1',
    call: 'report',
    fields: () => ({ part: cycled(390, 64, 1) }),
    refused: 'too-many-hits',
  },
  {
    name: 'a loop length of one 1/64T over 4,000 bars',
    call: 'report',
    fields: () => ({ part: cycled(4000, 4, 4) }),
    refused: 'too-many-hits',
  },
  { name: 'the same, performed', call: 'perform', fields: () => ({ part: cycled(4000, 4, 4), feel }), refused: 'too-many-hits' },
  { name: 'the same, learnt from', call: 'groove', fields: () => ({ part: cycled(4000, 4, 4) }), refused: 'too-many-hits' },
  { name: 'the same, rendered', call: 'render', fields: () => ({ part: cycled(4000, 4, 4), toBar: '1' }), refused: 'too-many-hits' },
  {
    name: 'the same in a running order',
    call: 'perform',
    fields: () => ({
      part: cycled(100, 4, 4, { sections: [{ id: 'a', name: 'A', from: 1, bars: 100 }], order: [{ section: 'a', times: 64 }] }),
      order: 'true',
      feel,
    }),
    refused: 'too-much-work',
  },
  {
    name: 'one microsecond a quarter and 10,000 hits on two keys',
    call: 'report',
    fields: () => ({ midi: oneMicrosecond(10_000) }),
    refused: null,
  },
  {
    name: 'one microsecond a quarter and 150,000 hits on two keys',
    call: 'report',
    fields: () => ({ midi: oneMicrosecond(150_000) }),
    refused: null,
    isSlow: true,
  },
  {
    name: 'an order of 65,536 rounds with 5,000 tempo changes',
    call: 'perform',
    fields: () => ({ part: ordered(1024, 5000), order: 'true', feel }),
    refused: 'part-too-long',
  },
  {
    name: 'an order of 65,536 rounds with 5,000 tempo changes, rendered',
    call: 'render',
    fields: () => ({ part: ordered(1024, 5000), order: 'true' }),
    refused: 'part-too-long',
  },
  {
    name: 'an order of 640 rounds with 5,000 tempo changes',
    call: 'perform',
    fields: () => ({ part: ordered(10, 5000), order: 'true', feel }),
    refused: 'too-many-tempos',
  },
  {
    name: 'an order of 65,536 rounds',
    call: 'perform',
    fields: () => ({ part: ordered(1024, 1), order: 'true', feel }),
    refused: 'part-too-long',
  },
  {
    name: 'an order of 65,536 short rounds, and 1,500 hits with a probability that none of them plays',
    call: 'perform',
    fields: () => ({
      part: partText({
        bars: 2,
        meter: [{ tick: 0, numerator: 1, denominator: 64 }],
        sections: [{ id: 'a', name: 'A', from: 1, bars: 1 }],
        order: many(1024, () => ({ section: 'a', times: 64 })),
        hits: many(1500, (i) => ({ voice: 'kick', tick: Q / 16 + (i % 5000), chance: 50 })),
      }),
      order: 'true',
      feel,
    }),
    refused: 'too-much-work',
  },
  {
    name: '150 entries of an order, 64 times each, over 50,000 tempo changes after them',
    call: 'perform',
    fields: () => ({ part: orderedBefore(150, 50_000), order: 'true' }),
    refused: null,
  },
  {
    name: 'homes of 4,000 hits of 64 rows that keep to no lines',
    call: 'report',
    fields: () => ({ part: scattered(4000, 64), homes: 'true' }),
    refused: null,
  },
  {
    name: 'homes of 100,000 hits',
    call: 'report',
    fields: () => ({ part: scattered(100_000, 8), homes: 'true' }),
    refused: null,
    isSlow: true,
  },
  { name: '4,000 unlike bars of 8 hits', call: 'report', fields: () => ({ part: unlikeBars(4000) }), refused: 'too-much-to-compare' },
  {
    name: '20,000 unlike bars of 8 hits',
    call: 'report',
    fields: () => ({ part: unlikeBars(20_000) }),
    refused: 'too-much-to-compare',
    isSlow: true,
  },
  { name: '1,000 unlike bars of 8 hits', call: 'report', fields: () => ({ part: unlikeBars(1000) }), refused: null },
  {
    name: '10,000 bars of 12 hits that are nearly alike',
    call: 'report',
    fields: () => ({ part: nearlyAlike(10_000) }),
    refused: null,
    isSlow: true,
  },
  {
    name: '512 rows struck together on 40 beats',
    call: 'report',
    fields: () => ({
      part: partText({ bars: 10, hits: many(512 * 40, (i) => ({ voice: ownRow(i % 512), tick: Math.floor(i / 512) * Q })) }),
    }),
    refused: null,
  },
  {
    name: '512 rows struck together on 300 beats',
    call: 'report',
    fields: () => ({
      part: partText({ bars: 75, hits: many(512 * 300, (i) => ({ voice: ownRow(i % 512), tick: Math.floor(i / 512) * Q })) }),
      sticking: 'true',
    }),
    refused: 'too-much-to-compare',
    isSlow: true,
  },
  {
    name: '200,000 unknown members',
    call: 'report',
    fields: () => ({ part: partText(Object.fromEntries(many(200_000, (i) => [`unknown${i}`, i]))) }),
    refused: 'bad-part',
  },
  {
    name: '50,000 wrong tempo changes',
    call: 'report',
    fields: () => ({ part: partText({ tempo: many(50_000, (i) => ({ tick: i, wrong: i })) }) }),
    refused: 'bad-part',
  },
  {
    name: 'a drum map of 100,000 voices',
    call: 'report',
    fields: () => ({
      part: partText({ kitMap: { ...GENERAL_MIDI_KIT, voices: Object.fromEntries(many(100_000, (i) => [`own:v${i}`, [i % 128]])) } }),
    }),
    refused: 'bad-part',
  },
  {
    name: 'rolls of 64 strokes on 18,000 hits',
    call: 'report',
    fields: () => ({
      part: partText({
        bars: 4500,
        hits: many(18_000, (i) => ({
          voice: 'snare',
          tick: i * Q,
          ornament: { kind: 'roll', strokes: 64, length: Q, speed: 0, to: 1, bend: 0 },
        })),
      }),
      sticking: 'true',
    }),
    refused: 'too-many-hits',
  },
  {
    name: 'rolls of 64 strokes on 18,000 hits, performed',
    call: 'perform',
    fields: () => ({
      part: partText({
        bars: 4500,
        hits: many(18_000, (i) => ({
          voice: 'snare',
          tick: i * Q,
          ornament: { kind: 'roll', strokes: 64, length: Q, speed: 0, to: 1, bend: 0 },
        })),
      }),
      feel,
    }),
    refused: 'too-many-hits',
  },
  {
    name: 'rolls of 64 strokes on 2,400 hits',
    call: 'report',
    fields: () => ({
      part: partText({
        bars: 600,
        hits: many(2400, (i) => ({
          voice: 'snare',
          tick: i * Q,
          ornament: { kind: 'roll', strokes: 64, length: Q, speed: 0, to: 1, bend: 0 },
        })),
      }),
      sticking: 'true',
    }),
    refused: null,
  },
  {
    name: '150,000 hits on one key',
    call: 'report',
    fields: () => ({
      midi: midiFile(0, 480, [
        trackChunk(
          noteEvents(
            many(150_000, (i): [number, number, number] => [i * 60, 36, 1 + (i % 127)]),
            30,
          ),
        ),
      ]),
      sticking: 'true',
    }),
    refused: null,
    isSlow: true,
  },
  {
    name: '150,000 hits on one key at one tick',
    call: 'report',
    fields: () => ({
      part: partText({ hits: many(75_000, (i) => ({ voice: 'kick', tick: 0, velocity: 1 + (i % 127) })) }),
      sticking: 'true',
    }),
    refused: null,
  },
  {
    name: '150,000 hits at one tick, performed',
    call: 'perform',
    fields: () => ({ part: partText({ hits: many(75_000, (i) => ({ voice: 'kick', tick: 0, velocity: 1 + (i % 127) })) }), feel }),
    refused: null,
  },
  {
    name: '512 sections with 10,000 cycled hits',
    call: 'report',
    fields: () => ({
      part: partText({
        bars: 512,
        sections: many(512, (i) => ({ id: `s${i}`, name: `S ${i}`, from: i + 1, bars: 1 })),
        rows: [{ voice: 'kick', cycle: { grid: '1/4', steps: 4 } }],
        hits: many(100_000, (i) => ({ voice: 'kick', tick: Math.floor((i * 512 * 4 * Q) / 100_000) })),
      }),
    }),
    refused: null,
  },
];
