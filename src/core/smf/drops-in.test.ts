import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { noteEvents, midiFile, tempoEvent, trackChunk } from '@tests/support/midi-bytes';
import { tracksOf, type Timed } from '@tests/support/read-midi';
import { rawMidi } from '../take/raw-midi';
import { OPEN_GUARDS, type TakeEvent } from '../model/take';
import { NO_TARGET, type OutputMap } from '../model/output-map';
import type { Part } from '../model/part';
import { roundsOfBars } from '../song/unroll';
import { READY_TARGETS } from '../output-map/ready';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { STRAIGHT_CURVE } from '../velocity-curve';
import { exportPart, type PartExportOptions } from './export-part';
import { exportSong } from './export-song';
import { importPart } from './import-part';
import { drumLanes, listLanes } from './lanes';
import { EARLY_RULES, PITCH_RULES } from './drum-notes';
import { readSmf } from './read';

/** Bar lines of a file, from its own meter events. */
function isBarLine(tracks: readonly Timed[][], ppq: number, tick: number): boolean {
  const meters = tracks.flat().filter((e) => e.type === 'timeSignature');
  let [from, bar] = [0, 4 * ppq];
  for (const m of meters) {
    if (m.type !== 'timeSignature' || m.at > tick) continue;
    [from, bar] = [m.at, (m.numerator * 4 * ppq) / m.denominator];
  }
  return Math.abs((tick - from) / bar - Math.round((tick - from) / bar)) < 1e-9;
}

const named = (part: Part): Part => ({ ...part, sections: [{ id: 'a', name: 'Verse', from: 1, bars: 1 }] });
const targetArbitrary: fc.Arbitrary<OutputMap | undefined> = fc.option(
  fc
    .record({
      ready: fc.constantFrom(NO_TARGET, ...READY_TARGETS),
      offsetMs: fc.integer({ min: -80, max: 80 }),
      noteMs: fc.constantFrom(null, 60, 400),
      channel: fc.integer({ min: 1, max: 16 }),
    })
    .map(({ ready, ...own }) => ({ ...ready, ...own })),
  { nil: undefined },
);
const optionsArbitrary: fc.Arbitrary<PartExportOptions> = fc
  .record({
    ppq: fc.constantFrom(96, 480, 960),
    early: fc.constantFrom(...EARLY_RULES),
    format: fc.constantFrom(0 as const, 1 as const),
    pitch: fc.constantFrom(...PITCH_RULES),
    target: targetArbitrary,
    range: fc.option(fc.tuple(fc.integer({ min: 0, max: 2 }), fc.integer({ min: 1, max: 3 })), { nil: undefined }),
  })
  .map(({ range, target, ...rest }) => ({
    ...rest,
    ...(target ? { target } : {}),
    ...(range ? { rounds: roundsOfBars(Math.min(range[0], range[1] - 1), range[1], 2) } : {}),
  }));

test('every track of every shape begins at 0 and ends on one bar line, and nothing goes on behind it', () => {
  fc.assert(
    fc.property(partArbitrary, optionsArbitrary, (part, options) => {
      const result = exportPart(named(part), options);
      const tracks = tracksOf(result.bytes);
      const ends = tracks.map((t) => t.at(-1)!);
      expect(new Set(ends.map((e) => e.type))).toEqual(new Set(['endOfTrack']));
      const end = ends[0]!.at;
      expect(new Set(ends.map((e) => e.at))).toEqual(new Set([end]));
      expect(isBarLine(tracks, result.ppq, end)).toBe(true);
      for (const e of tracks.flat()) {
        if (e.type === 'noteOff') expect(e.at).toBeLessThanOrEqual(end);
        if (e.type === 'noteOn') expect(e.at).toBeLessThan(end);
      }
      const ons = tracks.flat().filter((e) => e.type === 'noteOn').length;
      expect([ons, tracks.flat().filter((e) => e.type === 'noteOff').length]).toEqual([result.notes, result.notes]);
    }),
    { numRuns: 200 },
  );
});

