import fc from 'fast-check';
import { midiFile, meterEvent, noteEvents, tempoEvent, text, trackChunk, type TestEvent } from '@tests/support/midi-bytes';
import { EMPTY_FEEL } from '../model/feel';
import { milliseconds } from '../units';
import type { Part } from '../model/part';
import { exportSong } from './export-song';
import { importPart } from './import-part';
import { drumLanes, listLanes } from './lanes';
import { readSmf, type SmfFile } from './read';

const name = (s: string): TestEvent => [0, 0xff, 3, s.length, ...text(s)];
const drumNotes: [number, number, number][] = Array.from({ length: 32 }, (_, i) => [i * 30, i % 4 ? 42 : 36, 100]);

function song(extra: TestEvent[] = []): { file: SmfFile; part: Part } {
  const bytes = midiFile(1, 120, [
    trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), tempoEvent(240, 600_000)]),
    trackChunk([
      name('Bass'),
      [0, 0xc0, 33],
      ...noteEvents(
        [
          [0, 40, 90],
          [60, 43, 90],
        ],
        50,
        1,
      ),
      [300, 0xf0, 3, 1, 2, 0xf7],
      [301, 0xff, 0x7f, 2, 9, 9],
    ]),
    trackChunk([
      name('Drums'),
      [0, 0xc9, 0],
      ...[...noteEvents(drumNotes), ...noteEvents([[100, 70, 50]], 5, 2), ...extra].sort((a, b) => a[0] - b[0]),
    ]),
  ]);
  const file = readSmf(bytes);
  const { part } = importPart(file, { name: 'song', lanes: drumLanes(file, listLanes(file)) });
  return { file, part };
}

/** All events of a file but notes of the drum lane, as text: track, tick, bytes. */
const others = (file: SmfFile, factor: number): string[] =>
  file.tracks.flatMap((track, i) =>
    [...track.events]
      .filter((e) => !(i === 2 && (e.status === 0x99 || e.status === 0x89)) && !(e.status === 0xff && file.bytes[e.start] === 0x2f))
      .map((e) => `${i} ${e.tick * factor} ${e.status} ${file.bytes.slice(e.start, e.end).join(',')}`),
  );

test('every other event keeps its bytes and its place times the factor; drums are swung by the formula', () => {
  const { file, part } = song();
  const out = readSmf(
    exportSong({ ...part, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 60 }] } }, file).bytes,
  );
  expect(out.division).toEqual({ kind: 'metrical', ppq: 960 });
  expect(others(out, 1)).toEqual(others(file, 8));
  const ons = [...out.tracks[2]!.events].filter((e) => e.status === 0x99).map((e) => [e.tick, out.bytes[e.start], out.bytes[e.start + 1]]);
  // Pairs of 60 source ticks: the second of each comes 10 % of a pair late, 48 of the new ticks.
  expect(ons).toEqual(drumNotes.map(([t, k, v], i) => [t * 8 + (i % 2 ? 48 : 0), k, v]));
});

test('pedal controllers and pressure within 30 ms before a hit move with it, others stay', () => {
  // At 120 BPM and 120 ticks a quarter one tick is 4.17 ms.
  const extra: TestEvent[] = [
    [117, 0xb9, 4, 70],
    [118, 0xd9, 55],
    [134, 0xb9, 4, 10],
    [117, 0xb9, 7, 99],
  ];
  const { file, part } = song(extra);
  const nudged = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(12.5), velocity: 0 } })) };
  const out = readSmf(exportSong(nudged, file).bytes);
  const at = (status: number, first: number, value?: number): number[] =>
    [...out.tracks[2]!.events]
      .filter((e) => e.status === status && out.bytes[e.start] === first && (value === undefined || out.bytes[e.start + 1] === value))
      .map((e) => e.tick);
  // 12.5 ms are 24 ticks of 960 a quarter at 120 BPM.
  expect(at(0xb9, 4, 70)).toEqual([117 * 8 + 24]);
  expect(at(0xd9, 55)).toEqual([118 * 8 + 24]);
  expect(at(0xb9, 4, 10)).toEqual([134 * 8]);
  expect(at(0xb9, 7)).toEqual([117 * 8]);
});

test('as written, at any allowed resolution, the song is the same song', () => {
  const { file, part } = song();
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200 }), (factor) => {
      const out = readSmf(exportSong(part, file, { written: true, ppq: 120 * factor }).bytes);
      expect(others(out, 1)).toEqual(others(file, factor));
      expect([...out.tracks[2]!.events].filter((e) => e.status === 0x99).map((e) => e.tick)).toEqual(drumNotes.map(([t]) => t * factor));
    }),
    { numRuns: 20 },
  );
  expect(() => exportSong(part, file, { ppq: 1000 })).toThrow('resolution');
});
