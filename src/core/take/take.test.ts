import { oneBarTake as take, struck as note } from '@tests/support/one-bar-take';
import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { exportPart } from '../smf/export-part';
import { deviation, mean } from '../statistics';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER, velocity } from '../units';
import type { Break, Slice } from '../model/break';
import { type TakeEvent } from '../model/take';
import { addVelocity } from '../commands/hits';
import type { Part } from '../model/part';
import { ClockMap } from './clock';
import { findDoubles } from './doubles';
import { foldTake } from './fold';
import { eventOfHit, hitIdOfEvent, hitsOfStrokes, withHits } from './hits-of-take';
import { measureLatency } from './latency';
import { wanderedBy, playLikeAPerson, STEADY_PRACTICE } from './practice';
import { PRACTICE_PATTERNS, strokesOfPattern, type PracticePattern } from './practice-patterns';
import { rawMidi } from './raw-midi';
import { tightnessOf } from './tightness';
import { putTake, withoutTake } from './use-take';
import { STRAIGHT_CURVE, throughCurve } from '../velocity-curve';

describe('latency', () => {
  const clicks = Array.from({ length: 16 }, (_, i) => seconds(10 + i * 0.5));
  test('the median and the spread of taps against their clicks; missed taps and a stray one do no harm', () => {
    const taps = clicks.flatMap((c, i) => (i === 3 || i === 9 ? [] : [seconds(c + 0.04 + (i % 2 ? 0.008 : -0.008))]));
    const found = measureLatency(clicks, [...taps, seconds(12.75)])!;
    // Fourteen taps, seven 8 ms early and seven 8 ms late, and the stray one beside a missed click, 212 ms off at most.
    expect(Math.abs(found.latencyMs - 40)).toBeLessThan(8.01);
    expect(found.taps).toBeLessThanOrEqual(15);
    expect(measureLatency(clicks, taps.slice(0, 5))).toBeNull();
    const exact = measureLatency(
      clicks,
      clicks.map((c) => seconds(c + 0.0625)),
    )!;
    expect([exact.latencyMs, exact.spreadMs, exact.taps]).toEqual([expect.closeTo(62.5, 6), expect.closeTo(0, 6), 16]);
  });

  test('any constant latency under half a click’s distance is found', () => {
    fc.assert(
      fc.property(fc.integer({ min: -200, max: 200 }), (ms) =>
        expect(
          measureLatency(
            clicks,
            clicks.map((c) => seconds(c + ms / 1000)),
          )!.latencyMs,
        ).toBeCloseTo(ms, 6),
      ),
    );
  });
});

test('clocks: the median of jittered pairs maps a stamp there and back', () => {
  const map = new ClockMap();
  expect(map.isKnown).toBe(false);
  for (let i = 0; i < 40; i++) map.add({ audio: seconds(i * 0.1 + (i % 5 === 0 ? 0.02 : ((i % 3) - 1) * 0.0004)), page: 1000 + i * 100 });
  expect(Math.abs(map.toAudio(3000) - 2)).toBeLessThan(0.0005);
  expect(map.toPage(map.toAudio(12345.5))).toBeCloseTo(12345.5, 6);
  map.reset();
  expect(map.isKnown).toBe(false);
});

describe('velocity curves', () => {
  test('straight, bent, limited', () => {
    expect([1, 64, 127].map((v) => throughCurve(STRAIGHT_CURVE, v))).toEqual([1, 64, 127]);
    expect(throughCurve({ power: 2, floor: 1, ceiling: 127 }, 64)).toBe(33);
    expect(throughCurve({ power: 1, floor: 20, ceiling: 100 }, 1)).toBe(20);
    expect(throughCurve({ power: 0.5, floor: 20, ceiling: 100 }, 127)).toBe(100);
  });
  test('harder never comes out softer', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.25, max: 4, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 61, max: 127 }),
        fc.integer({ min: 1, max: 126 }),
        (power, floor, ceiling, v) => {
          const curve = { power, floor, ceiling };
          expect(throughCurve(curve, v + 1)).toBeGreaterThanOrEqual(throughCurve(curve, v));
          expect(throughCurve(curve, v)).toBeGreaterThanOrEqual(floor);
        },
      ),
    );
  });
});

