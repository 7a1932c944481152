import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { tracksOf } from '@tests/support/read-midi';
import { OPEN_GUARDS, USUAL_GUARDS, type TakeEvent, type Take } from '../model/take';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER, type Milliseconds } from '../units';
import { STRAIGHT_CURVE, throughCurve } from '../velocity-curve';
import { foldTake } from './fold';
import { opennessOf, USUAL_HAT } from '../articulation/openness';
import { HatPedal, learntHat, NEW_PEDAL_LESSON, pedalMoved, type PedalPlay } from './hat-pedal';
import { learnCurve, NEW_LESSON, STRENGTHS, struckIn, WANTED, wantedIn } from './learn-curve';
import { rawMidi } from './raw-midi';
import { hitsOfTake } from './use-take';

/** What comes in from pads: ends of notes, the hat's pedal, pressure, bounces, crosstalk, curves. */

const Q = TICKS_PER_QUARTER;
const take = (change: Partial<Take> = {}): Take => ({
  id: 't',
  name: 'Take',
  recordedAt: 0,
  input: 'pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(4 * Q),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: OPEN_GUARDS,
  passes: 1,
  complete: true,
  ...change,
});
const event = (kind: TakeEvent['kind'], at: number, key: number, value = 90): TakeEvent => ({ at: seconds(at), kind, key, value });
const note = (at: number, key: number, value = 90) => event('note', at, key, value);
const pedal = (at: number, value: number) => event('pedal', at, 4, value);
const part = smallPart([], { bars: 1 });
/** Voice and place in milliseconds. */
const played = (of: Take, events: readonly TakeEvent[]) =>
  hitsOfTake(part, of, events).map((h) => [h.choke ? `choke ${h.voice}` : h.voice, Math.round((h.tick / Q) * 500)]);

test('a note that is let go is as long as it was held; one that is not has the usual length', () => {
  const hits = hitsOfTake(part, take(), [note(0, 36), note(0.25, 38), event('off', 0.3, 38), event('off', 1, 36), note(1.5, 42)]);
  expect(hits.map((h) => [h.voice, h.length])).toEqual([
    ['kick', 2 * Q],
    ['snare', Math.round(0.1 * Q)],
    ['hat-closed', Q / 8],
  ]);
});

test('raw, ends stand where they came, each note has one', () => {
  const [track] = tracksOf(
    rawMidi(take(), [note(0, 36), event('off', 0.25, 36), note(0.5, 36), note(1, 38), event('off', 1.9, 38), event('off', 1.95, 99)]),
  );
  const inQuarters = (type: string) => track!.flatMap((e) => (e.type === type && 'noteNumber' in e ? [[e.noteNumber, e.at / 10_080]] : []));
  expect(inQuarters('noteOn')).toEqual([
    [36, 0],
    [36, 1],
    [38, 2],
  ]);
  expect(inQuarters('noteOff')).toEqual([
    [36, 0.5],
    [36, 1],
    [38, 3.8],
    [99, 3.9],
  ]);
});

test('how far the pedal is pressed makes closed, half and open hats of one key, either way round', () => {
  const strokes = [pedal(0, 127), note(0.05, 42), pedal(0.3, 60), note(0.35, 42), pedal(0.6, 10), note(0.65, 42)];
  expect(played(take({ hat: USUAL_HAT }), strokes)).toEqual([
    ['hat-closed', 50],
    ['hat-half', 350],
    ['hat-open', 650],
  ]);
  const turned = strokes.map((e) => (e.kind === 'pedal' ? { ...e, value: 127 - e.value } : e));
  expect(played(take({ hat: { ...USUAL_HAT, turned: true } }), turned)).toEqual([
    ['hat-closed', 50],
    ['hat-half', 350],
    ['hat-open', 650],
  ]);
  // A pedal that was not learnt says nothing.
  expect(played(take(), strokes).map(([voice]) => voice)).toEqual(['hat-closed', 'hat-closed', 'hat-closed']);
  expect([90, 89, 40, 39].map((v) => opennessOf(USUAL_HAT, v))).toEqual(['closed', 'half', 'half', 'open']);
  expect([learntHat(120, 5), learntHat(3, 127), learntHat(60, 50)]).toEqual([USUAL_HAT, { ...USUAL_HAT, turned: true }, null]);
});

