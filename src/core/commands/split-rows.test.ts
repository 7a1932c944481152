import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import type { Hit, Part } from '../model/part';
import { performPart } from '../perform/perform';
import { generalMidiKey, labelOfRow, rowsNamed, soundOfRow } from '../part/rows';
import { toggleRow, toggleVoice, voicesOfSeveralRows } from '../feel/scope-rows';
import { ticks, TICKS_PER_QUARTER, velocity } from '../units';
import { addHit } from './hits';
import { lengthMs, setLengths } from './lengths';
import { addRow, anotherRow, giveInstrument, mergeRows, playOnKit, removeRow, renameRow, setRowVoice } from './rows';
import { addOwnRow, hitsToOwnRow, layerRow, softEnd, softHits } from './split-rows';
import { GALLEY_KIT } from '../key-map';

const part = smallPart([
  ['snare', 0, 100],
  ['snare', 1, 30],
  ['kick', 0, 110],
  ['hat-closed', 0, 80],
  ['hat-closed', 1, 64],
]);
const rows = (p: Part): string[] => p.rows.map((r) => r.voice);
const of = (p: Part, row: string): Hit[] => p.hits.filter((h) => h.voice === row);

test('soft hits move to a new row with the voice’s other key', () => {
  const { part: split, rows: made } = hitsToOwnRow(part, softHits(part, 'snare', 50), newIds());
  expect(made).toEqual(['snare:2']);
  expect(rows(split)).toEqual(['hat-closed', 'snare', 'snare:2', 'kick']);
  expect([of(split, 'snare').map((h) => [h.velocity, h.key]), of(split, 'snare:2').map((h) => [h.velocity, h.key])]).toEqual([
    [[100, 38]],
    [[30, 40]],
  ]);
  expect(split.kitMap.voices).toMatchObject({ 38: 'snare', 40: 'snare:2' });
  expect([softEnd(part, 'snare'), softEnd(part, 'hat-closed'), softEnd(part, 'kick')]).toEqual([30, 64, 64]);
  // What was the whole row stays it.
  expect(hitsToOwnRow(part, new Set(of(part, 'kick').map((h) => h.id)), newIds())).toEqual({ part, rows: [] });
});

test('a split changes no place and no velocity; moves for the row are for both; merging and deleting give the key back', () => {
  const felt: Part = { ...part, feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms: 20, scope: { voices: ['snare'] } }] } };
  const { part: split } = hitsToOwnRow(felt, softHits(felt, 'snare', 50), newIds());
  expect(split.feel.moves[0]?.scope?.voices).toEqual(['snare', 'snare:2']);
  const placed = (p: Part) => new Map(p.hits.map((h, i) => [h.id, performPart(p).ticks[i]]));
  expect(placed(split)).toEqual(placed(felt));
  expect(removeRow(split, 'snare:2').kitMap.voices[40]).toBe('snare');
  const joined = mergeRows(split, 'snare:2', 'snare');
  expect([rows(joined), of(joined, 'snare').map((h) => h.key), joined.kitMap.voices[40]]).toEqual([rows(part), [38, 38], 'snare']);
});

test('a layer copies each hit at a level; a second one gets a key outside of General MIDI', () => {
  const { part: once, rows: made } = layerRow(part, 'hat-closed', 60, newIds());
  expect(made).toEqual(['hat-closed:2']);
  expect(of(once, 'hat-closed:2').map((h) => [h.tick, h.velocity, h.key])).toEqual([
    [of(part, 'hat-closed')[0]!.tick, 48, 22],
    [of(part, 'hat-closed')[1]!.tick, 38, 22],
  ]);
  expect(new Set(once.hits.map((h) => h.id)).size).toBe(once.hits.length);
  expect(layerRow(once, 'hat-closed:2', 200, newIds()).rows).toEqual(['hat-closed:3']);
});

test('another instrument changes sound and key together; where it is there already the row becomes another of it', () => {
  const claps = giveInstrument(part, 'snare', 'clap');
  expect([claps.row, of(claps.part, 'clap').map((h) => h.key), rows(claps.part)]).toEqual([
    'clap',
    [39, 39],
    ['hat-closed', 'clap', 'kick'],
  ]);
  const kicks = giveInstrument(part, 'snare', 'kick');
  expect([kicks.row, of(kicks.part, 'kick:2').map((h) => h.key), of(kicks.part, 'kick').map((h) => h.key)]).toEqual([
    'kick:2',
    [35, 35],
    [36],
  ]);
  expect(giveInstrument(part, 'snare', 'snare').part).toBe(part);
  // A wrong name is the other thing: the key stays.
  expect(of(setRowVoice(part, 'snare', 'clap'), 'clap').map((h) => h.key)).toEqual([38, 38]);
});

