import fc from 'fast-check';
import { performPart } from '../perform/perform';
import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type Part } from '../model/part';
import { meterMapOf } from '../part/part-time';
import { homesOf, homeTest } from '../homes/homes';
import { ticks, TICKS_PER_QUARTER as Q } from '../units';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { appendAsSection, cameFrom, copyBarsOver, excerptOf, fromZero, putBars } from './excerpt';
import { addSection } from './sections';

const fourBars = smallPart(
  [
    ['kick', 0, 100],
    ['snare', 1, 90],
    ['kick', 4, 80],
    ['snare', 5, 70],
    ['kick', 8, 60],
    ['crash', 12, 50],
  ],
  { bars: 4 },
);
const places = (part: Part) => part.hits.map((h) => [h.voice, h.tick / Q, h.velocity]);

test('bars as a part of their own begin with their bar line, at the ticks where they were', () => {
  const idea = excerptOf(addSection(fourBars, 'v', 0, 4), 1, 3);
  expect([idea.origin / Q, idea.bars, idea.sections]).toEqual([4, 2, undefined]);
  expect(places(idea)).toEqual([
    ['kick', 4, 80],
    ['snare', 5, 70],
    ['kick', 8, 60],
  ]);
  expect(places(fromZero(idea))).toEqual([
    ['kick', 0, 80],
    ['snare', 1, 70],
    ['kick', 4, 60],
  ]);
  expect(cameFrom(fourBars, idea, 2)).toEqual({ from: 1, to: 3 });
});

test('put back where it came from, an excerpt that nothing was done to changes nothing', () => {
  fc.assert(
    fc.property(partArbitrary, fc.nat(7), fc.nat(7), (part, a, b) => {
      const from = a % part.bars;
      const to = from + 1 + (b % (part.bars - from));
      const idea = excerptOf(part, from, to);
      // Hits before the first bar go along with it, and stay in the part as well.
      const back = putBars(
        part,
        { ...idea, hits: idea.hits.filter((h) => belongsTo(part, from, to)(h)) },
        cameFrom(part, idea, to - from),
        newIds(),
      );
      expect(back.hits).toEqual([...part.hits].sort(compareHits));
      expect([back.bars, back.meter]).toEqual([part.bars, part.meter]);
    }),
    { numRuns: 60 },
  );
});

function belongsTo(part: Part, from: number, to: number): (hit: Hit) => boolean {
  const map = meterMapOf(part);
  const test = homeTest(part, map.barOf(from).start, map.barOf(to).start);
  const homes = homesOf(part);
  const index = new Map(part.hits.map((h, i) => [h.id, i]));
  return (hit) => test(homes.ticks[index.get(hit.id) as number] as number);
}

test('the feel draws in an excerpt what it drew in the whole part', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const whole = performPart(part);
      expect(performPart(excerptOf(part, 0, part.bars))).toEqual(whole);
    }),
    { numRuns: 40 },
  );
  const swung: Part = {
    ...fourBars,
    feel: {
      ...EMPTY_FEEL,
      seed: 4,
      moves: [
        { kind: 'swing', division: '1/8', percent: 60 },
        { kind: 'humanize', timingMs: 12, velocityPercent: 9, memory: 0, anchor: 0.3, span: 4 },
      ],
    },
  };
  const whole = performPart(swung);
  const idea = excerptOf(swung, 1, 3);
  const own = performPart(idea);
  idea.hits.forEach((hit, i) => {
    const at = swung.hits.findIndex((h) => h.id === hit.id);
    expect([own.ticks[i], own.velocities[i]]).toEqual([whole.ticks[at], whole.velocities[at]]);
  });
});

test('scopes that count bars count them from the excerpt on', () => {
  const scoped = (bars: object): Part => ({ ...fourBars, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', scope: { bars } } as never] } });
  const seen = (bars: object, from: number, to: number) => excerptOf(scoped(bars), from, to).feel.moves[0]?.scope?.bars;
  expect(seen({ from: 2, to: 4 }, 1, 4)).toEqual({ from: 1, to: 3 });
  expect(seen({ from: 3 }, 1, 4)).toEqual({ from: 2 });
  // All of its bars lie before: none of the excerpt's.
  expect(seen({ to: 1 }, 1, 3)).toEqual({ from: 3, to: 3 });
  expect(seen({ every: 4, at: [1, 4] }, 1, 4)).toEqual({ every: 4, at: [3, 4] });
});

test('a longer idea in the place of fewer bars pushes what follows, its bars belong to their section, new rows come along', () => {
  const part = addSection(addSection(fourBars, 'verse', 0, 2, 'Verse'), 'chorus', 2, 4, 'Chorus');
  const idea = smallPart(
    [
      ['tambourine', 0, 90],
      ['kick', 8, 40],
    ],
    { bars: 3, origin: ticks(0) },
  );
  const put = putBars(part, idea, { from: 0, to: 2 }, newIds());
  expect(put.bars).toBe(5);
  expect(places(put)).toEqual([
    ['tambourine', 0, 90],
    ['kick', 8, 40],
    ['kick', 12, 60],
    ['crash', 16, 50],
  ]);
  expect(put.sections?.map((s) => [s.name, s.from, s.bars])).toEqual([
    ['Verse', 1, 3],
    ['Chorus', 4, 2],
  ]);
  expect(put.rows.some((r) => r.voice === 'tambourine')).toBe(true);
  expect(new Set(put.hits.map((h) => h.id)).size).toBe(put.hits.length);
});

test('bars are put over others: what stood there goes, nothing moves; over the end the part grows', () => {
  const part = addSection(fourBars, 'v', 2, 4);
  expect(places(copyBarsOver(part, { from: 0, to: 1 }, 2, newIds()))).toEqual([
    ['kick', 0, 100],
    ['snare', 1, 90],
    ['kick', 4, 80],
    ['snare', 5, 70],
    ['kick', 8, 100],
    ['snare', 9, 90],
    ['crash', 12, 50],
  ]);
  const longer = copyBarsOver(part, { from: 0, to: 2 }, 3, newIds());
  expect([longer.bars, longer.sections, places(longer).slice(5)]).toEqual([
    5,
    [{ ...part.sections![0]!, bars: 3 }],
    [
      ['kick', 12, 100],
      ['snare', 13, 90],
      ['kick', 16, 80],
      ['snare', 17, 70],
    ],
  ]);
});

test('another part comes in behind the last bar, in its own meter, as a section of its name', () => {
  const other = smallPart(
    [
      ['ride', 0, 77],
      ['ride', 1.5, 66],
    ],
    { bars: 1, meter: [{ tick: ticks(0), numerator: 3, denominator: 4 }] },
  );
  const song = appendAsSection(addSection(fourBars, 'a', 0, 4, 'Ride'), other, { id: 'b', name: 'Ride', newId: newIds() });
  expect([song.bars, song.sections?.map((s) => [s.name, s.from, s.bars])]).toEqual([
    5,
    [
      ['Ride', 1, 4],
      ['Ride 2', 5, 1],
    ],
  ]);
  expect(places(song).slice(-2)).toEqual([
    ['ride', 16, 77],
    ['ride', 17.5, 66],
  ]);
  expect(meterMapOf(song).barOf(4).meter).toMatchObject({ numerator: 3, denominator: 4 });
});
