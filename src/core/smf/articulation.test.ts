import { parseMidi } from 'midi-file';
import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { midiFile, noteEvents, tempoEvent, trackChunk, type TestEvent } from '@tests/support/midi-bytes';
import { GENERAL_MIDI_KIT } from '../key-map';
import { NO_TARGET } from '../model/output-map';
import type { Hit, Part } from '../model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER as Q } from '../units';
import { exportPart } from './export-part';
import { exportSong } from './export-song';
import { importPart } from './import-part';
import { drumLanes, listLanes } from './lanes';
import { readSmf } from './read';

const CONTROLLER = 0xb9;
/** 480 ticks a quarter: a closed and an open hat, a snare struck near the rim, a hat that is half open. */
const events: TestEvent[] = [
  tempoEvent(0, 500_000),
  [0, CONTROLLER, 4, 127],
  [470, CONTROLLER, 4, 0],
  [475, CONTROLLER, 16, 99],
  [955, CONTROLLER, 16, 12],
  [1200, CONTROLLER, 16, 50],
  [1430, CONTROLLER, 4, 64],
  ...noteEvents([
    [0, 42, 80],
    [480, 46, 90],
    [480, 38, 100],
    [960, 38, 100],
    [1440, 42, 70],
  ]),
];
const sorted = [...events].sort((a, b) => a[0] - b[0]);
const song = midiFile(0, 480, [trackChunk(sorted)]);
const imported = (bytes: Uint8Array): Part => {
  const file = readSmf(bytes);
  return importPart(file, { name: 'played', lanes: drumLanes(file, listLanes(file)) }).part;
};

/** Controllers and note-ons with their ticks, read by another package: ['cc4', tick, value] or [key, tick, velocity]. */
const read = (bytes: Uint8Array): [string | number, number, number][] =>
  parseMidi(bytes).tracks.flatMap((track) => {
    let now = 0;
    return track.flatMap((e): [string | number, number, number][] => {
      now += e.deltaTime;
      if (e.type === 'controller') return [[`cc${e.controllerType}`, now, e.value]];
      return e.type === 'noteOn' && e.velocity > 0 ? [[e.noteNumber, now, e.velocity]] : [];
    });
  });

test('hats of a file are as open as the pedal was, strokes have the position that came just before them, and no other', () => {
  expect(imported(song).hits.map((h) => [h.voice, h.tick / Q, h.openness, h.position])).toEqual([
    ['hat-closed', 0, 0, undefined],
    // The position before both belongs to the one that comes first in the file.
    ['snare', 1, undefined, undefined],
    ['hat-open', 1, 127, 99],
    ['snare', 2, undefined, 12],
    ['hat-closed', 3, 63, undefined],
  ]);
});

test('a song that is exported unchanged has its bytes: what its controllers say already is not said twice', () => {
  const part = imported(song);
  const { bytes } = exportSong(part, readSmf(song), { ppq: 480 });
  expect(read(bytes)).toEqual(read(song));
});

test('a stroke that moved takes its position along, and its pedal is written where another holds', () => {
  const part = imported(song);
  // The half-open hat goes to the very start, before the pedal of the first beat says closed.
  const moved: Part = { ...part, hits: part.hits.map((h) => (h.openness === 63 ? { ...h, tick: ticks(Q / 2), home: ticks(Q / 2) } : h)) };
  const found = read(exportSong(moved, readSmf(song), { ppq: 480 }).bytes);
  const at = found.findIndex(([key, tick]) => key === 42 && tick === 240);
  expect(found[at - 1]).toEqual(['cc4', 240, 64]);
});

const hat = (beat: number, openness: number, more: Partial<Hit> = {}): Hit => {
  const [hit] = smallPart([['hat-closed', beat, 80]]).hits;
  return { ...hit!, id: `h${beat}`, openness, ...more };
};
const part: Part = {
  ...smallPart([['hat-closed', 0, 80]], { bars: 1 }),
  hits: [hat(0, 0), hat(1, 0), hat(2, 127, { position: 80 }), hat(3, 127, { position: 80 })],
};