test('eight bars are eight bars, though the last note ends early, rings over or was pushed late', () => {
  const hats = smallPart(
    Array.from({ length: 31 }, (_, i): [string, number, number] => ['hat-closed', i, 90]),
    { bars: 8 },
  );
  const endOf = (part: Part, options: PartExportOptions = {}) =>
    tracksOf(exportPart(part, { ppq: 960, ...options }).bytes).map((t) => t.at(-1)!.at);
  expect(endOf(hats)).toEqual([8 * 3840]);
  const long = { ...hats, hits: hats.hits.map((h) => ({ ...h, length: ticks(3 * TICKS_PER_QUARTER) })) };
  expect(endOf(long, { target: READY_TARGETS[1]! })).toEqual([8 * 3840, 8 * 3840]);
  expect(
    tracksOf(exportPart(long, { ppq: 960 }).bytes)[0]!
      .filter((e) => e.type === 'noteOff')
      .at(-1)!.at,
  ).toBe(8 * 3840);
  // The grid of a recording may begin a little early or late: its bars are still eight.
  for (const origin of [-2000, 2000]) expect(endOf({ ...hats, origin: ticks(origin) })).toEqual([8 * 3840]);
  expect(exportPart(hats, { ppq: 960 }).bars).toBe(8);
  // Two bars of it, three times.
  expect(endOf(hats, { rounds: roundsOfBars(2, 4, 3) })).toEqual([6 * 3840]);
});

const kit = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 50],
  ['hat-half', 1.5, 90],
]);
const onsOf = (track: readonly Timed[]) =>
  track.flatMap((e) => (e.type === 'noteOn' ? [[e.at, e.channel + 1, e.noteNumber, e.velocity]] : []));

test('a target says keys, channels, velocities, lengths and an offset', () => {
  const target: OutputMap = {
    ...NO_TARGET,
    name: 'pads',
    keys: { kind: 'rows', rows: { kick: 48, snare: 50, 'hat-open': 52 } },
    channel: 3,
    channels: { snare: 5 },
    curve: { ...STRAIGHT_CURVE, floor: 20, ceiling: 80 },
    offsetMs: 10,
    noteMs: 60,
  };
  const [track] = tracksOf(exportPart({ ...kit, target }, { ppq: 1000 }).bytes);
  // At 120 a quarter of 1000 ticks is 500 ms: 10 ms are 20 ticks. Velocity 100 is 99/126 of the way from 20 to 80.
  expect(onsOf(track!)).toEqual([
    [20, 3, 48, 67],
    [1020, 5, 50, 43],
    [1520, 3, 52, 62],
  ]);
  expect(track!.flatMap((e) => (e.type === 'noteOff' ? [e.at] : []))).toEqual([140, 1140, 1640]);
  // A target that is chosen for one export goes before the part's.
  expect(
    onsOf(tracksOf(exportPart({ ...kit, target }, { ppq: 960, target: READY_TARGETS[2]! }).bytes)[0]!).map(([, , key]) => key),
  ).toEqual([36, 37, 38]);
});

test('General MIDI with one track per row: each has its name, stand-ins their key', () => {
  const tracks = tracksOf(exportPart(kit, { ppq: 960, target: READY_TARGETS[1]! }).bytes);
  const names = tracks.map((t) => t.flatMap((e) => (e.type === 'trackName' ? [e.text] : []))[0]);
  expect(names).toEqual(['small', 'Half-open hat', 'Snare', 'Kick']);
  expect(tracks.map((t) => onsOf(t).map(([, , key]) => key))).toEqual([[], [46], [38], [36]]);
  expect(tracks.map((t) => t.some((e) => e.type === 'setTempo'))).toEqual([true, false, false, false]);
});

