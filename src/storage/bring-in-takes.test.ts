import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { isNamedError } from '@/core/errors';
import { USUAL_GUARDS, type TakeEvent, type Take } from '@/core/model/take';
import { hitsFromTake, putTake } from '@/core/take/use-take';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { readPartFile, writePartFile } from '@/formats/part-file';
import { bringIn } from './bring-in';
import { NodSwayDatabase } from './database';
import { FeelStore } from './feel-store';
import { GrooveStore } from './groove-store';
import { KitStore } from './kit-store';
import { PatternStore } from './pattern-store';
import { TakeStore } from './take-store';
import { OutputMapStore } from './output-map-store';
import { VersionStore } from './version-store';
import { WholeParts } from './whole-part';

const take: Take = {
  id: 'first',
  name: 'Take 1',
  recordedAt: 1_700_000_000_000,
  input: 'Deck pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(4 * TICKS_PER_QUARTER),
  latencyMs: milliseconds(12.5),
  curve: STRAIGHT_CURVE,
  guards: { ...USUAL_GUARDS, crosstalk: { 48: 40 } },
  curves: { 38: { power: 0.5, floor: 10, ceiling: 300 } },
  hat: { closedFrom: 90, openBelow: 40, turned: true },
  pads: { 60: 38 },
  dropped: [1],
  passes: 2,
  complete: true,
};
const events: TakeEvent[] = [
  { at: seconds(0.5125), kind: 'note', key: 60, value: 90 },
  { at: seconds(0.6), kind: 'off', key: 60, value: 0 },
  { at: seconds(0.7), kind: 'pedal', key: 4, value: 12 },
  { at: seconds(1), kind: 'pressure', key: 49, value: 70 },
];
const part = putTake(smallPart([['kick', 0, 100]], { bars: 1 }), take, events);

test('takes go along in a part file, as they were played', () => {
  const file = readPartFile(writePartFile({ part: { ...part, deletedTakes: ['gone'] }, takes: [{ take, events }] }));
  expect(file.takes).toEqual([{ take, events }]);
  expect(file.part).toEqual(part);
});

test('a file that is brought in twice has takes of its own each time, and its hits come from them', async () => {
  const db = new NodSwayDatabase('takes in files');
  const stores = {
    parts: new WholeParts(db),
    grooves: new GrooveStore(db),
    feels: new FeelStore(db),
    kits: new KitStore(db),
    patterns: new PatternStore(db),
    targets: new OutputMapStore(db),
  };
  const text = writePartFile({ part, versions: [{ name: 'Before', at: 1, part }], takes: [{ take, events }] });
  const ids = [(await bringIn(text, 'a.nodsway.json', stores)).id!, (await bringIn(text, 'a.nodsway.json', stores)).id!];
  const found = await Promise.all(ids.map((id) => new TakeStore(db).list(id)));
  expect(found.map((list) => list.map((t) => [t.take.name, t.events]))).toEqual([[['Take 1', events]], [['Take 1', events]]]);
  expect(new Set(found.map((list) => list[0]!.take.id)).size).toBe(2);
  for (const [i, id] of ids.entries()) {
    const own = found[i]![0]!.take.id;
    expect(hitsFromTake((await stores.parts.parts.load(id)).part, own).size).toBe(2);
    expect(hitsFromTake((await new VersionStore(db).list(id)).find((v) => v.name === 'Before')!.part, own).size).toBe(2);
  }
  // Written again, nothing is lost.
  const again = readPartFile(writePartFile(await stores.parts.read(ids[0]!)));
  expect(again.takes![0]!.events).toEqual(events);
});

test('wrong takes in a file end in an error that names them', () => {
  const wrong: [string, unknown][] = [
    ['no list', { take }],
    ['an end before its start', [{ take: { ...take, end: -1 }, events }]],
    [
      'two of one id',
      [
        { take, events },
        { take, events },
      ],
    ],
    ['an event that is none', [{ take, events: [{ at: 0, kind: 'wish', key: 1, value: 1 }] }]],
    ['an event without a number', [{ take, events: [{ at: null, kind: 'note', key: 1, value: 1 }] }]],
    ['a member that nobody knows', [{ take: { ...take, mood: 'good' }, events }]],
  ];
  for (const [what, takes] of wrong)
    expect([what, isNamedError(thrown(takes)) ? (thrown(takes) as { code: string }).code : thrown(takes)]).toEqual([what, 'bad-part']);
  fc.assert(
    fc.property(fc.jsonValue(), (takes) => {
      const error = thrown(takes);
      expect(error === undefined || isNamedError(error)).toBe(true);
    }),
  );
});

function thrown(takes: unknown): unknown {
  try {
    readPartFile(JSON.stringify({ ...part, takes }));
    return undefined;
  } catch (e) {
    return e;
  }
}
