import fc from 'fast-check';
import type { Member, MoveSpec } from '@/core/feel/move-spec';
import { EMPTY_FEEL, type Feel, type Move, type Scope, type SwingMove } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { MOVES } from '@/core/moves/all';
import { ORNAMENT_LIMITS, type Ornament } from '@/core/model/ornament';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER, velocity } from '@/core/units';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import { compareVoices } from '@/core/voices';
import { withHomesOf2 } from '@/formats/part-2';

/** Random parts for property tests: meters, tempo changes, origins, crowded and sparse hits. */

const VOICES = ['kick', 'snare', 'hat-closed', 'hat-open', 'tom-floor'] as const;
const BARS = 4;

export const meterArbitrary = fc.constantFrom([4, 4], [3, 4], [6, 8], [7, 8], [5, 8], [2, 4], [12, 8], [5, 4]);

const hitArbitrary = (length: number): fc.Arbitrary<Hit> =>
  fc
    .record({
      voice: fc.constantFrom(...VOICES),
      tick: fc.integer({ min: 0, max: length - 1 }),
      velocity: fc.integer({ min: 1, max: 127 }),
      length: fc.integer({ min: 0, max: TICKS_PER_QUARTER }),
      marks: fc.option(fc.constantFrom({ choke: true }, { locked: true }, { ghost: true }, { pan: -30 }, { pitch: 1.5, brightness: -12 }), {
        nil: undefined,
        freq: 3,
      }),
      nudge: fc.option(fc.record({ ms: fc.integer({ min: -60, max: 60 }), velocity: fc.integer({ min: -20, max: 20 }) }), {
        nil: undefined,
        freq: 4,
      }),
    })
    .map((h) => ({
      id: '',
      voice: h.voice,
      key: keyOfVoice(GENERAL_MIDI_KIT, h.voice),
      tick: ticks(h.tick),
      home: ticks(h.tick),
      length: ticks(h.length),
      velocity: velocity(h.velocity),
      ...(h.marks ?? {}),
      ...(h.nudge ? { nudge: { ms: milliseconds(h.nudge.ms), velocity: h.nudge.velocity } } : {}),
    }));

export const swingArbitrary: fc.Arbitrary<SwingMove> = fc.record({
  kind: fc.constant('swing' as const),
  division: fc.constantFrom('1/8' as const, '1/16' as const, '1/32' as const),
  percent: fc.double({ min: 25, max: 80, noNaN: true }),
});

const scopeArbitrary: fc.Arbitrary<Scope | undefined> = fc.option(
  fc.oneof(
    fc.record({ voices: fc.uniqueArray(fc.constantFrom(...VOICES), { minLength: 1, maxLength: 3 }) }),
    fc.constantFrom<Scope>(
      { bars: { every: 2, at: [1] } },
      { bars: { from: 2, to: 3 } },
      { steps: { grid: '1/8', of: 2, at: [1] } },
      { ghosts: 'none' },
    ),
  ),
  { nil: undefined },
);
// No minus zero: JSON does not keep it.
const upTo = (max: number, min = 0) => fc.double({ min, max, noNaN: true }).map((n) => n + 0);

const grooveArbitrary: fc.Arbitrary<Groove> = fc
  .constantFrom(2, 4, 6, 8)
  .chain((beats) =>
    fc
      .array(fc.record({ offset: upTo(0.5, -0.5), level: upTo(2), n: fc.nat(9) }), { minLength: beats * 4, maxLength: beats * 4 })
      .map((steps): Groove => ({ format: 'nod-sway/groove@1', name: 'random', meter: [4, 4], beats, stepsPerBeat: 4, steps })),
  );

const L = ORNAMENT_LIMITS;

/** An ornament of any kind. */
export const ornamentArbitrary: fc.Arbitrary<Ornament> = fc.oneof(
  fc.record(
    {
      kind: fc.constant('roll' as const),
      strokes: fc.oneof(
        fc.constantFrom('1/16' as const, '1/32' as const, '1/64' as const, '1/16T' as const, '1/32T' as const),
        fc.integer({ min: 2, max: 24 }),
      ),
      length: fc.integer({ min: TICKS_PER_QUARTER / 16, max: 2 * TICKS_PER_QUARTER }).map(ticks),
      speed: upTo(1, -1),
      to: upTo(L.to[1], L.to[0]),
      bend: upTo(1, -1),
    },
    { requiredKeys: ['kind', 'strokes', 'speed', 'to', 'bend'] },
  ),
  fc.record({
    kind: fc.constant('flam' as const),
    strokes: fc.integer({ min: 1, max: 3 }),
    spacingMs: upTo(80, 5),
    level: upTo(2, 0.05),
    slope: upTo(1, -1),
  }),
  fc.record(
    {
      kind: fc.constant('echo' as const),
      steps: fc.integer({ min: 1, max: 6 }),
      grid: fc.constantFrom('1/16' as const, '1/8T' as const),
      repeats: fc.integer({ min: 1, max: 8 }),
      decay: upTo(1, 0.05),
      voice: fc.constantFrom(...VOICES),
    },
    { requiredKeys: ['kind', 'steps', 'grid', 'repeats', 'decay'] },
  ),
);

