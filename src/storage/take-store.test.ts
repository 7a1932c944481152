import 'fake-indexeddb/auto';
import { OPEN_GUARDS, type TakeEvent, type Take } from '@/core/model/take';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { milliseconds, seconds, ticks } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase } from './database';
import { InputStore } from './input-store';
import { PartStore } from './part-store';
import { TakeStore } from './take-store';

const take = (id: string, recordedAt: number): Take => ({
  id,
  name: id,
  recordedAt,
  input: 'pads',
  tempo: [],
  meter: [],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(4),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: OPEN_GUARDS,
  passes: 0,
  complete: false,
});
const event = (at: number): TakeEvent => ({ at: seconds(at), kind: 'note', key: 36, value: 90 });

test('events are added as they come and come back in order; takes go and come with their part', async () => {
  const db = new NodSwayDatabase('takes');
  const [parts, takes] = [new PartStore(db), new TakeStore(db)];
  const id = await parts.create(smallPart([]));
  await takes.begin(id, take('first', 1));
  await takes.append('first', 0, [event(0), event(0.5)]);
  await takes.append('first', 1, [event(1)]);
  await takes.begin(id, take('second', 2));
  await takes.begin('another', take('elsewhere', 3));
  // Nothing says that it is complete: that is what a crash leaves.
  expect((await takes.list(id)).map((t) => [t.take.id, t.take.complete, t.events.map((e) => e.at)])).toEqual([
    ['second', false, []],
    ['first', false, [0, 0.5, 1]],
  ]);
  await takes.update({ ...take('first', 1), name: 'Renamed', complete: true });
  const putBack = await takes.remove('first');
  expect(await takes.events('first')).toEqual([]);
  await putBack();
  expect((await takes.list(id))[1]).toEqual({
    take: { ...take('first', 1), name: 'Renamed', complete: true },
    events: [event(0), event(0.5), event(1)],
  });
  const restore = await parts.remove(id);
  expect([await takes.list(id), await takes.events('first')]).toEqual([[], []]);
  expect((await takes.list('another')).length).toBe(1);
  await restore();
  expect((await takes.list(id)).map((t) => t.events.length)).toEqual([0, 3]);
});

test('what is known of an input is kept for it alone', async () => {
  const inputs = new InputStore(new NodSwayDatabase('inputs'));
  const known = { ...(await inputs.load('midi:7')), latencyMs: 21.5, spreadMs: 4, pads: { 60: 36 } };
  await inputs.save(known);
  expect(await inputs.load('midi:7')).toEqual(known);
  expect(await inputs.load('pads')).toMatchObject({ id: 'pads', latencyMs: 0 });
});