test('a pedal is learnt by pressing and letting go; a curve by three times eight strokes of one pad', () => {
  const moved = (values: readonly number[]) => values.reduce(pedalMoved, NEW_PEDAL_LESSON).learnt;
  expect(moved([4, 30, 80, 120, 118, 60])).toEqual(USUAL_HAT);
  expect(moved([124, 80, 10, 9, 90])).toEqual({ ...USUAL_HAT, turned: true });
  expect([moved([4, 30, 120]), moved([50, 60, 50])]).toEqual([null, null]);
  let lesson = NEW_LESSON;
  const wanted: unknown[] = [];
  for (let i = 0; i < 24; i++) {
    wanted.push(wantedIn(lesson));
    lesson = struckIn(struckIn(lesson, 38, [30, 70, 110][Math.floor(i / 8)]!), 40, 1);
  }
  expect(wanted.filter((_, i) => i % 8 === 0)).toEqual(['soft', 'medium', 'hard']);
  expect([wantedIn(lesson), lesson.key, lesson.strokes.hard]).toEqual([null, 38, Array<number>(8).fill(110)]);
});

test('closing slowly ends what rings; a fast press is the foot’s stroke, press and release its splash', () => {
  const hat = take({ hat: USUAL_HAT });
  const slow = [pedal(0, 0), note(0.1, 46), pedal(0.4, 50), pedal(0.6, 100)];
  expect(played(hat, slow)).toEqual([
    ['hat-open', 100],
    ['choke hat-open', 600],
  ]);
  // Nothing rings: nothing ends.
  expect(played(hat, [pedal(0, 0), pedal(0.4, 50), pedal(0.6, 100)])).toEqual([]);
  expect(played(hat, [pedal(0, 0), pedal(0.5, 20), pedal(0.52, 110)])).toEqual([['hat-pedal', 520]]);
  expect(played(hat, [pedal(0, 0), pedal(0.5, 20), pedal(0.52, 110), pedal(0.6, 12)])).toEqual([['hat-splash', 520]]);
  expect(played(hat, [pedal(0, 0), pedal(0.5, 20), pedal(0.52, 110), pedal(1, 12)])).toEqual([['hat-pedal', 520]]);
  // The faster, the louder.
  const loud = (took: number): PedalPlay | null => {
    const foot = new HatPedal(USUAL_HAT);
    foot.move(seconds(1), 10);
    return foot.move(seconds(1 + took), 127);
  };
  const velocities = [0.01, 0.03, 0.06].map((took) => (loud(took) as { velocity: number }).velocity);
  expect(velocities).toEqual([...velocities].sort((a, b) => b - a));
  expect(velocities[0]! - velocities[2]!).toBeGreaterThan(40);
});

test('a hand around a cymbal chokes it, once a grab; elsewhere pressure is no grab', () => {
  const events = [
    note(0, 49),
    event('pressure', 0.4, 49, 50),
    event('pressure', 0.45, 49, 80),
    event('pressure', 0.5, 49, 90),
    event('pressure', 0.8, 49, 0),
    event('pressure', 0.9, 38, 127),
  ];
  expect(played(take(), events)).toEqual([
    ['crash', 0],
    ['choke crash', 450],
  ]);
});