test('an own row has a name, a free key and the sound of what it is like', () => {
  const { part: more, rows: made } = addOwnRow(part, 'lid', ' Tin lid ', 'cowbell');
  expect(made).toEqual(['own:lid']);
  expect(more.rows[0]).toEqual({ voice: 'own:lid', name: 'Tin lid', like: 'cowbell' });
  const struck = addHit(more, { id: 'new', voice: 'own:lid', tick: ticks(0), velocity: 90 });
  expect(of(struck, 'own:lid')[0]!.key).toBe(22);
  expect([soundOfRow(more, 'own:lid'), soundOfRow(more, 'snare:2'), generalMidiKey(more, 'own:lid', 22)]).toEqual(['cowbell', 'snare', 56]);
  expect(labelOfRow(renameRow(more, 'own:lid', ''), 'own:lid')).toBe('Tin lid');
  const two = layerRow(struck, 'own:lid', 100, () => 'another');
  expect([two.rows, labelOfRow(two.part, 'own:another'), of(two.part, 'own:another')[0]!.key]).toEqual([['own:another'], 'Tin lid 2', 23]);
  expect(removeRow(struck, 'own:lid').kitMap.voices[22]).toBeUndefined();
});

test('scopes name rows, or all rows of a voice with those to come', () => {
  const { part: split } = hitsToOwnRow(part, softHits(part, 'snare', 50), newIds());
  expect(voicesOfSeveralRows(split)).toEqual(['snare']);
  expect(rowsNamed(split, ['snare:*', 'kick'])).toEqual(['snare', 'snare:2', 'kick']);
  expect(toggleRow(split, ['snare:*'], 'snare:2')).toEqual(['snare']);
  expect(toggleRow(split, ['kick'], 'snare:2')).toEqual(['kick', 'snare:2']);
  expect(toggleVoice(split, ['kick', 'snare'], 'snare')).toEqual(['kick', 'snare:*']);
  expect(toggleVoice(split, ['kick', 'snare:*'], 'snare')).toEqual(['kick']);
});

test('on another kit further rows get keys beside the kit’s own', () => {
  const { part: split } = hitsToOwnRow(part, softHits(part, 'snare', 50), newIds());
  const played = playOnKit(split, GALLEY_KIT);
  expect([of(played, 'snare').map((h) => h.key), of(played, 'snare:2').map((h) => h.key)]).toEqual([[61], [38]]);
  expect(played.kitMap.voices[38]).toBe('snare:2');
});

test('no row shares its key with another, whatever is split and doubled', () => {
  fc.assert(
    fc.property(
      partArbitrary,
      fc.array(fc.tuple(fc.nat(), fc.integer({ min: 1, max: 127 }), fc.boolean()), { maxLength: 4 }),
      (start, steps) => {
        // One key a row to begin with.
        let now: Part = { ...start, hits: start.hits.map((h) => ({ ...h, key: anotherKey(start, h) })) };
        const ids = newIds();
        for (const [pick, level, split] of steps) {
          const row = now.rows[pick % Math.max(1, now.rows.length)]?.voice;
          if (row === undefined) continue;
          now = split ? hitsToOwnRow(now, softHits(now, row, level), ids).part : layerRow(now, row, level, ids).part;
        }
        const keys = new Map<number, string>();
        for (const h of now.hits) expect(keys.get(h.key) ?? keys.set(h.key, h.voice).get(h.key)).toBe(h.voice);
        expect(new Set(rows(now)).size).toBe(now.rows.length);
      },
    ),
  );
});

/** The first hit's key of its row. */
const anotherKey = (p: Part, hit: Hit): number => p.hits.find((h) => h.voice === hit.voice)!.key;

test('lengths in steps, in milliseconds by the tempo, and up to the next hit of the row', () => {
  const ids = new Set(part.hits.map((h) => h.id));
  expect(of(setLengths(part, ids, { kind: 'steps', grid: '1/8T', count: 2 }), 'kick')[0]!.length).toBe((TICKS_PER_QUARTER * 2) / 3);
  const short = setLengths(part, ids, { kind: 'ms', ms: 50 });
  expect(lengthMs(short, of(short, 'kick')[0]!)).toBeCloseTo(50, 1);
  const tied = setLengths(part, ids, { kind: 'next' });
  const [first, second] = of(tied, 'snare');
  expect(first!.length).toBe(second!.tick - first!.tick);
  expect(of(tied, 'kick')[0]!.length).toBe(4 * TICKS_PER_QUARTER * part.bars);
  // Two at one place both last until the next later one.
  const pair: Part = { ...part, hits: [...part.hits, { ...of(part, 'snare')[0]!, id: 'twin', velocity: velocity(20) }] };
  expect(
    of(
      setLengths(
        { ...pair, hits: [...pair.hits].sort((a, b) => a.tick - b.tick || a.key - b.key || (a.id < b.id ? -1 : 1)) },
        new Set(['twin', first!.id]),
        { kind: 'next' },
      ),
      'snare',
    )
      .filter((h) => h.tick === first!.tick)
      .map((h) => h.length),
  ).toEqual([first!.length, first!.length]);
});

test('a row of a voice that is there gets the next number', () => {
  expect(anotherRow(part, 'snare')).toBe('snare:2');
  expect(rows(addRow(addRow(part, 'snare:2'), 'snare:3'))).toEqual(['hat-closed', 'snare', 'snare:2', 'snare:3', 'kick']);
  expect(addRow(addRow(part, 'snare:2'), 'snare:3').kitMap.voices).toMatchObject({ 40: 'snare:2', 22: 'snare:3' });
});