test('rows, hits, and pitch by choice', () => {
  const bent: Part = {
    ...kit,
    rows: kit.rows.map((r) => (r.voice === 'snare' ? { ...r, muted: true } : r)),
    hits: kit.hits.map((h) => (h.voice === 'kick' ? { ...h, pitch: -6.5 } : h)),
  };
  const keys = (options: PartExportOptions) =>
    onsOf(tracksOf(exportPart(bent, { ppq: 960, ...options }).bytes)[0]!).map(([, , key]) => key);
  expect(keys({})).toEqual([36, 46]);
  // A row that is asked for by name is written, muted or not.
  expect(keys({ onlyRows: new Set(['snare']) })).toEqual([38]);
  expect(keys({ onlyHits: new Set(['h0']) })).toEqual([36]);
  expect(keys({ onlyHits: new Set(['h0']), rounds: roundsOfBars(0, 1, 2) })).toEqual([36, 36]);
  expect(keys({ pitch: 'keys' })).toEqual([30, 46]);
  const track = tracksOf(exportPart(bent, { ppq: 960, pitch: 'bend' }).bytes)[0]!;
  // -6.5 of 24 semitones, and back before the next note; the range is said first.
  expect(track.flatMap((e) => (e.type === 'pitchBend' ? [[e.at, e.value]] : []))).toEqual([
    [0, -Math.round((6.5 / 24) * 8192)],
    [1440, 0],
  ]);
  expect(track.flatMap((e) => (e.type === 'controller' ? [[e.controllerType, e.value]] : []))).toEqual([
    [101, 0],
    [100, 0],
    [6, 24],
    [38, 0],
  ]);
  expect([exportPart(bent, { pitch: 'bend' }).left.pitched, exportPart(bent).left.pitched]).toEqual([1, 0]);
});

test('the song: all of its tracks end on the bar line behind its last event, and the target gives keys and velocities alone', () => {
  const file = midiFile(1, 480, [
    trackChunk([tempoEvent(0, 500_000)]),
    trackChunk(
      noteEvents([
        [0, 36, 100],
        [960, 38, 60],
      ]),
    ),
    trackChunk(noteEvents([[4000, 60, 80]], 200, 1)),
  ]);
  const smf = readSmf(file);
  const { part } = importPart(smf, { name: 'song', lanes: drumLanes(smf, listLanes(smf)) });
  const { bytes, ppq } = exportSong(
    { ...part, target: { ...NO_TARGET, keys: { kind: 'chromatic', from: 60 }, channel: 1, curve: { ...STRAIGHT_CURVE, ceiling: 64 } } },
    smf,
  );
  const tracks = tracksOf(bytes);
  expect(tracks.map((t) => t.at(-1)!.at)).toEqual([ppq * 12, ppq * 12, ppq * 12]);
  expect(onsOf(tracks[1]!)).toEqual([
    [0, 10, 60, 51],
    [960 * (ppq / 480), 10, 61, 31],
  ]);
  expect(onsOf(tracks[2]!)).toEqual([[4000 * (ppq / 480), 1, 60, 80]]);
});

test('a raw take ends on a bar line too', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: -1, max: 30, noNaN: true }), { maxLength: 20 }), (times) => {
      const take = {
        name: 'Take 1',
        tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
        meter: [{ tick: ticks(0), numerator: 3, denominator: 4 }],
        origin: ticks(0),
        start: ticks(0),
        end: ticks(6 * TICKS_PER_QUARTER),
        latencyMs: milliseconds(0),
        curve: STRAIGHT_CURVE,
        guards: OPEN_GUARDS,
      };
      const events = times.map((at): TakeEvent => ({ at: seconds(at), kind: 'note', key: 38, value: 90 }));
      const tracks = tracksOf(rawMidi(take, events));
      const end = tracks[0]!.at(-1)!;
      expect(isBarLine(tracks, 10_080, end.at)).toBe(true);
      for (const e of tracks[0]!) expect(e.at).toBeLessThanOrEqual(end.at);
    }),
    { numRuns: 60 },
  );
});
