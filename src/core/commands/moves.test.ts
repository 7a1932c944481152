import fc from 'fast-check';
import { moveArbitrary, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { effectOfMove } from '../perform/effect';
import { EMPTY_FEEL, type Move } from '../model/feel';
import { performPart } from '../perform/perform';
import { READY_FEELS } from '../moves/ready-feels';
import { scopeOfHits } from '../feel/scope-of-hits';
import { exportPart } from '../smf/export-part';
import { milliseconds, TICKS_PER_QUARTER } from '../units';
import type { Part } from '../model/part';
import { DEFAULT_MOVES } from '../moves/all';
import { addMove, bake, changeMove, duplicateMove, removeMove, reorderMove } from './moves';

const swing: Move = { kind: 'swing', division: '1/16', percent: 60 };
const kinds = (part: Part): string[] => part.feel.moves.map((m) => m.kind);

test('moves are added, changed, copied, reordered and removed; at most 64 fit', () => {
  let part = addMove(addMove(smallPart([['kick', 0, 90]]), swing), DEFAULT_MOVES.humanize);
  part = duplicateMove(part, 0);
  expect(kinds(part)).toEqual(['swing', 'swing', 'humanize']);
  part = reorderMove(part, 2, 0);
  expect(kinds(part)).toEqual(['humanize', 'swing', 'swing']);
  part = changeMove(part, 1, { percent: 66, scope: { voices: ['kick'] } });
  expect(part.feel.moves[1]).toEqual({ ...swing, percent: 66, scope: { voices: ['kick'] } });
  expect(changeMove(part, 1, { scope: undefined }).feel.moves[1]).toEqual({ ...swing, percent: 66 });
  expect(kinds(removeMove(part, 0))).toEqual(['swing', 'swing']);
  const full = Array.from({ length: 70 }).reduce<Part>((p) => addMove(p, swing), part);
  expect(full.feel.moves).toHaveLength(64);
});

test('baked, then performed: the same notes to the tick of an export, at any resolution; the feel and nudges are empty', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(moveArbitrary, { maxLength: 4 }), fc.constantFrom(96, 480, 960, 15360), (random, moves, ppq) => {
      const part: Part = { ...random, feel: { ...random.feel, moves }, hits: random.hits.filter((h) => !h.choke) };
      const baked = bake(part);
      expect(baked.hits.some((h) => h.nudge)).toBe(false);
      expect(baked.feel.moves).toEqual([]);
      const notes = (p: Part): string[] => {
        const performed = performPart(p);
        return p.hits.map((h, i) => `${h.id} ${Math.floor(performed.ticks[i]! + 0.5)} ${performed.velocities[i]}`).sort();
      };
      expect(notes(baked)).toEqual(notes(part));
      // Rounded to ticks twice, an export may differ where a hit lies within half an inner tick of a rounding edge: none here does by more
      // than one.
      expect(exportPart(baked, { ppq }).notes).toBe(exportPart(part, { ppq }).notes);
    }),
  );
});

test('what a move changes right now, against the same feel without it', () => {
  const part: Part = {
    ...smallPart([
      ['hat-closed', 0, 90],
      ['hat-closed', 0.25, 90],
      ['snare', 1, 80],
    ]),
    feel: {
      ...EMPTY_FEEL,
      moves: [swing, { kind: 'lay', ms: 10, scope: { voices: ['snare'] } }, { ...DEFAULT_MOVES.accents, scale: 0.5, on: false }],
    },
  };
  const performance = performPart(part);
  // A tenth of a pair of 250 ms.
  expect(effectOfMove(part, performance, 0)).toMatchObject({
    hits: 1,
    meanMs: expect.closeTo(25, 6),
    largestMs: expect.closeTo(25, 6),
    largestVelocity: 0,
  });
  expect(effectOfMove(part, performance, 0)).toMatchObject({ moved: 1, levelled: 0 });
  expect(effectOfMove(part, performance, 1)).toMatchObject({ hits: 1, meanMs: expect.closeTo(10, 6) });
  expect(effectOfMove(part, performance, 2).hits).toBe(0);
});

test('the scope of some hits: their rows, bars and steps, where these narrow anything', () => {
  const part = smallPart(
    [...Array.from({ length: 16 }, (_, i) => ['hat-closed', i / 2, 90] as const), ['snare', 1, 90], ['snare', 5, 90]],
    { bars: 2 },
  );
  const ids = (pick: (h: Part['hits'][number]) => boolean) => new Set(part.hits.filter(pick).map((h) => h.id));
  const half = TICKS_PER_QUARTER / 2;
  expect(
    scopeOfHits(
      part,
      ids((h) => h.voice === 'hat-closed' && (h.tick / half) % 2 === 1),
      '1/8',
    ),
  ).toEqual({ voices: ['hat-closed'], steps: { grid: '1/8', of: 8, at: [1, 3, 5, 7] } });
  expect(
    scopeOfHits(
      part,
      ids((h) => h.tick < 8 * half),
      '1/8',
    ),
  ).toEqual({ bars: { from: 1, to: 1 } });
  expect(
    scopeOfHits(
      part,
      ids(() => true),
      '1/8',
    ),
  ).toBeUndefined();
  expect(scopeOfHits(part, new Set(), '1/8')).toBeUndefined();
});

test('the eight ready feels differ from each other, keep nudges out, and are heard on a plain beat', () => {
  expect(READY_FEELS).toHaveLength(8);
  const beat = smallPart(
    [
      ...Array.from({ length: 32 }, (_, i) => ['hat-closed', i / 4 + (i % 3 === 0 ? 0.01 : 0), 90] as const),
      ['snare', 1, 100],
      ['kick', 0, 100],
      ['snare', 3, 100],
    ],
    { bars: 2 },
  );
  const heard = READY_FEELS.map(({ feel }) => {
    const p = performPart({ ...beat, feel });
    return [...p.ticks].map((t) => Math.round(t / 100)).join() + [...p.velocities].join();
  });
  expect(new Set(heard).size).toBe(8);
  const nudged: Part = {
    ...beat,
    feel: READY_FEELS[0]!.feel,
    hits: beat.hits.map((h) => (h.voice === 'kick' ? { ...h, nudge: { ms: milliseconds(6), velocity: 0 } } : h)),
  };
  const plain = performPart({ ...beat, feel: READY_FEELS[0]!.feel });
  const k = beat.hits.findIndex((h) => h.voice === 'kick');
  expect(performPart(nudged).ticks[k]! - plain.ticks[k]!).toBeCloseTo(6 * (TICKS_PER_QUARTER / 500), 4);
});