test('doubles: the much softer of two close strokes of one voice; flams of like strokes and other voices stay', () => {
  const part = smallPart([
    ['snare', 0, 100],
    ['snare', 0.06, 40],
    ['snare', 1, 40],
    ['snare', 1.05, 100],
    ['snare', 2, 90],
    ['snare', 2.06, 85],
    ['kick', 3, 100],
    ['snare', 3.02, 30],
    ['snare', 3.5, 30],
  ]);
  const all = new Set(part.hits.map((h) => h.id));
  // 0.06 of a quarter is 30 ms; h2 is softer than h3, which follows it.
  expect(findDoubles(part, all)).toEqual(['h1', 'h2']);
  expect(findDoubles(part, new Set(['h0', 'h3']))).toEqual([]);
});

describe('the practice player', () => {
  test('tempo drift stays within its percentage, starts at zero and depends on the seed', () => {
    const how = { seed: 4, wanderPercent: 5 };
    const at = Array.from({ length: 600 }, (_, i) => wanderedBy(how, i / 10));
    expect(at[0]).toBe(0);
    const rates = at.slice(1).map((delay, i) => (delay - at[i]!) / 0.1);
    expect(Math.max(...rates.map(Math.abs))).toBeLessThanOrEqual(0.05);
    expect(Math.max(...rates)).toBeGreaterThan(0.02);
    expect(Math.min(...rates)).toBeLessThan(-0.02);
    expect(wanderedBy({ ...how, seed: 5 }, 7)).not.toBe(wanderedBy(how, 7));
    expect(wanderedBy({ ...how, wanderPercent: 0 }, 7)).toBe(0);
  });

  const planned = Array.from({ length: 600 }, (_, i) => ({ at: seconds(i * 0.25), key: 42, velocity: 90 }));
  test('steady, it plays exactly what is planned', () => {
    expect(playLikeAPerson(planned, STEADY_PRACTICE).map(({ at, key, velocity }) => ({ at, key, velocity }))).toEqual(planned);
  });
  test('bias, spread, latency, jitter, misses and bounces are what they are set to; the same seed plays the same', () => {
    const practice = {
      ...STEADY_PRACTICE,
      seed: 5,
      biasMs: milliseconds(-10),
      spreadMs: milliseconds(8),
      latencyMs: milliseconds(40),
      jitterMs: milliseconds(4),
      missed: 0.1,
      doubled: 0.05,
    };
    const played = playLikeAPerson(planned, practice);
    const strokes = played.filter((p) => !p.bounced);
    const off = strokes.map((p) => (p.at - Math.round(p.at / 0.25) * 0.25) * 1000);
    expect(Math.abs(mean(off) - 30)).toBeLessThan(1);
    expect(Math.abs(deviation(off) - Math.hypot(8, 4))).toBeLessThan(0.6);
    expect(Math.abs(strokes.length / 600 - 0.9)).toBeLessThan(0.04);
    expect(Math.abs((played.length - strokes.length) / strokes.length - 0.05)).toBeLessThan(0.025);
    expect(playLikeAPerson(planned, practice)).toEqual(played);
    // In two calls as in one.
    const halves = [...playLikeAPerson(planned.slice(0, 300), practice), ...playLikeAPerson(planned.slice(300), practice, 300)];
    expect(halves.sort((a, b) => a.at - b.at)).toEqual(played);
  });
  test('drift: a percent slower at the end', () => {
    const last = playLikeAPerson(planned, { ...STEADY_PRACTICE, driftPercent: 1 }, 0, seconds(150)).at(-1)!;
    // Half of 1 % of the whole span.
    expect(last.at - 149.75).toBeCloseTo((0.01 * 149.75 ** 2) / 300, 9);
  });
});

