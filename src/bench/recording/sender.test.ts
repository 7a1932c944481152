import type * as Timers from 'node:timers';
import type { OutputMap } from '@/core/model/output-map';
import { NO_TARGET } from '@/core/model/output-map';
import type { Hit, Part } from '@/core/model/part';
import { writtenPerformance } from '@/core/perform/perform';
import { makeProgram } from '@/core/playback/program';
import { seconds, ticks, TICKS_PER_QUARTER, type Seconds } from '@/core/units';
import { Receiver } from '@/devices/output';
import type { SoundEngine } from '@/sound/engine';
import { smallPart } from '@tests/support/arbitraries';
import { createSender, type Sender } from './sender';

const RATE = 1000;
const BAR = 4 * TICKS_PER_QUARTER;
const beat = smallPart(
  [
    ['kick', 0, 100],
    ['snare', 1, 90],
  ],
  { bars: 1 },
);

const senders: Sender[] = [];
beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  for (const sender of senders.splice(0)) sender.dispose();
  jest.useRealTimers();
});

/** A sender over a bar at 120 BPM that plays from second 1 of the audio clock. */
async function sending(part: Part, target: Partial<OutputMap> = {}) {
  const now = { audio: 0.5, plays: true };
  // The page's clock goes with the audio clock, from another beginning.
  const PAGE = performance.now() - 500;
  const sent: Part = { ...part, target: { ...NO_TARGET, ...target } };
  const program = makeProgram(
    sent,
    writtenPerformance(sent),
    { start: ticks(0), end: ticks(BAR), loop: true },
    (h: Hit) => Number(h.id.slice(1)),
    () => 0,
  );
  const engine = {
    sampleRate: RATE,
    heardNow: () => seconds(now.audio),
    pageTimeOf: (at: Seconds) => PAGE + at * 1000,
    get startedAt() {
      return now.plays ? seconds(1) : null;
    },
    get sounding() {
      return now.plays ? { program, anchorFrame: RATE } : null;
    },
  } as unknown as SoundEngine;
  const sender = createSender(
    engine,
    () => sent,
    (slot) => sent.hits[slot]?.id,
  );
  senders.push(sender);
  const receiver = new Receiver();
  sender.set({ output: receiver });
  // What decides is loaded when an output is chosen.
  await jest.advanceTimersByTimeAsync(0);
  await new Promise((done) => jest.requireActual<typeof Timers>('node:timers').setImmediate(done));
  const until = async (audio: number) => {
    while (now.audio < audio) {
      now.audio += 0.02;
      await jest.advanceTimersByTimeAsync(20);
    }
  };
  const of = (kind: number) =>
    receiver.received.filter(({ bytes }) => bytes[0]! >> 4 === kind).map(({ bytes, page }) => [bytes, Math.round(page - PAGE)] as const);
  return {
    sender,
    receiver,
    until,
    ons: () => of(9),
    controllers: () => of(11),
    offs: () => of(8).map(([bytes, at]) => [bytes[1], at]),
    now,
    PAGE,
  };
}

test('a positive offset sends later, a negative one earlier, each note at its own moment', async () => {
  for (const offsetMs of [0, 40, -25]) {
    const { until, ons } = await sending(beat, { offsetMs });
    await until(1.8);
    expect(ons()).toEqual([
      [[0x99, 36, 100], 1000 + offsetMs],
      [[0x99, 38, 90], 1500 + offsetMs],
    ]);
  }
});

test('keys, channels and velocities are those of the output map; a row may have its own channel', async () => {
  const { until, ons, sender } = await sending(beat, {
    keys: { kind: 'rows', rows: { kick: 24, snare: 26 } },
    channel: 3,
    channels: { snare: 16 },
    curve: { power: 1, floor: 1, ceiling: 64 },
  });
  await until(1.8);
  // Half of the way: 100 becomes 1 + 63 * 99 / 126.
  expect(ons()).toEqual([
    [[0x92, 24, 51], 1000],
    [[0x9f, 26, 46], 1500],
  ]);
  expect(sender.state.getState().sent).toBe(2);
});

