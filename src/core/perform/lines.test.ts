import fc from 'fast-check';
import { newIds, smallPart } from '@tests/support/arbitraries';
import { addHits, addNudge } from '../commands/hits';
import { expandOrnaments, setOrnament } from '../commands/ornaments';
import { EMPTY_FEEL, type Move } from '../model/feel';
import type { Part } from '../model/part';
import { strokesOf } from '../ornament/strokes';
import { exportPart } from '../smf/export-part';
import { GRIDS, stepOf } from '../time/grid';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { leanOf, performPart } from './perform';

/** Hits stand upright on their lines, whatever line that is, and moves respect it. */

const Q = TICKS_PER_QUARTER;
const felt = (part: Part, ...moves: Move[]): Part => ({ ...part, feel: { ...EMPTY_FEEL, moves } });
const leans = (part: Part): number[] => part.hits.map((_, i) => leanOf(part, performPart(part), i));
const placed = (part: Part): number[] => [...performPart(part).ticks].map((t) => t / Q);
const swing = (percent: number, division: '1/8' | '1/16' = '1/8'): Move => ({ kind: 'swing', division, percent });

test('what is placed on a line stands upright on every grid and at every tempo, beside sixteenths, and when a neighbour is nudged', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...GRIDS),
      fc.constantFrom(60, 200),
      fc.uniqueArray(fc.nat(40), { minLength: 3, maxLength: 12 }),
      (grid, bpm, lines) => {
        const bare: Part = {
          ...smallPart(
            [
              ['snare', 0.25, 90],
              ['snare', 0.5, 90],
            ],
            { bars: 12 },
          ),
          tempo: [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }],
        };
        const id = newIds();
        const part = addHits(
          bare,
          lines.map((n) => ({ id: id(), voice: 'snare', tick: ticks(n * stepOf(grid)), velocity: 80 })),
        );
        expect(leans(part).every((lean) => lean === 0)).toBe(true);
        const nudged = addNudge(part, new Set(['n0']), milliseconds(9));
        nudged.hits.forEach((h, i) => expect(leanOf(nudged, performPart(nudged), i)).toBeCloseTo(h.id === 'n0' ? 9 : 0, 9));
      },
    ),
    { numRuns: 40 },
  );
});

test('quantized fully, a hit stands upright whatever it was read as; where the move is off, on its own line', () => {
  // A ghost 35 ms after "e", once read as a triplet: 0.32 of a quarter.
  const played = smallPart([
    ['snare', 0.32, 40],
    ['snare', 1, 100],
  ]);
  const part = { ...played, hits: played.hits.map((h, i) => (i === 0 ? { ...h, home: ticks(Q / 3), sure: 0.7, other: ticks(Q / 4) } : h)) };
  const quantize: Move = { kind: 'quantize', grid: '1/16', strength: 1, outer: 1, innerMs: 0, swingPercent: 50 };
  expect(placed(felt(part, quantize))).toEqual([0.25, 1]);
  expect(leans(felt(part, quantize))).toEqual([0, 0]);
  expect(leans(felt(part, { ...quantize, on: false }))[0]).toBeCloseTo((0.32 - 1 / 3) * 500, 2);
  // Later moves go by the line that it is on: swing moves the second sixteenth, not the third.
  expect(placed(felt(part, quantize, swing(60, '1/16')))[0]).toBeCloseTo(0.3, 9);
  expect(leans(felt(part, quantize, swing(60, '1/16')))[0]).toBeCloseTo(0, 9);
  // Half the pull: half the way, lean from the line that it goes to. Scope by bars goes by the stored home.
  expect(leans(felt(part, { ...quantize, strength: 0.5 }))[0]).toBeCloseTo(0.035 * 500, 2);
});

test('decided, it goes to its line however far that is', () => {
  const part = smallPart([['snare', 0.32, 40]]);
  const decided = { ...part, hits: part.hits.map((h) => ({ ...h, home: ticks(Q / 2), decided: true })) };
  expect(placed(felt(decided, { kind: 'quantize', grid: '1/16', strength: 1, outer: 0.2, innerMs: 0, swingPercent: 50 }))).toEqual([0.5]);
});