test('keys from 36 up play the pieces of a break where a take says so', () => {
  const piece = (kind: 'kick' | 'snare', n: number): Slice => ({
    id: `n${n}`,
    from: seconds(n),
    until: seconds(n + 1),
    kind,
    velocity: velocity(100),
  });
  const of: Break = {
    id: 'brk',
    name: 'Loop',
    sample: 'ab',
    seconds: seconds(2),
    sensitivity: 0.5,
    hand: [],
    meter: [4, 4],
    lines: [seconds(0), seconds(2)],
    bar: 0,
    cut: 'strokes',
    gap: 'tail',
    pieces: [piece('kick', 0), piece('snare', 1)],
  };
  const part = { ...smallPart([['snare', 1, 90]]), breaks: [of] };
  const strokes = foldTake(take(), [note(0, 37), note(0.25, 36), note(0.5, 42)]);
  expect(hitsOfStrokes(part, { ...take(), id: 't1', pieces: 'brk' }, strokes).map((h) => [h.voice, h.piece])).toEqual([
    ['own:brk-snare', 1],
    ['own:brk-kick', 0],
    ['hat-closed', undefined],
  ]);
  expect(hitsOfStrokes(part, { ...take(), id: 't1' }, strokes).map((h) => h.piece)).toEqual([undefined, undefined, undefined]);
});

test('hits of a take carry their events, take their kit’s voices, and join the part with rows for them', () => {
  const part = smallPart([['snare', 1, 90]]);
  const strokes = foldTake(take(), [note(0, 36), note(0.25, 42), note(0.5, 99)]);
  const hits = hitsOfStrokes(part, { ...take(), id: 't1' }, strokes);
  expect(hits.map((h) => [h.id, h.voice])).toEqual([
    ['take:t1:0', 'kick'],
    ['take:t1:1', 'hat-closed'],
    ['take:t1:2', 'key-99'],
  ]);
  expect([eventOfHit(hitIdOfEvent('a:b', 12)), eventOfHit('h0')]).toEqual([{ take: 'a:b', event: 12 }, null]);
  expect(hitsOfStrokes(part, { ...take(), id: 't1' }, strokes, new Set(['kick'])).length).toBe(1);
  const joined = withHits(part, hits.slice(0, 2));
  expect([joined.rows.map((r) => r.voice), joined.hits.length]).toEqual([['hat-closed', 'snare', 'kick'], 3]);
  expect(withHits(joined, [], (h) => h.voice === 'snare').hits).toEqual(part.hits);
});

test('a take that is discarded leaves what was edited since, and the rows where they stand', () => {
  const before = smallPart([
    ['snare', 1, 90],
    ['hat-closed', 2, 70],
  ]);
  const rowsBefore = new Set(before.rows.map((r) => r.voice));
  const reordered: Part = { ...before, rows: [...before.rows].reverse() };
  const recorded = putTake(reordered, take(), [note(0, 36)]);
  expect(recorded.rows.slice(0, 2).map((r) => r.voice)).toEqual(reordered.rows.map((r) => r.voice));
  // By hand since: the snare softer.
  const edited = addVelocity(recorded, new Set(['h0']), -20);
  const gone = withoutTake(edited, 't1', [], rowsBefore);
  expect(gone.hits.map((h) => [h.voice, h.velocity])).toEqual([
    ['snare', 70],
    ['hat-closed', 70],
  ]);
  expect(gone.rows).toEqual(reordered.rows);
});

test('tightness: the constant part and what is left around it', () => {
  const part = smallPart([
    ['kick', 0.02, 90],
    ['kick', 1.04, 90],
    ['kick', 2.02, 90],
    ['kick', 3.04, 90],
  ]);
  // 10 and 20 ms late at 500 ms a quarter.
  const found = tightnessOf(part)!;
  expect([found.meanMs, found.spreadMs, found.hits]).toEqual([expect.closeTo(15, 1), expect.closeTo(5, 1), 4]);
  expect(tightnessOf(part, new Set())).toBeNull();
});

