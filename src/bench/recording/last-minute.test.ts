import { oneBarTake } from '@tests/support/one-bar-take';
import { seconds } from '@/core/units';
import { takeOfRecent, type PlayedEvent } from './last-minute';

const take = oneBarTake({ passes: 0 });
const played = (at: number, startedAt: number | null, kind: PlayedEvent['event']['kind'] = 'note', key = 36): PlayedEvent => ({
  at: seconds(at),
  startedAt: startedAt === null ? null : seconds(startedAt),
  event: { kind, key, value: 90, page: at * 1000 },
});
const times = (recent: readonly PlayedEvent[]) => takeOfRecent(take, recent).events.map((e) => Math.round(e.at * 1000));

test('whole passes before the first note are taken off: it stands in the first pass where it was heard', () => {
  // Started at 50; the first note in the fourth pass, half a second in.
  const { take: kept, events } = takeOfRecent(take, [played(56.5, 50), played(57, 50), played(58.25, 50)]);
  expect(events.map((e) => [Math.round(e.at * 1000), e.key, e.value])).toEqual([
    [500, 36, 90],
    [1000, 36, 90],
    [2250, 36, 90],
  ]);
  // The last of them is in the second pass.
  expect(kept.passes).toBe(2);
});

test('played over nothing, time begins with the first note', () => {
  expect(times([played(70, null), played(70.75, null)])).toEqual([0, 750]);
});

test('the first note decides the passes, not the pedal before it', () => {
  expect(times([played(51.9, 50, 'pedal', 4), played(52.1, 50)])).toEqual([-100, 100]);
});

test('what was played after another start is placed by that start', () => {
  expect(times([played(52.5, 50), played(80.25, 80)])).toEqual([500, 250]);
});

test('nothing played: no events', () => {
  expect(takeOfRecent(take, []).events).toEqual([]);
});
