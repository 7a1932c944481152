import { oneBarTake as take, struck as note } from '@tests/support/one-bar-take';
import fc from 'fast-check';
import { bpm, milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { microsecondsOf } from '../time/tempo-map';
import { OPEN_GUARDS, type TakeEvent, type Take } from '../model/take';
import { foldTake, recordedStrokes } from './fold';

const Q = TICKS_PER_QUARTER;

describe('folding passes', () => {
  test('each event goes to its pass and place; 10 ms before the loop’s start is the downbeat of the pass to come', () => {
    const folded = foldTake(take(), [note(-0.01), note(0.5), note(1.99), note(2.503), note(5.25)]);
    // Two seconds a pass; 10 ms are 1612.8 ticks.
    expect(folded.map((s) => [s.pass, s.tick])).toEqual([
      [0, -1613],
      [0, Q],
      [1, -1613],
      [1, Math.round(Q + 0.006 * Q)],
      [2, Math.round(2.5 * Q)],
    ]);
    expect(recordedStrokes(foldTake(take(), [note(-0.9), note(0.1)])).map((s) => s.event)).toEqual([1]);
  });

  test('a loop that starts later keeps the early stroke before its bar line', () => {
    const [early] = foldTake(take({ start: ticks(4 * Q), end: ticks(8 * Q) }), [note(1.99)]);
    expect([early!.pass, early!.tick]).toEqual([1, 4 * Q - 1613]);
  });

  test('latency comes off, soft strokes and bounces are kept out, velocities go through the curve', () => {
    const events = [note(0.04, 36, 100), note(0.06, 36, 40), note(0.54, 38, 9), note(0.54, 42, 64)];
    const folded = foldTake(
      take({ latencyMs: milliseconds(40), guards: { below: 10, doubleMs: milliseconds(30) }, curve: { power: 2, floor: 1, ceiling: 127 } }),
      events,
    );
    expect(folded.map((s) => [s.event, s.tick, s.velocity])).toEqual([
      [0, 0, 79],
      [3, Q, 33],
    ]);
  });

  test('guards at their edges: the softest that counts, the moment a second stroke counts again, crosstalk by time and force', () => {
    const kept = (guards: Take['guards'], ...events: TakeEvent[]) => foldTake(take({ guards }), events).map((s) => s.event);
    expect(kept({ ...OPEN_GUARDS, below: 10 }, note(0.1, 36, 9), note(0.2, 36, 10))).toEqual([1]);
    // Counted from the last stroke that counted.
    const doubles = { ...OPEN_GUARDS, doubleMs: milliseconds(30) };
    expect(kept(doubles, note(0.1), note(0.1299), note(0.1301))).toEqual([0, 2]);
    expect(kept(doubles, note(0.1, 36), note(0.11, 38))).toEqual([0, 1]);
    const cross = { ...OPEN_GUARDS, crosstalk: { 42: 50 } };
    // 60 % of 80 is 48; within 15 ms.
    expect(kept(cross, note(0.1, 38, 80), note(0.114, 42, 48))).toEqual([0]);
    expect(kept(cross, note(0.1, 38, 80), note(0.114, 42, 49))).toEqual([0, 1]);
    expect(kept(cross, note(0.1, 38, 80), note(0.1151, 42, 48))).toEqual([0, 1]);
    expect(kept(cross, note(0.1, 38, 127), note(0.11, 42, 50))).toEqual([0, 1]);
    expect(kept(cross, note(0.1, 42, 127), note(0.11, 42, 40))).toEqual([0, 1]);
    // The hardest of the latest counts, not the last.
    expect(kept(cross, note(0.1, 38, 80), note(0.105, 36, 40), note(0.11, 42, 45))).toEqual([0, 1]);
  });

  test('the loop’s edges: the first line past the middle before its end is the next downbeat, in its own pass', () => {
    // A sixteenth at 120 is 125 ms: its middle lies 62.5 ms before the end of two seconds.
    const place = (at: number) => foldTake(take(), [note(at)]).map((s) => [s.pass, s.tick]);
    const ms = (n: number) => Math.round((n / 500) * Q);
    expect(place(2 - 0.063)).toEqual([[0, 4 * Q - ms(63)]]);
    expect(place(2 - 0.062)).toEqual([[1, -ms(62)]]);
    expect(place(2)).toEqual([[1, 0]]);
    expect(place(0)).toEqual([[0, 0]]);
    // Latency comes off first: it may take a stroke back over the edge.
    expect(foldTake(take({ latencyMs: milliseconds(70) }), [note(2)]).map((s) => [s.pass, s.tick])).toEqual([[0, 4 * Q - ms(70)]]);
  });

  test('strokes are recorded from the first downbeat to the end of the last pass, without dropped passes', () => {
    const strokes = foldTake(take(), [note(-0.5), note(-0.01), note(0.5), note(2.5), note(3.99), note(4.5)]);
    expect(strokes.map((s) => s.pass)).toEqual([-1, 0, 0, 1, 2, 2]);
    expect(recordedStrokes(strokes).map((s) => s.event)).toEqual([1, 2, 3, 4, 5]);
    expect(recordedStrokes(strokes, 2).map((s) => s.event)).toEqual([1, 2, 3]);
    expect(recordedStrokes(strokes, 2, [0]).map((s) => s.event)).toEqual([3]);
  });

  test('a grab is pressure that rises above 64, once until it falls again', () => {
    const pressure = (at: number, value: number): TakeEvent => ({ at: seconds(at), kind: 'pressure', key: 49, value });
    const grabs = (...values: number[]) =>
      foldTake(
        take(),
        values.map((v, i) => pressure(0.1 * (i + 1), v)),
      ).map((s) => s.event);
    expect(grabs(64)).toEqual([]);
    expect(grabs(65)).toEqual([0]);
    expect(grabs(64, 65, 127, 65, 64, 65)).toEqual([1, 5]);
  });

  test('pedals and pressure within 30 ms go with the stroke that follows, pressure with its own key alone', () => {
    const other = (at: number, kind: 'pedal' | 'pressure', key: number): TakeEvent => ({ at: seconds(at), kind, key, value: 50 });
    const carried = (...events: TakeEvent[]) =>
      foldTake(take(), events)
        .filter((s) => !s.grab)
        .map((s) => (s.companions ?? []).map((c) => [c.kind, Math.round(c.aheadMs)]));
    expect(carried(other(0.08, 'pedal', 4), note(0.1))).toEqual([[['pedal', 20]]]);
    expect(carried(other(0.0699, 'pedal', 4), note(0.1))).toEqual([[]]);
    expect(carried(other(0.0701, 'pedal', 4), note(0.1))).toEqual([[['pedal', 30]]]);
    expect(carried(other(0.09, 'pressure', 38), note(0.1, 36))).toEqual([[]]);
    expect(carried(other(0.09, 'pressure', 36), note(0.1, 36), note(0.11, 36))).toEqual([[['pressure', 10]], []]);
  });

  test('wherever it is played: the place is right to a tick, and a later event is never in an earlier pass', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 30, noNaN: true }), { maxLength: 30 }),
        fc.integer({ min: -50, max: 200 }),
        fc.integer({ min: 60, max: 240 }),
        (times, latency, tempo) => {
          const t = take({
            latencyMs: milliseconds(latency),
            tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(tempo)) }],
          });
          const length = (4 * 60) / tempo;
          const folded = foldTake(
            t,
            [...times].sort((a, b) => a - b).map((at) => note(at)),
          );
          folded.forEach((s, i) => {
            const at = [...times].sort((a, b) => a - b)[s.event]! - latency / 1000;
            expect(Math.abs(s.pass * length + (s.tick / (4 * Q)) * length - at)).toBeLessThan(1e-4);
            if (i > 0) expect(s.pass).toBeGreaterThanOrEqual(folded[i - 1]!.pass);
          });
        },
      ),
    );
  });
});

test('openness by the pedal as it was last, either way round; a position just before its stroke alone', () => {
  const control = (at: number, kind: 'pedal' | 'position', value: number): TakeEvent => ({
    at: seconds(at),
    kind,
    key: kind === 'pedal' ? 4 : 16,
    value,
  });
  const events = [
    note(0.1, 42),
    control(0.2, 'pedal', 127),
    control(0.49, 'position', 70),
    note(0.5, 42),
    note(0.6, 38),
    control(0.7, 'pedal', 20),
    control(0.9, 'position', 5),
    note(1, 42),
  ];
  const said = (folding: Take) => foldTake(folding, events).flatMap((s) => (s.foot ? [] : [[s.openness, s.position]]));
  expect(said(take())).toEqual([
    [undefined, undefined],
    [0, 70],
    [0, undefined],
    // 100 ms before is no position of it.
    [107, undefined],
  ]);
  expect(said(take({ hat: { closedFrom: 90, openBelow: 40, turned: true } })).map(([openness]) => openness)).toEqual([
    undefined,
    127,
    127,
    20,
  ]);
});