describe('the raw take as MIDI', () => {
  /** Notes and controls at quarters of the file. */
  const found = (bytes: Uint8Array) => {
    const { header, tracks } = parseMidi(bytes);
    let now = 0;
    const all = tracks[0]!.map((e) => ({ ...e, at: (now += e.deltaTime) / header.ticksPerBeat! }));
    return {
      strokes: all.flatMap((e) =>
        e.type === 'noteOn'
          ? [[e.at, e.noteNumber, e.velocity]]
          : e.type === 'controller'
            ? [[e.at, e.controllerType, e.value]]
            : e.type === 'noteAftertouch'
              ? [[e.at, e.noteNumber, e.amount]]
              : [],
      ),
      tempo: all.flatMap((e) => (e.type === 'setTempo' ? [[e.at, e.microsecondsPerBeat]] : [])),
      meter: all.flatMap((e) => (e.type === 'timeSignature' ? [[e.at, e.numerator, e.denominator]] : [])),
      name: all.flatMap((e) => (e.type === 'trackName' ? [e.text] : []))[0],
    };
  };

  test('in the part’s tempo, one pass after the other; count-in and pedal kept, nothing folded or moved', () => {
    // One bar of 4/4 at 100 BPM is 2.4 s.
    const events: TakeEvent[] = [
      note(-0.3, 38, 70),
      note(0.015, 36, 101),
      { at: seconds(1.2), kind: 'pedal', key: 4, value: 60 },
      { at: seconds(1.8), kind: 'pressure', key: 42, value: 90 },
      note(3, 36, 99),
    ];
    const { strokes, tempo, meter, name } = found(rawMidi(take({ tempo: [{ tick: ticks(0), microsecondsPerQuarter: 600_000 }] }), events));
    expect(strokes).toEqual(
      [
        [3.5, 38, 70],
        [4.025, 36, 101],
        [6, 4, 60],
        [7, 42, 90],
        [9, 36, 99],
      ].map(([at, ...rest]) => [expect.closeTo(at!, 3), ...rest]),
    );
    expect([tempo, meter]).toEqual([[[0, 600_000]], [[0, 4, 4]]]);
    expect(name).toContain('first downbeat in bar 2');
  });

  test('a loop whose tempo and meter change is written out for each pass', () => {
    const Q = TICKS_PER_QUARTER;
    const changing = take({
      start: ticks(4 * Q),
      end: ticks(11 * Q),
      tempo: [
        { tick: ticks(0), microsecondsPerQuarter: 500_000 },
        { tick: ticks(8 * Q), microsecondsPerQuarter: 1_000_000 },
      ],
      meter: [
        { tick: ticks(0), numerator: 4, denominator: 4 },
        { tick: ticks(8 * Q), numerator: 3, denominator: 4 },
      ],
    });
    // A pass takes 2 + 3 s.
    const { strokes, tempo, meter } = found(rawMidi(changing, [note(3, 36, 90), note(5.5, 38, 80)]));
    expect(strokes).toEqual([
      [5, 36, 90],
      [8, 38, 80],
    ]);
    expect(tempo).toEqual([
      [0, 500_000],
      [4, 1_000_000],
      [7, 500_000],
      [11, 1_000_000],
    ]);
    expect(meter).toEqual([
      [0, 4, 4],
      [4, 3, 4],
      [7, 4, 4],
      [11, 3, 4],
    ]);
  });
});