/** Values that a member of a move may have. */
function memberArbitrary(member: Member): fc.Arbitrary<unknown> {
  switch (member.is) {
    case 'number':
      return member.whole ? fc.integer({ min: member.min, max: member.max }) : upTo(member.max, member.min);
    case 'choice':
      return fc.constantFrom(...member.of);
    case 'flag':
      return fc.boolean();
    case 'levels':
      return fc.array(upTo(member.max, member.min), { minLength: 1, maxLength: Math.min(20, member.most) });
    case 'order':
      return fc.shuffledSubarray([...member.of], { minLength: 1 });
    case 'groove':
      return grooveArbitrary;
  }
}

/** Any move of a kind, by its spec. */
function moveOf({ kind, members, problem }: MoveSpec): fc.Arbitrary<Move> {
  const all = Object.entries<Member>(members);
  const required = all.filter(([, member]) => !member.optional).map(([name]) => name);
  return fc
    .record<Record<string, unknown>>(
      { kind: fc.constant(kind), ...Object.fromEntries(all.map(([name, member]) => [name, memberArbitrary(member)])) },
      { requiredKeys: ['kind', ...required] },
    )
    .map((move) => move as unknown as Move)
    .filter((move) => !problem?.(move));
}

/** A move of any kind, with a scope now and then. */
export const moveArbitrary: fc.Arbitrary<Move> = fc
  .tuple(fc.oneof(...MOVES.map(moveOf)), scopeArbitrary)
  .map(([move, scope]): Move => (scope ? { ...move, scope } : move));

export const feelArbitrary: fc.Arbitrary<Feel> = fc.record({
  format: fc.constant('nod-sway/feel@3' as const),
  seed: fc.integer({ min: 0, max: 1e6 }),
  sway: fc.double({ min: 0, max: 1, noNaN: true }),
  moves: fc.array(fc.oneof(swingArbitrary, moveArbitrary), { maxLength: 3 }),
});

export const partArbitrary: fc.Arbitrary<Part> = meterArbitrary.chain(([n, d]) => {
  const bar = ((n as number) * 4 * TICKS_PER_QUARTER) / (d as number);
  return fc
    .record({
      hits: fc.array(hitArbitrary(bar * BARS), { maxLength: 60 }),
      microseconds: fc.integer({ min: 200_000, max: 1_500_000 }),
      second: fc.option(fc.record({ tick: fc.integer({ min: 1, max: bar * BARS }), us: fc.integer({ min: 200_000, max: 1_500_000 }) }), {
        nil: undefined,
      }),
      origin: fc.integer({ min: -9000, max: 9000 }),
      feel: feelArbitrary,
    })
    .map((r): Part => {
      const hits = [...r.hits].sort(compareHits).map((h, i) => ({ ...h, id: `h${String(i).padStart(3, '0')}` }));
      return withHomesOf2({
        format: 'nod-sway/part@6',
        name: 'random',
        tempo: [
          { tick: ticks(0), microsecondsPerQuarter: r.microseconds },
          ...(r.second ? [{ tick: ticks(r.second.tick), microsecondsPerQuarter: r.second.us }] : []),
        ],
        meter: [{ tick: ticks(0), numerator: n as number, denominator: d as number }],
        origin: ticks(r.origin),
        bars: BARS + 1,
        kitMap: GENERAL_MIDI_KIT,
        rows: [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice })),
        hits: [...hits].sort(compareHits),
        feel: r.feel,
      });
    });
});

/** Names for new hits: n0, n1 ... */
export function newIds(): () => string {
  let n = 0;
  return () => `n${n++}`;
}

/** A part from a few hits: [voice, tick in quarters, velocity]. Homes are fitted beat by beat, which hand-made hits need no more than. */
export function smallPart(hits: readonly (readonly [string, number, number])[], change: Partial<Part> = {}): Part {
  const written = hits
    .map(([voice, quarter, v], i): Hit => ({
      id: `h${i}`,
      voice,
      key: keyOfVoice(GENERAL_MIDI_KIT, voice),
      tick: ticks(Math.round(quarter * TICKS_PER_QUARTER)),
      home: ticks(0),
      length: ticks(TICKS_PER_QUARTER / 8),
      velocity: velocity(v),
    }))
    .sort(compareHits);
  return withHomesOf2({
    format: 'nod-sway/part@6',
    name: 'small',
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
    meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
    origin: ticks(0),
    bars: 1,
    kitMap: GENERAL_MIDI_KIT,
    rows: [...new Set(written.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice })),
    hits: written,
    feel: EMPTY_FEEL,
    ...change,
  });
}
