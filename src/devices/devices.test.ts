import { STEADY_PRACTICE } from '@/core/take/practice';
import { seconds, type Seconds } from '@/core/units';
import { readMessage, type InputEvent } from './input';
import { Receiver } from './output';
import { PADS, PadDevice } from './pads';
import { PracticePlayer } from './practice-player';

test('MIDI messages: strokes, the hat pedal, pressure; nothing else says anything', () => {
  expect(readMessage([0x99, 38, 100], 12.5)).toEqual({ page: 12.5, kind: 'note', key: 38, value: 100 });
  expect(readMessage([0xb9, 16, 31], 1)).toEqual({ page: 1, kind: 'position', key: 16, value: 31 });
  expect(readMessage([0xb9, 4, 77], 1)).toEqual({ page: 1, kind: 'pedal', key: 4, value: 77 });
  expect(readMessage([0xa3, 42, 9], 1)).toEqual({ page: 1, kind: 'pressure', key: 42, value: 9 });
  expect(readMessage([0x89, 38, 64], 2)).toEqual({ page: 2, kind: 'off', key: 38, value: 64 });
  expect(readMessage([0x99, 38, 0], 2)).toEqual({ page: 2, kind: 'off', key: 38, value: 0 });
  for (const bytes of [[0xb9, 7, 100], [0xf8], []]) expect(readMessage(bytes, 0)).toBeNull();
});

test('pads strike until they are no longer listened to; no two share a voice or a place on the keyboard', () => {
  const pads = new PadDevice();
  const events: InputEvent[] = [];
  const stop = pads.listen((e) => events.push(e));
  pads.strike(36, 90, 5);
  stop();
  pads.strike(36, 90, 6);
  expect(events).toEqual([{ page: 5, kind: 'note', key: 36, value: 90 }]);
  expect(new Set(PADS.map((p) => p.voice)).size).toBe(PADS.length);
  expect(new Set(PADS.map((p) => p.code)).size).toBe(PADS.length);
});

test('the receiver keeps what it was given', () => {
  const receiver = new Receiver();
  receiver.send([0x99, 36, 100], 10);
  expect(receiver.received).toEqual([{ bytes: [0x99, 36, 100], page: 10 }]);
});

test('the practice player tells of each stroke once, stamped with its time, however late it looks; a new start begins anew', () => {
  jest.useFakeTimers();
  try {
    const stage = { at: 10 as number, start: 9.5 as number | null };
    const player = new PracticePlayer(
      { now: () => seconds(stage.at), pageTimeOf: (audio) => audio * 1000 + 7, startedAt: () => stage.start as Seconds | null },
      () => ({
        practice: STEADY_PRACTICE,
        plan: (from, to) =>
          [0, 0.5, 1, 1.5, 2].filter((t) => t >= from && t < to).map((at) => ({ at: seconds(at), key: 36, velocity: 80 })),
        span: seconds(4),
      }),
    );
    const events: InputEvent[] = [];
    const stop = player.listen((e) => events.push(e));
    for (const at of [10, 10.01, 10.49, 10.5, 11.2]) {
      stage.at = at;
      jest.advanceTimersByTime(20);
    }
    expect(events.map((e) => e.page)).toEqual([9507, 10_007, 10_507, 11_007]);
    stage.start = null;
    jest.advanceTimersByTime(20);
    [stage.start, stage.at] = [20, 20.1];
    jest.advanceTimersByTime(20);
    expect(events.length).toBe(5);
    stop();
    stage.at = 23;
    jest.advanceTimersByTime(100);
    expect(events.length).toBe(5);
  } finally {
    jest.useRealTimers();
  }
});