describe('pedal and pressure', () => {
  const control = (at: number, kind: 'pedal' | 'pressure', key: number, value: number): TakeEvent => ({
    at: seconds(at),
    kind,
    key,
    value,
  });

  test('what came within 30 ms before a stroke goes with it; pressure by its own key; older ones do not', () => {
    const folded = foldTake(take(), [
      control(0.4, 'pedal', 4, 10),
      control(0.49, 'pedal', 4, 70),
      control(0.495, 'pressure', 36, 5),
      control(0.495, 'pressure', 42, 33),
      note(0.5, 42),
      note(0.505, 36),
    ]);
    expect(folded.map((s) => s.companions)).toEqual([
      [
        { kind: 'pedal', value: 70, aheadMs: expect.closeTo(10, 6) },
        { kind: 'pressure', value: 33, aheadMs: expect.closeTo(5, 6) },
      ],
      undefined,
    ]);
  });

  test('written before its note wherever the feel puts it', () => {
    const part = smallPart([]);
    const hits = hitsOfStrokes(part, { ...take(), id: 't1' }, foldTake(take(), [control(0.49, 'pedal', 4, 70), note(0.5, 42, 90)]));
    const late = { ...withHits(part, hits), feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay' as const, ms: 50 }] } };
    let now = 0;
    const events = parseMidi(exportPart(late).bytes).tracks[0]!.flatMap((e) => {
      now += e.deltaTime;
      return e.type === 'controller'
        ? [['pedal', now, e.controllerType, e.value]]
        : e.type === 'noteOn'
          ? [['note', now, e.noteNumber, e.velocity]]
          : [];
    });
    // 500 ms and 50 more at 120 BPM and 960 a quarter: 1056; 10 ms before it are 19.2 ticks.
    expect(events).toEqual([
      ['pedal', 1037, 4, 70],
      ['note', 1056, 42, 90],
    ]);
  });
});

test('practice patterns: a layer a pass, struck by the kit’s own keys, bars of seven sixteenths cut', () => {
  const pattern: PracticePattern = { name: 'two layers', layers: [{ kick: 'X..x....' }, { snare: 'g.......' }] };
  const loop = {
    length: seconds(2),
    bars: [
      { start: 0, length: 1, sixteenths: 2 },
      { start: 1, length: 1, sixteenths: 4 },
    ],
  };
  const strokes = strokesOfPattern(pattern, (voice) => (voice === 'kick' ? 60 : 61), loop, seconds(0), seconds(4));
  expect(strokes.map((s) => [s.at, s.key, s.velocity])).toEqual([
    [0, 60, 112],
    [1, 60, 112],
    [1.75, 60, 92],
    [2, 61, 34],
    [3, 61, 34],
  ]);
  expect(strokesOfPattern(pattern, () => 60, loop, seconds(1), seconds(2)).map((s) => s.at)).toEqual([1, 1.75]);
  for (const { layers } of PRACTICE_PATTERNS)
    for (const signs of layers.flatMap((l) => Object.values(l))) expect(signs).toMatch(/^[Xxg.]{16}$/);
});

describe('stalls', () => {
  const clock = (lag: (i: number) => number) => {
    const map = new ClockMap();
    for (let i = 0; i < 60; i++) map.add({ audio: seconds(i / 10 - lag(i)), page: i * 100 });
    return map.stalls;
  };
  test('an audio clock that falls behind by more than 20 ms is noticed once, where it happened', () => {
    expect(clock((i) => (i < 30 ? 0 : 0.05))).toEqual([{ from: 2900, to: 3000 }]);
    expect(clock((i) => (i < 20 ? 0 : i < 40 ? 0.05 : 0.1)).map((s) => s.to)).toEqual([2000, 4000]);
  });
  test('jitter, a single late pair, slow drift and a clock that comes back are none', () => {
    expect(clock((i) => (i % 2) * 0.008)).toEqual([]);
    expect(clock((i) => (i === 30 ? 0.06 : 0))).toEqual([]);
    expect(clock((i) => i * 0.0002)).toEqual([]);
    expect(clock((i) => (i < 30 ? 0 : -0.05))).toEqual([]);
    expect(clock((i) => (i < 30 ? 0 : 0.018))).toEqual([]);
  });
});