test('bounces within 12 ms and crosstalk are kept out, and no stroke of a roll of sixteen a second', () => {
  expect(
    played(take({ guards: USUAL_GUARDS }), [note(0, 38), note(0.0115, 38, 60), note(0.1, 38), note(0.113, 38)]).map(([, at]) => at),
  ).toEqual([0, 100, 113]);
  const talk = take({ guards: { ...OPEN_GUARDS, crosstalk: { 48: 40 } } });
  // Soft on the tom right after the snare; the same alone, or nearly as loud, is a stroke.
  expect(
    played(talk, [note(0, 38, 100), note(0.004, 48, 30), note(0.5, 48, 30), note(1, 38, 40), note(1.004, 48, 35)]).map(
      ([voice, at]) => `${voice} ${at}`,
    ),
  ).toEqual(['snare 0', 'tom-mid 500', 'snare 1000', 'tom-mid 1004']);
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 20, max: 127 }), { minLength: 31, maxLength: 31 }),
      fc.integer({ min: 0, max: 100 }),
      (velocities, seed) => {
        // Sixteen a second with scatter, each with a bounce within 12 ms.
        const roll = velocities.flatMap((v, i) => {
          const at = i * 0.0625 + ((seed * (i + 3)) % 7) / 1000;
          return [note(at, 38, v), note(at + 0.009, 38, Math.max(1, v >> 1))];
        });
        const folded = foldTake(take({ guards: { ...USUAL_GUARDS, crosstalk: { 48: 60 } } }), roll);
        expect(folded.map((s) => s.velocity)).toEqual(velocities);
      },
    ),
  );
});

test('a pad’s curve is learnt from soft, medium and hard strokes', () => {
  fc.assert(
    fc.property(fc.integer({ min: 5, max: 40 }), fc.integer({ min: 12, max: 40 }), fc.integer({ min: 12, max: 46 }), (soft, more, most) => {
      const middles = { soft, medium: soft + more, hard: soft + more + most };
      const around = (v: number) => [-2, 1, 0, 0, 2, -1, 0, 1].map((d) => v + d);
      const curve = learnCurve({ soft: around(middles.soft), medium: around(middles.medium), hard: around(middles.hard) })!;
      const heard = STRENGTHS.map((s) => throughCurve(curve, middles[s]));
      // Each strength comes near what is wanted of it, and is told from the others.
      heard.forEach((v, i) => expect(Math.abs(v - WANTED[STRENGTHS[i]!])).toBeLessThanOrEqual(26));
      expect(heard[1]! - heard[0]!).toBeGreaterThanOrEqual(10);
      expect(heard[2]! - heard[1]!).toBeGreaterThanOrEqual(10);
    }),
  );
  // 36, 76 and 116 need nothing but a little.
  const near = learnCurve({ soft: Array<number>(8).fill(36), medium: Array<number>(8).fill(76), hard: Array<number>(8).fill(116) })!;
  expect(STRENGTHS.map((s) => Math.round(throughCurve(near, WANTED[s]) - WANTED[s]))).toEqual([0, 0, 0]);
  expect(learnCurve({ soft: [50, 51], medium: [51, 52], hard: [90, 91] })).toBeNull();
  const own = take({ curves: { 38: { power: 1, floor: 60, ceiling: 127 } } });
  expect(foldTake(own, [note(0, 38, 1), note(0.5, 36, 1)]).map((s) => s.velocity)).toEqual([60, 1]);
});

test('all of it at once ends in hits of the loop', () => {
  const anything = fc.record({
    at: fc.double({ min: 0, max: 3.9, noNaN: true }),
    kind: fc.constantFrom<TakeEvent['kind'][]>('note', 'off', 'pedal', 'pressure'),
    key: fc.integer({ min: 0, max: 127 }),
    value: fc.integer({ min: 1, max: 127 }),
  });
  fc.assert(
    fc.property(fc.array(anything, { maxLength: 60 }), fc.boolean(), (list, turned) => {
      const events = [...list].sort((a, b) => a.at - b.at).map((e) => event(e.kind, e.at, e.kind === 'pedal' ? 4 : e.key, e.value));
      const hits = hitsOfTake(
        part,
        take({ passes: 2, hat: { ...USUAL_HAT, turned }, guards: { below: 3, doubleMs: 12 as Milliseconds, crosstalk: { 40: 50 } } }),
        events,
      );
      expect(new Set(hits.map((h) => h.id)).size).toBe(hits.length);
      for (const h of hits) {
        expect(h.tick).toBeLessThan(4 * Q);
        expect(h.length).toBeGreaterThanOrEqual(1);
        expect(h.velocity).toBeGreaterThanOrEqual(1);
      }
    }),
    { numRuns: 200 },
  );
});