test('a beat of thirds stays one in a swung bar, its neighbours swing; as in feel@2 all of it does', () => {
  const part = smallPart([
    ['snare', 0, 90],
    ['snare', 1 / 3, 90],
    ['snare', 2 / 3, 90],
    ['snare', 1.5, 90],
    ['kick', 0.5, 90],
  ]);
  const at = (p: Part) => Object.fromEntries(p.hits.map((h, i) => [`${h.voice} ${(h.tick / Q).toFixed(2)}`, placed(p)[i]]));
  const swung = at(felt(part, swing(200 / 3)));
  expect(swung).toEqual({
    'snare 0.00': 0,
    'snare 0.33': expect.closeTo(1 / 3, 9),
    'snare 0.67': expect.closeTo(2 / 3, 9),
    'snare 1.50': expect.closeTo(5 / 3, 6),
    'kick 0.50': expect.closeTo(2 / 3, 6),
  });
  // By hand: the shift at a third is 0.7222 of a sixth of a quarter.
  expect(at(felt(part, { ...swing(200 / 3), lines: 'all' } as Move))['snare 0.33']).toBeCloseTo(0.4537, 3);
});

test('rolls and echoes follow the swing, and expanding them changes nothing that is heard', () => {
  const part = smallPart(
    [
      ['snare', 0.5, 90],
      ['kick', 2, 90],
    ],
    { bars: 2 },
  );
  const roll = setOrnament(part, new Set(['h0']), { kind: 'roll', strokes: '1/16', length: ticks(Q), speed: 0, to: 1, bend: 0 });
  const both = setOrnament(roll, new Set(['h1']), { kind: 'echo', steps: 1, grid: '1/8', repeats: 2, decay: 0.8 });
  const swung = felt(both, swing(60, '1/16'));
  const strokes = strokesOf(swung, performPart(swung));
  const own = (index: number) => [...strokes.ticks].filter((_, s) => strokes.hits[s] === index).map((t) => t / Q);
  // Sixteenths at 60 %: the second of each half quarter stands at 0.3.
  expect(own(0)).toEqual([0.5, 0.8, 1, 1.3].map((q) => expect.closeTo(q, 9)));
  expect(own(1)).toEqual([2, 2.5, 3].map((q) => expect.closeTo(q, 9)));
  const expanded = expandOrnaments(swung, new Set(['h0', 'h1']), newIds()).part;
  expect(expanded.hits.every((h) => h.home === h.tick)).toBe(true);
  expect(Buffer.compare(exportPart(expanded).bytes, exportPart(swung).bytes)).toBe(0);
  const straight = {
    ...swung,
    hits: swung.hits.map((h) => (h.ornament?.kind === 'roll' ? { ...h, ornament: { ...h.ornament, followsSwing: false } } : h)),
  };
  expect([...strokesOf(straight, performPart(straight)).ticks].slice(0, 4).map((t) => t / Q)).toEqual(
    [0.5, 0.75, 1, 1.25].map((q) => expect.closeTo(q, 9)),
  );
  // A roll of thirds keeps its pair straight.
  const thirds = felt(
    setOrnament(part, new Set(['h0']), { kind: 'roll', strokes: '1/16T', length: ticks(Q / 2), speed: 0, to: 1, bend: 0 }),
    swing(66),
  );
  expect([...strokesOf(thirds, performPart(thirds)).ticks].slice(0, 3).map((t) => t / Q)).toEqual(
    [0.5, 2 / 3, 5 / 6].map((q) => expect.closeTo(q, 6)),
  );
});

test('loud rows do not pile up at 127: what would pass comes back by as much', () => {
  const part = smallPart(
    Array.from({ length: 400 }, (_, i): [string, number, number] => ['snare', i / 4, 124]),
    { bars: 25 },
  );
  const human = (limit?: 'clip'): Move => ({
    kind: 'humanize',
    timingMs: 0,
    velocityPercent: 8,
    memory: 0,
    anchor: 0,
    span: 1,
    ...(limit ? { limit } : {}),
  });
  const at127 = (move: Move): number => [...performPart(felt(part, move)).velocities].filter((v) => v === 127).length;
  expect(at127(human('clip'))).toBeGreaterThan(120);
  expect(at127(human())).toBeLessThan(40);
  expect([...performPart(felt(part, { ...human(), velocityPercent: 0 } as Move)).velocities].every((v) => v === 124)).toBe(true);
});

test('a groove moves all hits of a line alike, and each keeps its own lean', () => {
  const steps = Array.from({ length: 16 }, (_, i) => ({ offset: i === 1 ? 0.2 : 0, level: 1, n: 4 }));
  const groove: Move = {
    kind: 'groove',
    groove: { format: 'nod-sway/groove@1', name: 'g', meter: [4, 4], beats: 4, stepsPerBeat: 4, steps },
    lean: 1,
    level: 1,
  };
  const part = smallPart([
    ['snare', 0.27, 90],
    ['kick', 0.23, 90],
    ['clap', 0.25, 90],
  ]);
  const lined = { ...part, hits: part.hits.map((h) => ({ ...h, home: ticks(Q / 4) })) };
  expect(placed(felt(lined, groove))).toEqual([0.28, 0.3, 0.32].map((q) => expect.closeTo(q, 4)));
});
