import { breakOf, randomBeat } from '@tests/support/breaks';
import { learnGroove } from '../learn/learn';
import type { StruckSound } from '../onsets/classify';
import { guessStrokes, placesOf } from '../onsets/classify';
import { hearBreak } from '../onsets/hear-break';
import { performPart } from '../perform/perform';
import { seconds, TICKS_PER_QUARTER } from '../units';
import { freshBreak, hearStrokes, markStroke, partOfBreak } from './edit';
import { partHeard, strokesCounted } from './heard-part';
import { heardIn, strokesOfBreak, type BreakStroke } from './strokes';

const stroke = (at: number, kind: BreakStroke['kind'], rest: Partial<BreakStroke> = {}): BreakStroke => ({
  id: `n${at}`,
  at: seconds(at),
  over: 2,
  level: 0.1,
  kind,
  sure: 0.9,
  byHand: false,
  belowThreshold: false,
  ...rest,
});
const struck = (sound: StruckSound['sound'], level: number, late = 0): StruckSound => ({ sound, level, late, sure: 0.9 });
/** To a thousandth: ticks are whole. */
const quarters = (tick: number): number => Math.round((1000 * tick) / TICKS_PER_QUARTER) / 1000;
/** Two bars, the second a tenth of a second longer. */
const drifting = { name: 'Loop', meter: [4, 4] as const, lines: [0.5, 2.5, 4.6].map(seconds) };

test('what falls together has a hit each, at its own moment and as hard as it is among its own', () => {
  const strokes = [stroke(0.5, 'kick', { also: 'hat' }), stroke(1, 'hat'), stroke(3.55, 'snare')];
  const part = partHeard(drifting, strokes, [
    [struck('kick', 0.3), struck('hat', 0.05, 0.01)],
    [struck('hat', 0.1)],
    [struck('snare', 0.2)],
  ]);
  // 118 BPM on average; within the first bar a quarter lasts 0.5 s, within the second 0.525 s, which is no lean.
  expect(part.hits.map((h) => [h.voice, quarters(h.tick), h.velocity])).toEqual([
    ['kick', 0, 112],
    // Half as loud as the other: 112 x 0.5 ^ (2/3) = 70.6.
    ['hat-closed', 0.02, 71],
    ['hat-closed', 1, 112],
    ['snare', 6, 112],
  ]);
  expect([part.bars, part.name, part.tempo[0]!.microsecondsPerQuarter]).toEqual([2, 'Loop', 512_500]);
});

test('the hand goes before the ear: a named stroke is that alone, also where nobody heard it', () => {
  const named = [stroke(0.5, 'snare', { sure: 1 }), stroke(1.5, 'kick', { sure: 1, also: 'other', level: 0.4 })];
  const { hits } = partHeard(drifting, named, [[struck('kick', 0.3), struck('snare', 0.1, -0.002)], [struck('hat', 0.3)]]);
  expect(hits.map((h) => [h.voice, quarters(h.tick)])).toEqual([
    ['snare', -0.004],
    ['kick', 2],
    ['own:other', 2],
  ]);
});

test('what drowns, or lies outside of the bars, is none of it', () => {
  const strokes = [
    stroke(-0.6, 'kick'),
    stroke(0.1, 'kick'),
    stroke(1, 'kick', { belowThreshold: true }),
    stroke(2, 'kick'),
    stroke(4.7, 'kick'),
    stroke(5.7, 'kick'),
  ];
  const counted = strokesCounted(drifting, strokes);
  expect(counted.map((s) => s.at)).toEqual([0.1, 2, 4.7]);
  expect(
    partHeard(
      drifting,
      counted,
      counted.map(() => [struck('kick', 0.1)]),
    ).hits.map((h) => quarters(h.tick)),
  ).toEqual([3]);
});

test('the groove learnt so is that of the part, and goes by what the hand says', () => {
  const { mono, rate, part, bpm } = breakOf(randomBeat(2, 'Sailcloth'), 44_100);
  const heard = hearStrokes(
    partOfBreak(freshBreak({ id: 'b', name: 'Loop', sample: 'ab'.repeat(32), seconds: seconds(mono.length / rate) })),
    'b',
    hearBreak(mono, rate),
  );
  const learnt = (from: typeof heard) => {
    const [of] = from.breaks!;
    const counted = strokesCounted(of!, strokesOfBreak(of!, heardIn(from, 'b')));
    return partHeard(
      of!,
      counted,
      guessStrokes(
        mono,
        rate,
        placesOf(
          counted.map((s) => s.at),
          mono.length / rate,
        ),
      ).map((g) => g.struck),
    );
  };
  const steps = learnGroove(learnt(heard)).steps;
  const truth = learnGroove(part, {}, performPart(part)).steps;
  const both = steps.flatMap((s, k) =>
    s.n > 0 && truth[k]!.n > 0 ? [{ ms: ((s.offset - truth[k]!.offset) * 15_000) / bpm, level: s.level / truth[k]!.level - 1 }] : [],
  );
  expect(both.length).toBeGreaterThanOrEqual(truth.filter((s) => s.n > 0).length - 1);
  expect(both.filter((s) => Math.abs(s.level) <= 0.1).length / both.length).toBeGreaterThanOrEqual(0.85);
  expect(both.filter((s) => Math.abs(s.ms) <= 2.5).length / both.length).toBeGreaterThanOrEqual(0.85);
  // Without its first snare one hit is gone.
  const snare = strokesOfBreak(heard.breaks![0]!, heardIn(heard, 'b')).find((s) => s.kind === 'snare' && !s.belowThreshold)!;
  const snares = (from: typeof heard) => learnt(from).hits.filter((h) => h.voice === 'snare').length;
  expect(snares(markStroke(heard, 'b', snare.id, { gone: true }))).toBe(snares(heard) - 1);
});