test('what plays a recording has no key elsewhere: nothing is sent for it', async () => {
  const { until, ons, sender } = await sending({
    ...beat,
    breaks: [{ id: 'b', pieces: [{ kind: 'snare' }] }] as unknown as NonNullable<Part['breaks']>,
    rows: beat.rows.map((r) => (r.voice === 'snare' ? { ...r, plays: { break: 'b' } as never } : r)),
  });
  await until(1.8);
  expect(ons().map(([bytes]) => (bytes as number[])[1])).toEqual([36]);
  expect(sender.state.getState().sent).toBe(1);
});

test('notes end after their length, as written or by the output map', async () => {
  const fixed = await sending(beat, { noteMs: 300 });
  await fixed.until(1.2);
  expect(fixed.offs()).toEqual([]);
  await fixed.until(1.8);
  expect(fixed.offs()).toEqual([
    [36, 1300],
    [38, 1800],
  ]);
  // A sixteenth at 120 BPM.
  const written = await sending({ ...beat, hits: beat.hits.map((h) => ({ ...h, length: ticks(TICKS_PER_QUARTER / 4) })) });
  await written.until(1.8);
  expect(written.offs()).toEqual([
    [36, 1125],
    [38, 1625],
  ]);
});

test('what still sounds ends when playing stops', async () => {
  const { until, offs, now } = await sending(beat, { noteMs: 1500 });
  await until(1.4);
  expect(offs()).toEqual([]);
  now.plays = false;
  await until(1.5);
  expect(
    offs()
      .map(([key]) => key)
      .sort(),
  ).toEqual([36, 38]);
  for (const [, at] of offs()) expect(at).toBeLessThan(1500);
});

test('the clock goes out with the offset of the notes, where it is asked for', async () => {
  const { until, receiver, sender, PAGE } = await sending(beat, { offsetMs: 30 });
  await until(1.2);
  expect(receiver.received.some(({ bytes }) => bytes[0] === 0xf8)).toBe(false);
  sender.set({ clock: true });
  await until(1.6);
  const clocks = receiver.received.filter(({ bytes }) => bytes[0] === 0xf8).map(({ page }) => page - PAGE - 30);
  expect(clocks.length).toBeGreaterThan(10);
  // 24 a quarter of half a second, from second 1 on.
  for (const at of clocks) expect((((at - 1000) / 500) * 24) % 1).toBeCloseTo(Math.round((((at - 1000) / 500) * 24) % 1), 6);
});

test('another output: what sounds at the old one ends, and nothing more goes there', async () => {
  const { until, receiver, sender } = await sending(beat, { noteMs: 2000 });
  await until(1.2);
  const next = new Receiver();
  sender.set({ output: next });
  const before = receiver.received.length;
  expect(receiver.received.filter(({ bytes }) => bytes[0]! >> 4 === 8)).toHaveLength(1);
  await until(2.2);
  expect([receiver.received.length, next.received.length > 0]).toEqual([before, true]);
});

test('openness goes out before the stroke where it changes, positions each time; none where the map has keys for them', async () => {
  const hats = smallPart(
    [
      ['hat-closed', 0, 100],
      ['hat-closed', 1, 90],
    ],
    { bars: 1 },
  );
  const played: Part = { ...hats, hits: hats.hits.map((h, i) => ({ ...h, openness: 127, ...(i === 1 ? { position: 33 } : {}) })) };
  const first = await sending(played);
  await first.until(1.8);
  expect(first.controllers()).toEqual([
    [[0xb9, 4, 0], 1000],
    [[0xb9, 16, 33], 1500],
  ]);
  const keyed = await sending(played, { keys: { kind: 'general-midi' }, articulation: 'keys' });
  await keyed.until(1.8);
  expect(keyed.controllers()).toEqual([]);
  expect(keyed.ons().map(([bytes]) => bytes[1])).toEqual([46, 46]);
});