test('a part alone: the pedal before the stroke where it changes, positions each time; a companion counts as what holds', () => {
  const at960 = (p: Part) => read(exportPart(p, { ppq: 960 }).bytes);
  expect(at960(part)).toEqual([
    ['cc4', 0, 127],
    [42, 0, 80],
    [42, 960, 80],
    ['cc4', 1920, 0],
    ['cc16', 1920, 80],
    [42, 1920, 80],
    ['cc16', 2880, 80],
    [42, 2880, 80],
  ]);
  const pedalled: Part = {
    ...part,
    hits: part.hits.map((h) => (h.id === 'h2' ? { ...h, companions: [{ kind: 'pedal', value: 0, aheadMs: milliseconds(10) }] } : h)),
  };
  expect(at960(pedalled).filter(([what]) => what === 'cc4')).toEqual([
    ['cc4', 0, 127],
    // 10 ms before the beat at 120 BPM.
    ['cc4', 1920 - 19, 0],
  ]);
});

test('as keys: closed, half open and open hats have theirs, and no controller is written', () => {
  const keysOf = (target: Part['target']) =>
    read(exportPart({ ...part, hits: [hat(0, 0), hat(1, 60), hat(2, 127, { position: 80 })], target: target! }, { ppq: 960 }).bytes).map(
      ([what]) => what,
    );
  const general = keysOf({ ...NO_TARGET, keys: { kind: 'general-midi' }, articulation: 'keys' });
  expect([general.length, general[0], general[2]]).toEqual([3, 42, 46]);
  expect(
    keysOf({ ...NO_TARGET, keys: { kind: 'rows', rows: { 'hat-closed': 20, 'hat-half': 21, 'hat-open': 22 } }, articulation: 'keys' }),
  ).toEqual([20, 21, 22]);
});

test('with a track a row the pedal still holds for the whole channel', () => {
  const two: Part = {
    ...part,
    rows: [{ voice: 'hat-closed' }, { voice: 'hat-open' }],
    hits: [hat(0, 0), hat(1, 127, { voice: 'hat-open', key: 46 }), hat(2, 0)],
    target: { ...NO_TARGET, tracks: 'rows' },
  };
  expect(
    read(exportPart(two, { ppq: 960 }).bytes)
      .filter(([what]) => what === 'cc4')
      .sort((a, b) => a[1] - b[1]),
  ).toEqual([
    ['cc4', 0, 127],
    ['cc4', 960, 0],
    ['cc4', 1920, 127],
  ]);
});

test('whatever is struck how: exported and imported again it has the same openness and position', () => {
  const stroke = fc.record({
    voice: fc.constantFrom('hat-closed', 'hat-open', 'snare', 'ride'),
    openness: fc.option(fc.integer({ min: 0, max: 127 }), { nil: undefined }),
    position: fc.option(fc.integer({ min: 0, max: 127 }), { nil: undefined }),
  });
  fc.assert(
    fc.property(fc.array(stroke, { minLength: 1, maxLength: 12 }), (strokes) => {
      const base = smallPart(
        strokes.map(({ voice }, i) => [voice, i / 4, 90] as [string, number, number]),
        { bars: 2 },
      );
      let known: number | undefined;
      // What a hat is like that says nothing is what was said last.
      const expected = strokes.map(({ voice, openness, position }) => {
        const isHat = voice.startsWith('hat');
        if (isHat && openness !== undefined) known = openness;
        return [isHat ? known : undefined, position];
      });
      const hits = base.hits.map((h, i) => ({
        ...h,
        ...(strokes[i]!.voice.startsWith('hat') && strokes[i]!.openness !== undefined ? { openness: strokes[i]!.openness } : {}),
        ...(strokes[i]!.position === undefined ? {} : { position: strokes[i]!.position }),
      }));
      const again = imported(exportPart({ ...base, kitMap: GENERAL_MIDI_KIT, hits }).bytes);
      expect(again.hits.map((h) => [h.openness, h.position])).toEqual(expected);
    }),
  );
});
