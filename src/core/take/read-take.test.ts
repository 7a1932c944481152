import { smallPart } from '@tests/support/arbitraries';
import { OPEN_GUARDS, type TakeEvent, type Take } from '../model/take';
import { normalStream, randomStream } from '../random';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { STRAIGHT_CURVE } from '../velocity-curve';
import { readingsOfTake } from './read-take';
import { withTakeRead } from './take-lines';
import { putTake } from './use-take';

const Q = TICKS_PER_QUARTER;
/** The second bar of 4/4 at 120 BPM, four times: two seconds a pass. */
const take: Take = {
  id: 't1',
  name: 'Take 1',
  recordedAt: 0,
  input: 'pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(4 * Q),
  end: ticks(8 * Q),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: OPEN_GUARDS,
  passes: 4,
  complete: true,
};
const HATS = [42, 44, 46, 51];
/** Triplets on each beat, a pass on each of four keys, played about 12 ms off; the truth in quarters from the loop's start. */
function played(): { events: TakeEvent[]; truth: number[] } {
  const normal = normalStream(randomStream(4));
  const strokes = HATS.flatMap((key, pass) =>
    Array.from({ length: 12 }, (_, i) => ({ key, home: i / 3, at: pass * 2 + i / 6 + 0.012 * normal() })),
  );
  const sorted = strokes.sort((a, b) => a.at - b.at);
  return { events: sorted.map(({ key, at }) => ({ at: seconds(at), kind: 'note', key, value: 96 })), truth: sorted.map((s) => s.home) };
}

test('passes are read one after another: triplets that the nearest sixteenths miss; what is there keeps its lines', () => {
  const { events, truth } = played();
  const before = smallPart(
    [
      ['kick', 4, 100],
      ['kick', 6.1, 100],
      ['snare', 1, 90],
    ],
    { bars: 3 },
  );
  const part = putTake(before, take, events);
  const homeOf = (p: typeof part, i: number): number => (p.hits.find((h) => h.id === `take:t1:${i}`)!.home - take.start) / Q;
  const isRight = (home: number, wanted: number): boolean =>
    Math.abs((((home - wanted) % 4) + 4) % 4) < 0.001 || Math.abs(((((home - wanted) % 4) + 4) % 4) - 4) < 0.001;
  expect(truth.filter((t, i) => !isRight(homeOf(part, i), t)).length).toBeGreaterThan(20);
  const read = withTakeRead(part, take, readingsOfTake(part, take, events));
  expect(truth.filter((t, i) => !isRight(homeOf(read, i), t))).toEqual([]);
  const others = (p: typeof part) => p.hits.filter((h) => !h.id.startsWith('take:'));
  expect(others(read)).toEqual(others(before));
  // Every line lies in the loop, and its hit beside it.
  for (const hit of read.hits.filter((h) => h.id.startsWith('take:'))) {
    expect(hit.home >= take.start && hit.home < take.end).toBe(true);
    expect(Math.abs(hit.tick - hit.home)).toBeLessThan(Q / 6);
  }
  // Decisions stay where it is read again.
  const decided = { ...read, hits: read.hits.map((h, i) => (i === 9 ? { ...h, home: ticks(h.home + Q / 3), decided: true } : h)) };
  expect(withTakeRead(decided, take, readingsOfTake(decided, take, events)).hits[9]).toBe(decided.hits[9]);
});

test('a stroke that belongs to the loop’s end goes with its line to the start', () => {
  const part = putTake(smallPart([], { bars: 3 }), take, [{ at: seconds(1.9), kind: 'note', key: 36, value: 100 }]);
  const [hit] = part.hits;
  const read = withTakeRead(part, take, new Map([[hit!.id, { was: hit!.tick, home: ticks(8 * Q) }]]));
  expect([read.hits[0]!.home, read.hits[0]!.tick]).toEqual([take.start, hit!.tick - 4 * Q]);
});
